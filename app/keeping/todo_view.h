// Boxes to tick, gathered from all pages: ticked here, they are ticked there. UI thread only.
#pragma once

#include <QCheckBox>
#include <QLabel>
#include <QListView>
#include <QStandardItemModel>
#include <QToolButton>
#include <QWidget>

#include "desk/session.h"

namespace fernleaf {

class TodoView : public QWidget {
    Q_OBJECT

public:
    explicit TodoView(Session& session, QWidget* parent = nullptr);

    void refresh();
    void take_focus();
    QListView* list() const { return list_; }
    QCheckBox* done_too() const { return done_too_; }
    void restyle();

signals:
    void left();
    void page_wanted(PageId page, const Box& box);

protected:
    bool eventFilter(QObject* object, QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void showEvent(QShowEvent* event) override;

private:
    void show_todos(std::vector<Todo> todos);
    void tick(const QModelIndex& index);
    void go_to(const QModelIndex& index);
    const Todo* todo_at(const QModelIndex& index) const;

    Session& session_;
    QListView* list_;
    QStandardItemModel* rows_;
    QLabel* says_;
    QLabel* empty_;
    QCheckBox* done_too_;
    QToolButton* close_;
    std::vector<Todo> todos_;
};

}  // namespace fernleaf
