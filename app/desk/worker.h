// A job thread that answers on the UI thread.
//
//   disk.ask(this, [&] { return library.pages(notebook); }, [this](Result<std::vector<PageInfo>>& pages) { ... });
#pragma once

#include <QObject>
#include <functional>
#include <memory>
#include <utility>

#include "base/barrier.h"
#include "store/job_thread.h"

namespace fernleaf {

class Worker {
public:
    // failed: called on this thread with what a job threw that nobody waits for.
    explicit Worker(std::function<void(const Error&)> failed, JobThread::Haste haste = JobThread::Haste::usual)
        : thread_(std::move(failed), haste) {}

    void post(std::function<void()> job) { thread_.post(std::move(job)); }

    // job: gives a Result, on this thread; what it throws is the error in it. then: called with it on the asker's
    // thread. The asker must outlive the worker's jobs.
    template <typename Job, typename Then>
    void ask(QObject* asker, Job job, Then then) {
        thread_.post([asker, job = std::move(job), then = std::move(then)]() mutable {
            auto result = std::make_shared<decltype(job())>(guarded(job));
            QMetaObject::invokeMethod(
                asker, [then = std::move(then), result = std::move(result)]() mutable { then(*result); },
                Qt::QueuedConnection);
        });
    }

    void wait_idle() { thread_.wait_idle(); }

private:
    JobThread thread_;
};

}  // namespace fernleaf
