// Colours as a menu offers them. UI thread only.
#pragma once

#include <QMenu>
#include <QPainter>
#include <functional>
#include <optional>
#include <vector>

#include "look/theme.h"

namespace fernleaf {

inline void add_colours(QMenu& menu, const std::vector<uint32_t>& palette,
                        const std::function<void(std::optional<uint32_t>)>& take) {
    for (const uint32_t colour : palette) {
        QPixmap patch(22, 22);
        patch.fill(Qt::transparent);
        QPainter painter(&patch);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(QPen(theme().line, 1));
        painter.setBrush(shown_colour(colour, theme().page));
        painter.drawEllipse(QRectF(2, 2, 18, 18));
        painter.end();
        menu.addAction(patch, QColor::fromRgb(colour).name(), &menu, [take, colour] { take(colour); });
    }
}

}  // namespace fernleaf
