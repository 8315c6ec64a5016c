// How to scan: from which scanner, how fine, in colours or grey, from the glass or the feeder. UI thread only.
#pragma once

#include <QComboBox>
#include <QDialog>
#include <QLabel>

#include "desk/intake_desk.h"

namespace fernleaf {

class ScanDialog : public QDialog {
    Q_OBJECT

public:
    explicit ScanDialog(IntakeDesk& desk, QWidget* parent = nullptr);
    ScanWish wish() const;

private:
    void look();
    void take(const std::vector<ScannerInfo>& found);
    void update_button();

    IntakeDesk& desk_;
    QComboBox *device_, *dpi_, *colour_, *source_;
    QLabel* says_;
    QPushButton *again_, *scan_;
};

}  // namespace fernleaf
