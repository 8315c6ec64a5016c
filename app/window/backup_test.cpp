// Backups in the real window.
#include <QSignalSpy>

#include "keeping/backup_dialog.h"
#include "wait_until.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class BackupInWindow : public Window {
protected:
    BackupInWindow() : folder_(library_.directory.string() + "-backup") {}
    ~BackupInWindow() override { fs::remove_all(folder_); }
    void back_up() {
        QSignalSpy done(&session_->backups(), &BackupDesk::backed_up);
        session_->backups().back_up_now();
        WAIT_UNTIL(done.count() == 1);
        session_->wait_idle();
    }
    Result<Snapshot> back_up_other(const TemporaryLibrary& other) { return fernleaf::back_up(*other.library, folder_); }
    QStringList titles() {
        QStringList out;
        for (const Notebook& n : *session_->library().notebooks()) out << QString::fromStdString(n.title);
        return out;
    }

    fs::path folder_;
};

TEST_F(BackupInWindow, WhatWasBinnedComesBackFromABackup) {
    const PageId page = start_with_page();
    take(Tool::pen);
    mouse_stroke({{20, 30}, {40, 35}});
    session_->backups().set_folder(QString::fromStdString(folder_.string()));
    ASSERT_NO_FATAL_FAILURE(back_up());
    window_->show_backups();
    auto* dialog = window_->findChild<BackupDialog*>();
    ASSERT_TRUE(dialog);
    WAIT_UNTIL(dialog->list()->count() == 1 && dialog->contents()->topLevelItemCount() == 1);
    EXPECT_FALSE(dialog->restore_button()->isEnabled()) << "nothing is chosen";
    QTreeWidgetItem* notebook = dialog->contents()->topLevelItem(0);
    EXPECT_EQ(notebook->text(0), "Grafting trials");
    ASSERT_EQ(notebook->childCount(), 1);
    notebook->setSelected(true);
    QSignalSpy restored(&session_->backups(), &BackupDesk::restored);
    dialog->restore_button()->click();
    WAIT_UNTIL(restored.count() == 1);
    WAIT_UNTIL(session_->page() && session_->page()->info.id != page);
    EXPECT_EQ(session_->page()->strokes.size(), 1U);
    EXPECT_EQ(titles().size(), 2);
    EXPECT_TRUE(titles()[1].startsWith("Grafting trials, as of ")) << titles()[1].toStdString();
}

TEST_F(BackupInWindow, APageIsRestoredIntoTheOpenNotebook) {
    const PageId page = start_with_page();
    session_->backups().set_folder(QString::fromStdString(folder_.string()));
    ASSERT_NO_FATAL_FAILURE(back_up());
    QString name;
    session_->backups().find_snapshots(
        [&](const std::vector<Snapshot>& all) { name = QString::fromStdString(all.at(0).name); });
    WAIT_UNTIL(!name.isEmpty());
    session_->backups().restore_pages(name, {page});
    WAIT_UNTIL(session_->document().pages_in_notebook() == 2);
}

TEST_F(BackupInWindow, ThoseOfAnotherLibraryInTheSameFolderAreNotItsOwn) {
    const TemporaryLibrary other;
    ASSERT_TRUE(back_up_other(other));
    start_with_page();
    session_->backups().set_folder(QString::fromStdString(folder_.string()));
    std::optional<size_t> found;
    session_->backups().find_snapshots([&](const std::vector<Snapshot>& all) { found = all.size(); });
    WAIT_UNTIL(found.has_value());
    EXPECT_EQ(*found, 0U) << "or none would be made by itself";
}

TEST_F(BackupInWindow, AFolderThatIsAwayIsTold) {
    start_with_page();
    session_->backups().set_folder("/proc/no such folder");
    QSignalSpy problem(&session_->messages(), &Messages::problem);
    session_->backups().back_up_now();
    WAIT_UNTIL(problem.count() == 1);
    EXPECT_TRUE(problem[0][0].toString().contains("Choose another folder"));
    window_->show_backups();
    auto* dialog = window_->findChild<BackupDialog*>();
    ASSERT_TRUE(dialog);
    session_->wait_idle();
    EXPECT_EQ(dialog->list()->count(), 0);
}

TEST_F(BackupInWindow, NoneIsMadeBeforeAFolderIsChosen) {
    start_with_page();
    EXPECT_TRUE(session_->backups().folder().isEmpty());
    session_->backups().back_up_now();
    session_->wait_idle();
    EXPECT_FALSE(session_->tasks().running());
}

}  // namespace
}  // namespace fernleaf
