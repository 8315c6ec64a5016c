// Earlier states of the open page: looked at, restored, or put on a page of their own.
#pragma once

#include <QImage>
#include <functional>
#include <vector>

#include "desk/desk.h"

namespace fernleaf {

// UI thread only. edit: 0, or one of find()'s: the state after it.
class HistoryDesk : public Desk {
    Q_OBJECT

public:
    explicit HistoryDesk(const DeskParts& parts, QObject* parent = nullptr) : Desk(parts, parent) {}

    void find(const std::function<void(const std::vector<PageMoment>&)>& then);
    // As small_picture draws it.
    void draw(int64_t edit, QSize most, const std::function<void(const QImage&)>& then);
    // A step of undo.
    void restore(int64_t edit);
    // Behind the open page, from which pieces can be taken.
    void copy_to_new_page(int64_t edit);

signals:
    void page_added(PageId page);
    void page_wanted(PageId page);
};

}  // namespace fernleaf
