// What comes from files and the clipboard, and what goes there.
#pragma once

#include <QByteArray>
#include <QObject>
#include <QStringList>
#include <optional>
#include <string>
#include <vector>

#include "desk/messages.h"
#include "desk/page_editing.h"
#include "desk/reading_scheduler.h"
#include "desk/task_runner.h"
#include "desk/worker.h"

namespace fernleaf {

// UI thread only.
class Transfers : public QObject {
    Q_OBJECT

public:
    Transfers(Library& library, Worker& disk, Worker& tasks_thread, PageDocument& document, PageEditing& editing,
              ReadingScheduler& readings, TaskRunner& tasks, Messages& messages, QObject* parent = nullptr);

    void import_files(const QStringList& paths, std::optional<NotebookId> into);
    void export_pages(const std::vector<PageId>& pages, const QString& path);
    void export_notebook(const QString& path);
    void save_file(const QString& path, const std::string& bytes);
    // Puts ink (InkML) and other elements (encode_elements) onto the open page with their middle at a place in mm.
    void paste(const QByteArray& inkml, const QByteArray& elements, Point middle);

signals:
    void imported(PageId first);

private:
    Library& library_;
    Worker &disk_, &tasks_thread_;
    PageDocument& document_;
    PageEditing& editing_;
    ReadingScheduler& readings_;
    TaskRunner& tasks_;
    Messages& messages_;
};

}  // namespace fernleaf
