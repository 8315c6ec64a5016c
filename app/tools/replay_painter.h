// Shows writing that is played again on the ink leaf: what was not there yet is faint, what is written grows stroke by
// stroke. The page itself stays as it is. UI thread only.
#pragma once

#include <QImage>
#include <QPainter>
#include <unordered_map>

#include "tools/leaf_tool.h"

namespace fernleaf {

class ReplayPainter {
public:
    explicit ReplayPainter(ToolSurface& surface) : surface_(surface) {}

    // Over the page, in leaf px.
    void paint(QPainter& painter);
    // The clock went on or was set; has what that changes drawn again.
    void moved();
    void forget();  // what was drawn is of another page, or looks otherwise now

private:
    struct Look {
        QPointF origin;
        double scale = 0, ratio = 0;
        QSize size;
        friend bool operator==(const Look&, const Look&) = default;
    };
    void draw_until(int64_t now_ms);
    void begin_anew(int64_t now_ms);
    QRectF box_px(const Stroke& stroke) const;

    ToolSurface& surface_;
    QImage written_;  // all strokes before next_
    Look look_;
    size_t next_ = 0;  // of the replay's strokes
    size_t made_ = 0;  // of what was made from ink: how many are there
    std::unordered_map<StrokeId, std::shared_ptr<const DrawnStroke>> shapes_;
    bool shown_ = false;
};

}  // namespace fernleaf
