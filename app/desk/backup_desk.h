// Backups of the library: made by themselves once a day into a folder of the person's choice, and the way back.
#pragma once

#include <QTimer>
#include <functional>
#include <memory>
#include <vector>

#include "desk/desk.h"
#include "store/backup.h"

namespace fernleaf {

// What is in a snapshot.
struct SnapshotNotebook {
    Notebook notebook;
    std::vector<PageSummary> pages;
};

// UI thread only.
class BackupDesk : public Desk {
    Q_OBJECT

public:
    explicit BackupDesk(const DeskParts& parts, QObject* parent = nullptr);

    // Where backups go; empty: none are made. Of this library on this computer.
    QString folder() const;
    void set_folder(const QString& folder);
    void watch();  // from now on one is made whenever the last is a day old
    void back_up_now();

    void find_snapshots(std::function<void(const std::vector<Snapshot>&)> then);
    void look_into(const QString& snapshot, std::function<void(const std::vector<SnapshotNotebook>&)> then);
    // Beside what there is: a notebook as a new one; pages at the end of the open notebook.
    void restore_notebook(const QString& snapshot, NotebookId notebook, const QString& title);
    void restore_pages(const QString& snapshot, const std::vector<PageId>& pages);
    // Everything, into a folder that is empty or new.
    void restore_all(const QString& snapshot, const QString& into);

signals:
    void backed_up();
    void restored(const std::vector<PageId>& pages);

private:
    void run_daily();
    void run(bool by_itself);

    QTimer timer_;
};

}  // namespace fernleaf
