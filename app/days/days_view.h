// The screen of days: at the left the days on which something was written, with how much; beside them what was written,
// the newest first, across notebooks and pens. UI thread only.
#pragma once

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QListView>
#include <QStackedWidget>
#include <QStandardItemModel>
#include <QToolButton>
#include <QWidget>

#include "days/days_model.h"

namespace fernleaf {

class DaysView : public QWidget {
    Q_OBJECT

public:
    explicit DaysView(Session& session, QWidget* parent = nullptr);

    void set_notebooks(const std::vector<Notebook>& notebooks);
    void refresh();
    void restyle();
    QListView* strip() const { return strip_; }
    QListView* list() const { return list_; }
    DaysModel& days() { return model_; }
    QComboBox* notebook_choice() const { return notebook_; }
    QComboBox* tag_choice() const { return tag_; }
    QCheckBox* pens_only() const { return by_pen_; }
    QCheckBox* sound_only() const { return with_sound_; }

signals:
    void left();
    void page_wanted(PageId page, const Box& box);  // where it was written, mm

protected:
    bool eventFilter(QObject* object, QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;

private:
    void fill_tags();
    void listen(const QModelIndex& index);
    void show_strip();
    void open(const QModelIndex& index);
    void copy(const QModelIndex& index);
    void correct(const QModelIndex& index);
    void offer(const QModelIndex& index, const QPoint& at);

    Session& session_;
    DaysModel model_;
    QStandardItemModel strip_model_;
    QListView *strip_, *list_;
    QComboBox *notebook_, *tag_;
    QCheckBox *by_pen_, *with_sound_;
    QToolButton* back_;
    QStackedWidget* stack_;
    QLabel* nothing_;
    bool following_ = false;
};

}  // namespace fernleaf
