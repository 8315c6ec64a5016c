// What the lasso holds: the strokes chosen, the frame about them with its grips, and the change under way.
#pragma once

#include <QImage>
#include <QPainter>
#include <optional>

#include "ink/selecting.h"
#include "leaves/leaf_view.h"

namespace fernleaf {

// Where the frame is taken hold of. Corners scale evenly, sides stretch, the stem above turns.
enum class Grip { none, inside, top_left, top_right, bottom_left, bottom_right, left, right, top, bottom, turn };

class Selection {
public:
    static constexpr double kGripPx = 9;     // radius; grips are for pens and fingers, too
    static constexpr double kStemPx = 30;    // from the frame to the turning grip
    static constexpr double kFramePx = 6;    // between ink and frame
    static constexpr double kTurnStep = 15;  // degrees, when constrained

    bool empty() const { return strokes_.empty(); }
    const std::vector<Stroke>& strokes() const { return strokes_; }
    const Box& box() const { return box_; }  // mm, of the ink
    bool contains(StrokeId id) const;

    void choose(std::vector<Stroke> strokes);
    void clear() { choose({}); }

    Grip grip_at(QPointF px, const LeafView& view) const;
    // A change begins at a place in mm, follows the pen, and is taken when it lifts.
    void begin(Grip grip, Point at, const LeafView& view, double device_ratio);
    void drag_to(Point at, bool constrained);
    bool changing() const { return grip_ != Grip::none; }
    const Affine& change() const { return change_; }
    void cancel();

    // The frame, and during a change the ink itself.
    void paint(QPainter& painter, const LeafView& view) const;
    QRectF painted(const LeafView& view) const;  // leaf px it may draw on, now

private:
    QPointF place_of(Grip grip, const QRectF& frame) const;
    QRectF frame(const LeafView& view) const;

    std::vector<Stroke> strokes_;
    Box box_;
    Grip grip_ = Grip::none;
    Point from_;
    Affine change_;
    QImage picture_;  // of the ink, drawn once when a change begins
    Box pictured_;    // mm
};

Qt::CursorShape cursor_of(Grip grip);

}  // namespace fernleaf
