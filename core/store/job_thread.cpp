#include "store/job_thread.h"

#include <sys/resource.h>
#include <unistd.h>

#include "base/barrier.h"

namespace fernleaf {
namespace {

constexpr int kPatience = 10;  // of the 19 steps of niceness

}  // namespace

JobThread::~JobThread() {
    {
        const std::lock_guard lock(mutex_);
        stopping_ = true;
    }
    changed_.notify_all();
    thread_.join();
}

void JobThread::post(std::function<void()> job) {
    {
        const std::lock_guard lock(mutex_);
        jobs_.push_back(std::move(job));
    }
    changed_.notify_all();
}

void JobThread::wait_idle() {
    std::unique_lock lock(mutex_);
    changed_.wait(lock, [this] { return jobs_.empty() && !busy_; });
}

void JobThread::run(Haste haste) {
    // On Linux a thread has a priority of its own; where it can't be lowered, the work is done all the same.
    if (haste == Haste::patient) (void)setpriority(PRIO_PROCESS, static_cast<id_t>(gettid()), kPatience);
    std::unique_lock lock(mutex_);
    for (;;) {
        changed_.wait(lock, [this] { return stopping_ || !jobs_.empty(); });
        if (jobs_.empty()) return;
        const std::function<void()> job = std::move(jobs_.front());
        jobs_.pop_front();
        busy_ = true;
        lock.unlock();
        try {
            job();
        } catch (...) {
            if (failed_) failed_(caught_error());
        }
        lock.lock();
        busy_ = false;
        changed_.notify_all();
    }
}

}  // namespace fernleaf
