#include "desk/task_runner.h"

#include <QElapsedTimer>

#include "desk/text_of.h"

namespace fernleaf {
namespace {

constexpr int kProgressMs = 50;  // progress is told no more often

}  // namespace

TaskRunner::TaskRunner(Worker& worker, Messages& messages, QObject* parent)
    : QObject(parent), worker_(worker), messages_(messages) {}

void TaskRunner::run(const QString& label, Task task) { run_on(worker_, label, std::move(task)); }

void TaskRunner::run_on(Worker& worker, const QString& label, Task task) {
    if (running_) return messages_.tell_problem(tr("Another task is running. Wait for it or cancel it first."));
    running_ = true;
    cancel_ = {};
    emit changed(label, 0);
    worker.ask(
        this,
        [this, label, task = std::move(task), cancel = cancel_.token()]() -> Status {
            QElapsedTimer since;
            since.start();
            task(cancel, [&](double part) {
                if (since.elapsed() < kProgressMs) return;
                since.restart();
                QMetaObject::invokeMethod(
                    this, [this, label, part] { emit changed(label, part); }, Qt::QueuedConnection);
            });
            return Done{};
        },
        [this](const Status& done) {
            running_ = false;
            emit changed({}, 1);
            if (!done) messages_.tell_problem(done.error());
        });
}

void TaskRunner::cancel() {
    cancel_.cancel();
    emit cancelled();
}

void TaskRunner::show_quietly(const QString& label, double part) {
    if (!running_) emit changed(label, part);
}

}  // namespace fernleaf
