// What the session's desks share: each is a kind of work, done with the same parts.
#pragma once

#include <QObject>

#include "desk/messages.h"
#include "desk/page_editing.h"
#include "desk/reading_scheduler.h"
#include "desk/task_runner.h"
#include "desk/worker.h"

namespace fernleaf {

// The session's parts; they outlive the desks.
struct DeskParts {
    Library& library;
    Worker &disk, &reader_thread, &tasks_thread;
    PageDocument& document;
    PageEditing& editing;
    ReadingScheduler& readings;
    TaskRunner& tasks;
    Messages& messages;
};

class Desk : public QObject {
protected:
    explicit Desk(const DeskParts& parts, QObject* parent = nullptr)
        : QObject(parent),
          library_(parts.library),
          disk_(parts.disk),
          reader_thread_(parts.reader_thread),
          tasks_thread_(parts.tasks_thread),
          document_(parts.document),
          editing_(parts.editing),
          readings_(parts.readings),
          tasks_(parts.tasks),
          messages_(parts.messages) {}

    Library& library_;
    Worker &disk_, &reader_thread_, &tasks_thread_;
    PageDocument& document_;
    PageEditing& editing_;
    ReadingScheduler& readings_;
    TaskRunner& tasks_;
    Messages& messages_;
};

}  // namespace fernleaf
