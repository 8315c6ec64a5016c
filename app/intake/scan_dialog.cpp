#include "intake/scan_dialog.h"

#include <QFormLayout>
#include <QLineEdit>
#include <QSettings>
#include <QVBoxLayout>

#include "look/dialog_parts.h"

namespace fernleaf {
namespace {

constexpr int kRowPx = 32;
constexpr char kDevice[] = "scan/device", kDpi[] = "scan/dpi", kGrey[] = "scan/grey", kFeeder[] = "scan/feeder";

}  // namespace

ScanDialog::ScanDialog(IntakeDesk& desk, QWidget* parent) : QDialog(parent), desk_(desk) {
    setWindowTitle(tr("Scan"));
    setMinimumWidth(430);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 18);
    column->setSpacing(12);
    column->addWidget(dialog_heading(tr("Scan into the tray")));
    auto* form = new QFormLayout;
    form->setSpacing(10);
    device_ = new QComboBox;
    device_->setEditable(true);
    device_->setInsertPolicy(QComboBox::NoInsert);
    device_->lineEdit()->setPlaceholderText(tr("Choose one, or type its SANE name"));
    device_->setAccessibleName(tr("Scanner"));
    dpi_ = new QComboBox;
    for (const int dpi : {150, 200, 300, 400, 600}) dpi_->addItem(tr("%1 dots an inch").arg(dpi), dpi);
    dpi_->setAccessibleName(tr("How fine"));
    colour_ = new QComboBox;
    colour_->addItem(tr("In colours"), false);
    colour_->addItem(tr("Grey"), true);
    colour_->setAccessibleName(tr("Colours"));
    source_ = new QComboBox;
    source_->addItem(tr("The sheet on the glass"), false);
    source_->addItem(tr("All sheets in the feeder"), true);
    source_->setAccessibleName(tr("From where"));
    for (QComboBox* box : {device_, dpi_, colour_, source_}) box->setMinimumHeight(kRowPx);
    form->addRow(tr("Scanner"), device_);
    form->addRow(tr("How fine"), dpi_);
    form->addRow(tr("Colours"), colour_);
    form->addRow(tr("From where"), source_);
    column->addLayout(form);
    says_ = remark({});
    column->addWidget(says_);
    auto* foot = new QHBoxLayout;
    again_ = new QPushButton(tr("Look again"));
    auto* cancel = new QPushButton(tr("Cancel"));
    for (QPushButton* b : {again_, cancel}) {
        b->setProperty("secondary", true);
        b->setAutoDefault(false);
    }
    scan_ = new QPushButton(tr("Scan"));
    scan_->setProperty("primary", true);
    scan_->setDefault(true);
    foot->addWidget(again_);
    foot->addStretch();
    foot->addWidget(cancel);
    foot->addWidget(scan_);
    column->addLayout(foot);

    const QSettings kept;
    dpi_->setCurrentIndex(std::max(0, dpi_->findData(kept.value(kDpi, 300))));
    colour_->setCurrentIndex(kept.value(kGrey, false).toBool() ? 1 : 0);
    source_->setCurrentIndex(kept.value(kFeeder, false).toBool() ? 1 : 0);
    device_->setEditText(kept.value(kDevice).toString());
    connect(device_, &QComboBox::editTextChanged, this, &ScanDialog::update_button);
    connect(again_, &QPushButton::clicked, this, &ScanDialog::look);
    connect(cancel, &QPushButton::clicked, this, &QDialog::reject);
    connect(&desk_, &IntakeDesk::scanners_found, this, &ScanDialog::take);
    connect(scan_, &QPushButton::clicked, this, [this] {
        QSettings keep;
        keep.setValue(kDevice, QString::fromStdString(wish().device));
        keep.setValue(kDpi, dpi_->currentData());
        keep.setValue(kGrey, colour_->currentData());
        keep.setValue(kFeeder, source_->currentData());
        accept();
    });
    look();
    update_button();
}

void ScanDialog::look() {
    says_->setText(tr("Looking for scanners …"));
    again_->setEnabled(false);
    desk_.find_scanners();
}

void ScanDialog::take(const std::vector<ScannerInfo>& found) {
    const QString before = device_->currentText();
    const std::string kept = wish().device;
    device_->clear();
    for (const ScannerInfo& s : found)
        device_->addItem(QString::fromStdString(s.name), QString::fromStdString(s.device));
    const int at = device_->findData(QString::fromStdString(kept));
    if (at >= 0 || (before.isEmpty() && !found.empty()))
        device_->setCurrentIndex(std::max(0, at));
    else
        device_->setEditText(before);
    again_->setEnabled(true);
    says_->setText(found.empty() ? tr("No scanner was found. Connect one, switch it on, and look again.") : QString());
    update_button();
}

ScanWish ScanDialog::wish() const {
    const int at = device_->findText(device_->currentText());
    const QString device = at >= 0 ? device_->itemData(at).toString() : device_->currentText().trimmed();
    return {device.toStdString(),
            dpi_->currentData().toInt(),
            !colour_->currentData().toBool(),
            source_->currentData().toBool(),
            {}};
}

void ScanDialog::update_button() { scan_->setEnabled(!wish().device.empty()); }

}  // namespace fernleaf
