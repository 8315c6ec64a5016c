// Asks for a formula to put on the page in type: LaTeX or a plain form, shown as it will be set. UI thread only.
#pragma once

#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

namespace fernleaf {

class FormulaDialog : public QDialog {
    Q_OBJECT

public:
    // decimal_comma: whether 3,5 is a number.
    explicit FormulaDialog(bool decimal_comma, QWidget* parent = nullptr);
    std::string latex() const;

private:
    void look_at_typed();

    bool decimal_comma_;
    QLineEdit* field_;
    QLabel *picture_, *wrong_;
    QPushButton* insert_;
};

}  // namespace fernleaf
