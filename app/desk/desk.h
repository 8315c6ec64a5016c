// What the session's desks share: each is a kind of work, done with the same parts.
#pragma once

#include <QObject>
#include <functional>
#include <vector>

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

struct PageAndReading {
    Page page;
    Reading reading;
};

// How changing every page of a notebook ended.
struct NotebookChange {
    std::vector<PageId> changed;
    QString failure;  // empty: none
    bool cancelled = false;
};

class Desk : public QObject {
protected:
    // Changes the pages of the open notebook one after the other, each whole or not at all. edit_of: on the reader's
    // thread; an edit that adds nothing leaves a page as it is. done: on the UI thread.
    void change_notebook(const QString& label,
                         const std::function<Result<Edit>(PageId page, const CancelToken& cancel)>& edit_of,
                         const std::function<void(const NotebookChange&)>& done);
    // A page of the library read anew, and what was said of it kept; on the reader's thread.
    Result<PageAndReading> page_read_fresh(PageId id, const CancelToken& cancel);

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
