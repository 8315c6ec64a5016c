// Backups: where they go, when the last was made, and bringing things back. UI thread only.
#pragma once

#include <QDialog>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QTreeWidget>

#include "desk/session.h"

namespace fernleaf {

class BackupDialog : public QDialog {
    Q_OBJECT

public:
    explicit BackupDialog(Session& session, QWidget* parent = nullptr);

    QListWidget* list() const { return list_; }
    QTreeWidget* contents() const { return contents_; }
    QPushButton* now_button() const { return now_; }
    QPushButton* restore_button() const { return restore_; }

private:
    void refresh();
    void show_snapshots(const std::vector<Snapshot>& snapshots);
    void look_into();
    void show_contents(const std::vector<SnapshotNotebook>& notebooks);
    void choose_folder();
    void restore();
    void restore_everything();

    Session& session_;
    QLabel *where_, *last_, *empty_;
    QPushButton *choose_, *stop_, *now_, *restore_, *everything_;
    QWidget* both_;  // the list and what is in the chosen one
    QListWidget* list_;
    QTreeWidget* contents_;
    QString shown_;  // the snapshot whose contents are shown, or asked for
};

}  // namespace fernleaf
