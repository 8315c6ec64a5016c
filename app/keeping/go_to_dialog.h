// Goes to a page, a notebook or a command by typing some of its name. UI thread only.
#pragma once

#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <functional>

#include "desk/session.h"

namespace fernleaf {

// Something that the window does, by its name.
struct Command {
    QString name;
    QString keys;  // as they are shown; empty: none
    std::function<void()> run;
};

class GoToDialog : public QDialog {
    Q_OBJECT

public:
    GoToDialog(Session& session, std::vector<Command> commands, QWidget* parent = nullptr);

    QLineEdit* field() const { return field_; }
    QListWidget* list() const { return list_; }

protected:
    bool eventFilter(QObject* object, QEvent* event) override;

private:
    struct Entry {
        QString name, where;  // where: its notebook and page, or its keys
        std::string folded;
        PageId page = 0;          // to be opened
        NotebookId notebook = 0;  // the same
        size_t command = SIZE_MAX;
        bool favourite = false;
        int64_t written_ms = 0;
    };
    void add_places(const std::vector<NamedPlace>& places);
    void show_matches();
    void go(const QListWidgetItem* item);

    Session& session_;
    std::vector<Command> commands_;
    std::vector<Entry> entries_;
    QLineEdit* field_;
    QListWidget* list_;
    QLabel* empty_;
};

}  // namespace fernleaf
