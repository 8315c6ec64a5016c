#include "pages/bin_dialog.h"

#include <QDateTime>
#include <QHBoxLayout>
#include <QLocale>
#include <QMessageBox>
#include <QVBoxLayout>

#include "look/dialog_parts.h"
#include "look/theme.h"

namespace fernleaf {

BinDialog::BinDialog(Session& session, QWidget* parent) : QDialog(parent), session_(session) {
    setWindowTitle(tr("Bin"));
    resize(560, 460);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 18);
    column->setSpacing(12);
    column->addWidget(dialog_heading(tr("The bin")));
    column->addWidget(remark(tr("Deleted pages, notebooks and voice tracks. Searches skip them.")));
    list_ = new QListWidget;
    list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    list_->setAccessibleName(tr("Things in the bin"));
    column->addWidget(list_, 1);
    empty_ = remark(tr("The bin is empty."));
    empty_->setAlignment(Qt::AlignCenter);
    column->addWidget(empty_, 1);
    auto* keep = new QHBoxLayout;
    keep->addWidget(new QLabel(tr("Delete for good")));
    keep_ = new QComboBox;
    keep_->setAccessibleName(tr("When things in the bin are deleted for good"));
    keep_->addItem(tr("when I empty the bin"), 0);
    for (const int days : {30, 90}) keep_->addItem(tr("after %n day(s)", nullptr, days), days);
    keep_->addItem(tr("after a year"), 365);
    keep_->setCurrentIndex(std::max(0, keep_->findData(LibraryModel::bin_days())));
    keep_->setEnabled(!session_.read_only());
    connect(keep_, &QComboBox::activated, this,
            [this] { session_.model().set_bin_days(keep_->currentData().toInt()); });
    keep->addWidget(keep_);
    keep->addStretch();
    column->addLayout(keep);
    auto* buttons = new QHBoxLayout;
    clear_ = new QPushButton(tr("Empty the bin …"));
    clear_->setProperty("secondary", true);
    restore_ = new QPushButton(tr("Bring back"));
    restore_->setProperty("primary", true);
    restore_->setDefault(true);
    auto* close = new QPushButton(tr("Close"));
    close->setProperty("secondary", true);
    buttons->addWidget(clear_);
    buttons->addStretch();
    buttons->addWidget(close);
    buttons->addWidget(restore_);
    column->addLayout(buttons);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    connect(restore_, &QPushButton::clicked, this, [this] { session_.model().restore(chosen()); });
    connect(list_, &QListWidget::itemActivated, this, [this] { session_.model().restore(chosen()); });
    connect(list_, &QListWidget::itemSelectionChanged, this,
            [this] { restore_->setEnabled(!list_->selectedItems().isEmpty() && !session_.read_only()); });
    connect(clear_, &QPushButton::clicked, this, [this] {
        QMessageBox ask(QMessageBox::Warning, tr("Empty the bin"),
                        tr("%n item(s) will be gone for good, ink and pictures included.", nullptr,
                           static_cast<int>(things_.size())),
                        QMessageBox::NoButton, this);
        auto* yes = ask.addButton(tr("Empty the bin"), QMessageBox::DestructiveRole);
        ask.setDefaultButton(ask.addButton(tr("Keep them"), QMessageBox::RejectRole));
        ask.exec();
        if (ask.clickedButton() == yes) session_.model().empty_bin();
    });
    connect(&session_.model(), &LibraryModel::bin_seen, this, &BinDialog::show_things);
    show_things({});
    session_.model().look_into_bin();
}

void BinDialog::show_things(const std::vector<Binned>& things) {
    things_ = things;
    list_->clear();
    for (const Binned& thing : things) {
        const QString title = QString::fromStdString(thing.title);
        const QString when = QLocale().toString(QDateTime::fromMSecsSinceEpoch(thing.when_ms), QLocale::ShortFormat);
        const QString first = QString::fromStdString(thing.first_line);
        const QString name = thing.track != 0 ? tr("Voice track “%1”").arg(title)
                             : thing.page == 0
                                 ? tr("Notebook “%1”, %n page(s)", nullptr, static_cast<int>(thing.pages)).arg(title)
                             : first.isEmpty() ? tr("Page %1 of “%2”").arg(thing.number).arg(title)
                                               : tr("Page %1 of “%2”: %3").arg(thing.number).arg(title, first);
        list_->addItem(tr("%1\ndeleted %2").arg(name, when));
    }
    list_->setVisible(!things.empty());
    empty_->setVisible(things.empty());
    clear_->setEnabled(!things.empty() && !session_.read_only());
    if (!things.empty()) list_->setCurrentRow(0);
    restore_->setEnabled(!things.empty() && !session_.read_only());
}

std::vector<Binned> BinDialog::chosen() const {
    std::vector<Binned> out;
    for (int i = 0; i < list_->count(); ++i)
        if (list_->item(i)->isSelected()) out.push_back(things_[static_cast<size_t>(i)]);
    return out;
}

}  // namespace fernleaf
