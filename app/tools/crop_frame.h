// The frame in which one picture is cropped: the whole of it shows, what is left out is veiled, and its sides and
// corners can be pulled. UI thread only.
#pragma once

#include <QPainter>
#include <optional>

#include "document/elements.h"
#include "render/page_painter.h"
#include "tools/grip.h"
#include "tools/page_viewport.h"

namespace fernleaf {

class CropFrame {
public:
    bool open() const { return picture_.has_value(); }
    const Picture& picture() const { return *picture_; }  // as it will be
    void show(const Picture& picture) { picture_ = picture, grip_ = Grip::none; }
    void close() { picture_.reset(), grip_ = Grip::none; }

    Grip grip_at(QPointF px, const PageViewport& view) const;  // a side, a corner, the inside or none
    void begin(Grip grip, Point at);
    bool pulling() const { return grip_ != Grip::none; }
    void drag_to(Point at);
    void end() { grip_ = Grip::none; }
    // Moves a side by so many mm, inwards when below 0.
    void nudge(Grip side, double mm);

    void paint(QPainter& painter, const PageViewport& view, const PictureImages& images) const;

private:
    Point local(Point at) const;  // on the picture as it is not turned, mm
    void pull(Grip grip, Point by);

    std::optional<Picture> picture_;
    Picture before_;  // when the pen came down
    Grip grip_ = Grip::none;
    Point from_;
};

}  // namespace fernleaf
