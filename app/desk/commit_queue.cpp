#include "desk/commit_queue.h"

#include "desk/text_of.h"

namespace fernleaf {
namespace {

constexpr int kRetryMs = 3000;  // to save what did not fit on the disk

}  // namespace

CommitQueue::CommitQueue(Library& library, Worker& disk, QObject* parent)
    : QObject(parent), library_(library), disk_(disk) {
    retry_timer_.setSingleShot(true);
    retry_timer_.setInterval(kRetryMs);
    connect(&retry_timer_, &QTimer::timeout, this, &CommitQueue::try_again);
}

void CommitQueue::push(PageId page, Edit edit) {
    if (waiting_.empty())
        save(page, std::move(edit));
    else
        waiting_.push_back({page, std::move(edit)});
}

void CommitQueue::retry_later() {
    if (waiting_.empty()) retry_timer_.start();
}

void CommitQueue::save(PageId page, Edit edit) {
    disk_.post([this, page, edit = std::move(edit)]() mutable {
        auto done = std::make_shared<Saved>(Saved{std::move(edit)});
        done->status = commits_blocked_ ? Status(Error{"The change before it is not saved yet.", true})
                                        : guarded([&] { return library_.commit(page, done->edit, &done->renewed); });
        commits_blocked_ = !done->status && done->status.error().passing;
        QMetaObject::invokeMethod(
            this, [this, page, done = std::move(done)] { saved(page, *done); }, Qt::QueuedConnection);
    });
}

void CommitQueue::saved(PageId page, const Saved& done) {
    const auto& [edit, status, has_other_ids] = done;
    if (!status && !status.error().passing) return emit refused(page, edit, status.error());
    if (!status) {
        if (waiting_.empty())
            emit waits(tr("The last changes are not saved yet. %1 They stay on the page and will be saved as soon as "
                          "possible.")
                           .arg(text_of(status.error())));
        // Those that were on their way to the disk come back one by one, in order.
        waiting_.push_back({page, edit});
        retry_timer_.start();
        return;
    }
    if (has_other_ids) emit renewed(page);
    if (edit.overflow) emit overflowed(page, *edit.overflow);
}

void CommitQueue::try_again() {
    if (waiting_.empty()) return emit retried();
    disk_.post([this, first = waiting_.front(), last = waiting_.size() == 1]() mutable {
        auto done = std::make_shared<Saved>(Saved{std::move(first.edit)});
        done->status = guarded([&] { return library_.commit(first.page, done->edit, &done->renewed); });
        const bool over = done->status || !done->status.error().passing;
        if (over && last) commits_blocked_ = false;
        QMetaObject::invokeMethod(
            this,
            [this, page = first.page, done = std::move(done), over] {
                if (!over) return retry_timer_.start();
                waiting_.pop_front();
                saved(page, *done);
                if (!waiting_.empty()) return try_again();
                emit waits({});
                if (done->status) emit all_saved();
                emit retried();
            },
            Qt::QueuedConnection);
    });
}

}  // namespace fernleaf
