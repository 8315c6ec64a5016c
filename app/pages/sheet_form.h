// A sheet of paper to be chosen: kind, size, spacing, colour. UI thread only.
#pragma once

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QPushButton>

#include "document/page.h"

namespace fernleaf {

// What new notebooks get unless another is chosen; kept in the user's settings.
Sheet usual_sheet();
void keep_usual_sheet(const Sheet& sheet);

class SheetForm : public QObject {
    Q_OBJECT

public:
    // Adds its rows to a form. A picture can be chosen only where the form is told how to keep it.
    SheetForm(QFormLayout& form, const Sheet& sheet, QWidget* parent);
    Sheet sheet() const;
    void offer_picture();  // as a kind of paper
    void set_picture(const std::string& file);

signals:
    void changed();
    void picture_wanted();

private:
    void update_rows();

    QFormLayout& form_;
    Sheet sheet_;
    QComboBox *paper_, *size_, *colour_;
    QWidget *custom_, *spacing_row_;
    QDoubleSpinBox *width_, *height_, *spacing_;
    QCheckBox *across_, *endless_;
};

}  // namespace fernleaf
