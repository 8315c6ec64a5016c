#include "keeping/backup_dialog.h"

#include <QDateTime>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLocale>
#include <QMessageBox>
#include <QPointer>
#include <QVBoxLayout>

#include "look/dialog_parts.h"

namespace fernleaf {
namespace {

constexpr int kListPx = 210;
enum BackupRole { snapshot_name = Qt::UserRole, notebook_id, page_id };

QString when(int64_t ms) {
    const QLocale locale;
    const QDateTime at = QDateTime::fromMSecsSinceEpoch(ms);
    // Without seconds, which some languages' short form has.
    const QString time = locale.timeFormat(QLocale::ShortFormat).remove(QStringLiteral(":ss"));
    return locale.toString(at.date(), QLocale::ShortFormat) + ' ' + locale.toString(at.time(), time);
}

QPushButton* plain_button(const QString& text) {
    auto* out = new QPushButton(text);
    out->setProperty("secondary", true);
    out->setAutoDefault(false);
    return out;
}

}  // namespace

BackupDialog::BackupDialog(Session& session, QWidget* parent) : QDialog(parent), session_(session) {
    setWindowTitle(tr("Backup"));
    resize(720, 520);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 16);
    column->setSpacing(12);
    column->addWidget(dialog_heading(tr("Backup")));
    auto* row = new QHBoxLayout;
    auto* says = new QVBoxLayout;
    says->setSpacing(2);
    where_ = new QLabel;
    where_->setWordWrap(true);
    last_ = remark({});
    says->addWidget(where_);
    says->addWidget(last_);
    row->addLayout(says, 1);
    choose_ = plain_button(tr("Choose folder …"));
    stop_ = plain_button(tr("Turn off"));
    stop_->setToolTip(tr("Make no more backups; existing ones are kept"));
    now_ = plain_button(tr("Back up now"));
    for (QPushButton* b : {stop_, choose_, now_}) row->addWidget(b);
    column->addLayout(row);
    both_ = new QWidget;
    auto* both = new QHBoxLayout(both_);
    both->setContentsMargins(0, 0, 0, 0);
    list_ = new QListWidget;
    list_->setFixedWidth(kListPx);
    list_->setAccessibleName(tr("Backups"));
    contents_ = new QTreeWidget;
    contents_->setHeaderHidden(true);
    contents_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    contents_->setAccessibleName(tr("What is in this backup"));
    both->addWidget(list_);
    both->addWidget(contents_, 1);
    column->addWidget(both_, 1);
    empty_ = remark(
        tr("Once a day, everything is copied into a folder you choose, ideally on another drive. Copies are kept for 7 "
           "days, one a week for 4 weeks, and one a month for a year. Pages, notebooks or everything can be restored "
           "from any of them."));
    empty_->setAlignment(Qt::AlignTop);
    column->addWidget(empty_, 1);
    auto* foot = new QHBoxLayout;
    everything_ = plain_button(tr("Restore everything …"));
    foot->addWidget(everything_);
    foot->addStretch();
    auto* close = plain_button(tr("Close"));
    foot->addWidget(close);
    restore_ = new QPushButton(tr("Restore"));
    restore_->setProperty("primary", true);
    restore_->setAutoDefault(false);
    restore_->setToolTip(tr("Restore the selection as a copy; nothing is replaced"));
    foot->addWidget(restore_);
    column->addLayout(foot);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    connect(choose_, &QPushButton::clicked, this, &BackupDialog::choose_folder);
    connect(stop_, &QPushButton::clicked, this, [this] {
        session_.backups().set_folder({});
        refresh();
    });
    connect(now_, &QPushButton::clicked, this, [this] { session_.backups().back_up_now(); });
    connect(list_, &QListWidget::currentRowChanged, this, &BackupDialog::look_into);
    connect(contents_, &QTreeWidget::itemSelectionChanged, this,
            [this] { restore_->setEnabled(!contents_->selectedItems().isEmpty() && !session_.read_only()); });
    connect(restore_, &QPushButton::clicked, this, &BackupDialog::restore);
    connect(everything_, &QPushButton::clicked, this, &BackupDialog::restore_everything);
    connect(&session_.backups(), &BackupDesk::backed_up, this, &BackupDialog::refresh);
    refresh();
}

