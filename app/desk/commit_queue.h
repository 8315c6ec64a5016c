// Edits on their way to the disk, in order. What finds no room waits and is tried again; what can never be kept is
// told.
#pragma once

#include <QObject>
#include <QTimer>
#include <deque>

#include "desk/worker.h"
#include "store/library.h"

namespace fernleaf {

// UI thread only, but for what runs on the disk's.
class CommitQueue : public QObject {
    Q_OBJECT

public:
    struct Waiting {
        PageId page = 0;
        Edit edit;
    };

    CommitQueue(Library& library, Worker& disk, QObject* parent = nullptr);

    // What waits for room goes first.
    void push(PageId page, Edit edit);
    bool has_unsaved() const { return !waiting_.empty(); }
    const std::deque<Waiting>& waiting() const { return waiting_; }
    // Something else could not be saved for want of room: retried() tells when it can be tried again.
    void retry_later();

signals:
    // Changes wait for room on the disk, for the reason given; empty: no more.
    void waits(const QString& why);
    void all_saved();
    void retried();
    // It can never be kept.
    void refused(PageId page, const Edit& edit, const Error& why);
    // Elements have other ids on disk than on the page in memory.
    void renewed(PageId page);
    void overflowed(PageId from, const PageOverflow& overflow);

private:
    struct Saved {
        Edit edit;
        Status status{Done{}};
        bool renewed = false;
    };
    void save(PageId page, Edit edit);
    void saved(PageId page, const Saved& done);
    void try_again();

    Library& library_;
    Worker& disk_;
    std::deque<Waiting> waiting_;
    bool commits_blocked_ = false;  // used on the disk's thread: nothing overtakes a change that could not be saved
    QTimer retry_timer_;
};

}  // namespace fernleaf
