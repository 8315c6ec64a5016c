// What is done at the intake tray: photographs and scans are brought in, looked at, changed, and filed as pages.
//
// What a person says is shown at once and kept by a thread that does nothing else, so that it reaches the disk in
// milliseconds. Files are taken in and looked at by a second thread, in order; the entry that is shown is worked out by
// a third, so that a batch of a hundred does not keep it waiting; scanners are heard on a fourth.
#pragma once

#include <QFileSystemWatcher>
#include <QImage>
#include <QObject>
#include <QStringList>
#include <QTimer>
#include <atomic>
#include <map>
#include <memory>
#include <optional>

#include "base/cancel.h"
#include "desk/desk.h"
#include "desk/intake_pictures.h"
#include "desk/watched_folder.h"
#include "exchange/scanner.h"
#include "paper/find_upright.h"
#include "store/library.h"

namespace fernleaf {

// UI thread only, but for what is said to run elsewhere. What goes wrong is told as a problem.
class IntakeDesk : public Desk {
    Q_OBJECT

public:
    explicit IntakeDesk(const DeskParts& parts, QObject* parent = nullptr);
    ~IntakeDesk() override;  // what was brought in is looked at when the tray is opened again

    const std::vector<IntakeEntry>& entries() const { return entries_; }
    const IntakeEntry* entry(IntakeId id) const;
    // A small picture of the page it becomes; null before it was looked at.
    QImage thumbnail(IntakeId id) const;

    // Who tells which way up sheets are; called on the looking thread, and may take a while.
    void tell_upright_by(FindUpright find) { upright_ = std::move(find); }

    void refresh();  // reads the tray, and looks at what has not been looked at
    // The same, and makes the thumbnails that are missing: for when the tray is shown.
    void open();
    void bring(const QStringList& paths);
    void bring(const QImage& image, const QString& name);
    // Asks for scanners; scanners_found() answers, after seconds perhaps.
    void find_scanners();
    // Sheets come into the tray one by one.
    void scan(const ScanWish& wish);
    // A folder whose new pictures come into the tray, as a telephone's; empty: none. Outlasts the program.
    void watch(const QString& folder);
    QString watched() const { return watched_; }
    // Changes one entry; its page and its faults are worked out anew. One step of undo.
    void change(const IntakeEntry& entry);
    // How all the others look, too; their outlines stay theirs. One step of undo.
    void look_like(IntakeId model);
    // Makes one sheet of entries that are parts of one picture. One step of undo.
    void merge(const std::vector<IntakeId>& ids);
    bool may_merge(const std::vector<IntakeId>& ids) const;
    void find_again(IntakeId id);
    void rename(IntakeId id, const QString& name);
    void move(IntakeId id, int by);
    void discard(const std::vector<IntakeId>& ids);
    void undo();
    bool can_undo() const { return !undo_.empty(); }
    void file(const std::vector<IntakeId>& ids, NotebookId notebook, Filing filing = Filing::apart);
    // Works out what is to be shown of an entry; shown() brings it.
    void show(IntakeId id);
    void cancel();  // what was brought but not looked at yet waits

    void wait_idle();  // for tests

signals:
    void changed();
    void scanners_found(const std::vector<ScannerInfo>& scanners);
    void shown(const ShownEntry& entry);
    void filed(const std::vector<PageId>& pages);
    void progress(const QString& label, double part);  // an empty label: nothing under way

private:
    std::function<void(const Error&)> thread_failure();
    void look_at(const std::vector<IntakeEntry>& entries, bool thumbnails, const CancelToken& cancel);
    void settle(const IntakeEntry& entry);
    qsizetype take_in(const QStringList& paths, const CancelToken& cancel);
    void look_into_watched();
    CancelToken cancel_token();
    void tell_tray(const Status& status, std::map<IntakeId, QImage> thumbnails);
    void remember(std::vector<IntakeEntry> before);
    void read_tray(bool thumbnails);
    void take(std::vector<IntakeEntry> entries, const std::map<IntakeId, QImage>& thumbnails);
    void keep(std::vector<IntakeEntry> entries);
    void keep_by(std::function<Status()> job);
    void tell_progress(const QString& label, double part);

    std::vector<IntakeEntry> entries_;
    std::map<IntakeId, IntakeEntry> unkept_;  // changed, and not on disk yet
    std::map<IntakeId, QImage> thumbnails_;
    std::vector<std::vector<IntakeEntry>> undo_;  // entries as they were before each step
    IntakeId wanted_ = 0;
    std::atomic<int> newest_show_ = 0;
    FindUpright upright_;
    CancelSource cancel_, scan_cancel_;
    QFileSystemWatcher watcher_;
    QTimer settle_;
    QString watched_ = WatchedFolder::chosen();
    WatchedFolder folder_;  // used on the keeping thread only

    Photograph photograph_;  // of the entry shown; used on the showing thread only
    std::unique_ptr<Worker> keeping_, looking_, showing_, scanning_;
};

}  // namespace fernleaf