void BackupDialog::refresh() {
    const QString folder = session_.backups().folder();
    where_->setText(folder.isEmpty() ? tr("No backup yet.") : tr("Into %1, once a day").arg(folder));
    stop_->setVisible(!folder.isEmpty());
    now_->setVisible(!folder.isEmpty());
    last_->setVisible(!folder.isEmpty());
    show_snapshots({});
    if (folder.isEmpty()) return;
    session_.backups().find_snapshots([self = QPointer<BackupDialog>(this)](const std::vector<Snapshot>& snapshots) {
        if (self) self->show_snapshots(snapshots);
    });
}

void BackupDialog::show_snapshots(const std::vector<Snapshot>& snapshots) {
    list_->clear();
    shown_.clear();
    contents_->clear();
    for (const Snapshot& s : snapshots) {
        auto* item = new QListWidgetItem(
            tr("%1\n%2", "when and how large")
                .arg(when(s.made_ms),
                     QLocale().formattedDataSize(static_cast<qint64>(s.bytes), 1, QLocale::DataSizeTraditionalFormat)));
        item->setData(snapshot_name, QString::fromStdString(s.name));
        list_->addItem(item);
    }
    const bool any = !snapshots.empty();
    last_->setText(any ? tr("Last backup: %1").arg(when(snapshots.front().made_ms)) : tr("No backup yet."));
    both_->setVisible(any);
    empty_->setVisible(!any);
    everything_->setVisible(any);
    restore_->setVisible(any);
    restore_->setEnabled(false);
    if (any) list_->setCurrentRow(0);
}

void BackupDialog::look_into() {
    const QListWidgetItem* item = list_->currentItem();
    if (!item) return;
    shown_ = item->data(snapshot_name).toString();
    contents_->clear();
    session_.backups().look_into(
        shown_, [self = QPointer<BackupDialog>(this), name = shown_](const std::vector<SnapshotNotebook>& notebooks) {
            if (self && self->shown_ == name) self->show_contents(notebooks);
        });
}

void BackupDialog::show_contents(const std::vector<SnapshotNotebook>& notebooks) {
    contents_->clear();
    for (const SnapshotNotebook& n : notebooks) {
        auto* notebook = new QTreeWidgetItem(contents_, {QString::fromStdString(n.notebook.title)});
        notebook->setIcon(0, icon(QStringLiteral("notebook")));
        notebook->setData(0, notebook_id, QVariant::fromValue<qlonglong>(n.notebook.id));
        for (const PageSummary& page : n.pages) {
            const std::string& title = page.info.title.empty() ? page.first_line : page.info.title;
            auto* row = new QTreeWidgetItem(
                notebook, {title.empty() ? tr("Page %1").arg(page.info.number)
                                         : tr("Page %1: %2").arg(page.info.number).arg(QString::fromStdString(title))});
            row->setData(0, page_id, QVariant::fromValue<qlonglong>(page.info.id));
        }
    }
}

void BackupDialog::choose_folder() {
    const QString before = session_.backups().folder();
    const QString folder = QFileDialog::getExistingDirectory(this, tr("Folder for backups"), before);
    if (folder.isEmpty()) return;
    session_.backups().set_folder(folder);
    refresh();
    session_.backups().back_up_now();
}

void BackupDialog::restore() {
    std::vector<PageId> pages;
    QList<QTreeWidgetItem*> notebooks;
    for (QTreeWidgetItem* item : contents_->selectedItems()) {
        if (!item->parent())
            notebooks << item;
        else if (!item->parent()->isSelected())
            pages.push_back(item->data(0, page_id).toLongLong());
    }
    const QListWidgetItem* snapshot = list_->currentItem();
    if (!snapshot) return;
    const QString date = snapshot->text().section('\n', 0, 0);
    for (const QTreeWidgetItem* notebook : notebooks)
        session_.backups().restore_notebook(shown_, notebook->data(0, notebook_id).toLongLong(),
                                            tr("%1, as of %2").arg(notebook->text(0), date));
    if (!pages.empty()) session_.backups().restore_pages(shown_, pages);
    accept();
}

void BackupDialog::restore_everything() {
    const QString folder =
        QFileDialog::getExistingDirectory(this, tr("Empty folder to restore the library into"), QString());
    if (folder.isEmpty()) return;
    session_.backups().restore_all(shown_, folder);
    accept();
}

}  // namespace fernleaf
