// What the ink leaf draws, as values that threads can share: finished strokes with their outlines, and pictures.
#pragma once

#include <memory>
#include <mutex>
#include <optional>
#include <vector>

#include "document/edit.h"
#include "render/page_painter.h"
#include "render/stroke_look.h"

namespace fernleaf {

// A stroke and its look, which is computed when it is first drawn, on whatever thread that is.
class DrawnStroke {
public:
    explicit DrawnStroke(const Stroke& stroke);
    StrokeId id() const { return stroke_.id; }
    const Box& box() const { return box_; }  // with the pen's width
    const Stroke& stroke() const { return stroke_; }
    void draw(QPainter& painter, const PageScheme& scheme, const Box& clip) const;

private:
    Stroke stroke_;
    Box box_;
    mutable std::once_flag once_;
    mutable std::optional<StrokeLook> look_;
};

// A page as it is at one moment. Copies share their shapes.
struct InkScene {
    Sheet sheet;
    std::vector<std::shared_ptr<const DrawnStroke>> shapes;
    Elements objects;  // all but strokes
    std::shared_ptr<const PictureImages> images;
    PageScheme scheme;  // of this sheet

    static InkScene of(const Page& page, const PageScheme& scheme);
    void apply(const Edit& edit);
    const PictureImages& decoded() const;  // as far as there are any yet
    // The painter's unit must be the millimetre.
    void draw(QPainter& painter, const Box& clip) const;
};

}  // namespace fernleaf
