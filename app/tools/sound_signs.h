// Small signs beside lines of ink to which there is sound, and beside what was set in type or drawn fair from such ink:
// a fern's head, rolled up. Tapped, the sound is heard from the first stroke on. UI thread only.
#pragma once

#include <QObject>
#include <QPainter>
#include <optional>
#include <unordered_map>
#include <vector>

#include "tools/leaf_tool.h"

namespace fernleaf {

class SoundSigns : public QObject {
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
    struct Line {
        Box box;
        int64_t when_ms;
    };
    QRectF box_of(const Sign& sign) const;
    void know(const Elements& elements);
    void ask_begun(const std::vector<StrokeId>& ink);
    std::vector<Line> made_from_ink();

    ToolSurface& surface_;
    std::vector<Sign> signs_;
    PageId page_ = 0;                              // of which the next are
    std::unordered_map<StrokeId, int64_t> begun_;  // of ink that is not on the page any more; 0: not known yet
};

}  // namespace fernleaf
