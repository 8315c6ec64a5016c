// Small signs beside lines of ink to which there is sound: a fern's head, rolled up. Tapped, the sound is heard from
// the line's first stroke on. UI thread only.
#pragma once

#include <QPainter>
#include <optional>
#include <vector>

#include "tools/leaf_tool.h"

namespace fernleaf {

class SoundSigns {
public:
    explicit SoundSigns(ToolSurface& surface) : surface_(surface) {}

    void refresh();  // the page or the tracks are others
    void edited(const Edit& edit);
    void paint(QPainter& painter) const;
    // When what stands beside the sign under a place (leaf px) was begun; nothing where there is none.
    std::optional<int64_t> at(QPointF px) const;
    size_t count() const { return signs_.size(); }
    QRectF box_px(size_t sign) const { return box_of(signs_[sign]); }

private:
    struct Sign {
        Point at;  // its middle, mm
        int64_t when_ms = 0;
        friend bool operator==(const Sign&, const Sign&) = default;
    };
    QRectF box_of(const Sign& sign) const;

    ToolSurface& surface_;
    std::vector<Sign> signs_;
};

}  // namespace fernleaf
