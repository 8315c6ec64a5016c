#include "look/wrap_row.h"

#include <algorithm>

namespace fernleaf {

WrapRow::WrapRow(int spacing) {
    setContentsMargins(0, 0, 0, 0);
    setSpacing(spacing);
}

WrapRow::~WrapRow() = default;

void WrapRow::addItem(QLayoutItem* item) { items_.emplace_back(item); }

QLayoutItem* WrapRow::itemAt(int index) const {
    return index >= 0 && index < count() ? items_[static_cast<size_t>(index)].get() : nullptr;
}

QLayoutItem* WrapRow::takeAt(int index) {
    if (index < 0 || index >= count()) return nullptr;
    QLayoutItem* out = items_[static_cast<size_t>(index)].release();
    items_.erase(items_.begin() + index);
    return out;
}

QSize WrapRow::sizeHint() const {
    QSize out(0, 0);
    for (const auto& item : items_)
        if (item->spacerItem()) {
            out.rwidth() += item->sizeHint().width();
        } else if (!item->isEmpty()) {
            const QSize size = item->sizeHint();
            out = {out.width() + size.width() + (out.width() > 0 ? spacing() : 0),
                   std::max(out.height(), size.height())};
        }
    return out;
}

QSize WrapRow::minimumSize() const {
    QSize out(0, 0);
    for (const auto& item : items_)
        if (!item->isEmpty()) out = out.expandedTo(item->minimumSize());
    return out;
}

void WrapRow::setGeometry(const QRect& area) {
    QLayout::setGeometry(area);
    place(area, true);
}

int WrapRow::place(const QRect& area, bool move) const {
    int x = area.x(), y = area.y(), height = 0;
    std::vector<std::pair<QLayoutItem*, QRect>> row;
    const auto end_row = [&] {
        for (const auto& [item, at] : row)  // the middles of all stand on one line
            if (move) item->setGeometry(at.translated(0, (height - at.height()) / 2));
        row.clear();
        x = area.x();
        y += height + spacing();
        height = 0;
    };
    for (const auto& item : items_) {
        if (item->spacerItem() && !row.empty()) x += item->sizeHint().width();
        if (item->isEmpty()) continue;
        const QSize wish = item->sizeHint(), size(std::min(wish.width(), area.width()), wish.height());
        if (!row.empty() && x + size.width() > area.x() + area.width()) end_row();
        row.emplace_back(item.get(), QRect({x, y}, size));
        height = std::max(height, size.height());
        x += size.width() + spacing();
    }
    end_row();
    return y - spacing() - area.y();
}

}  // namespace fernleaf
