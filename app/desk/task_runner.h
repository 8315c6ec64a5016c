// Imports, exports and other work that takes a while: one at a time, with progress, and cancelled on request.
#pragma once

#include <QObject>
#include <QString>
#include <functional>

#include "base/cancel.h"
#include "desk/messages.h"
#include "desk/worker.h"

namespace fernleaf {

// UI thread only.
class TaskRunner : public QObject {
    Q_OBJECT

public:
    using Task = std::function<void(const CancelToken& cancel, const Progress& progress)>;

    TaskRunner(Worker& worker, Messages& messages, QObject* parent = nullptr);

    // On the worker for tasks, or on another. One that is under way is not disturbed: the person is told.
    void run(const QString& label, Task task);
    void run_on(Worker& worker, const QString& label, Task task);
    bool running() const { return running_; }
    void cancel();

    // Progress of work that is no task (reading in the background, learning); not shown while a task is under way. An
    // empty label: it is over.
    void show_quietly(const QString& label, double part);

signals:
    void changed(const QString& label, double part);  // an empty label: nothing under way
    void cancelled();                                 // by the person

private:
    Worker& worker_;
    Messages& messages_;
    bool running_ = false;
    CancelSource cancel_;
};

}  // namespace fernleaf
