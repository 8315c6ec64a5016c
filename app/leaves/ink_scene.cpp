#include "leaves/ink_scene.h"

#include <algorithm>
#include <unordered_set>

#include "render/stroke_shape.h"

namespace fernleaf {
namespace {

Box inked(const Stroke& stroke) { return stroke.box().grown(stroke.pen.width_mm * 0.75); }

}  // namespace

DrawnStroke::DrawnStroke(const Stroke& stroke) : stroke_(stroke), box_(inked(stroke)) {}

void DrawnStroke::draw(QPainter& painter, const PageScheme& scheme) const {
    std::call_once(once_, [this] { path_ = stroke_shape(stroke_); });
    painter.setBrush(shown_colour(stroke_.pen.colour, scheme));
    painter.drawPath(path_);
}

InkScene InkScene::of(const Page& page, const PageScheme& scheme) {
    InkScene scene;
    scene.info = page.info;
    scene.pictures = page.pictures;
    scene.scheme = scheme;
    scene.shapes.reserve(page.strokes.size());
    for (const Stroke& stroke : page.strokes) scene.shapes.push_back(std::make_shared<DrawnStroke>(stroke));
    return scene;
}

void InkScene::apply(const Edit& edit) {
    if (!edit.removed.empty()) {
        std::unordered_set<StrokeId> gone;
        for (const Stroke& s : edit.removed) gone.insert(s.id);
        std::erase_if(shapes, [&](const auto& shape) { return gone.contains(shape->id()); });
    }
    for (const Stroke& s : edit.added) {
        const auto place = std::ranges::upper_bound(shapes, s.id, {}, [](const auto& shape) { return shape->id(); });
        shapes.insert(place, std::make_shared<DrawnStroke>(s));
    }
    for (const Picture& p : edit.pictures_removed)
        std::erase_if(pictures, [&](const Picture& q) { return q.id == p.id; });
    pictures.insert(pictures.end(), edit.pictures_added.begin(), edit.pictures_added.end());
}

void InkScene::draw(QPainter& painter, const Box& clip) const {
    paint_paper(painter, info, scheme);
    if (images) {
        Page page;
        page.pictures = pictures;
        paint_pictures(painter, page, *images);
    }
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    for (const auto& shape : shapes)
        if (shape->box().meets(clip)) shape->draw(painter, scheme);
}

Box touched_by(const Edit& edit) {
    Box box;
    for (const auto* strokes : {&edit.added, &edit.removed})
        for (const Stroke& s : *strokes) box.include(inked(s));
    for (const auto* pictures : {&edit.pictures_added, &edit.pictures_removed})
        for (const Picture& p : *pictures) box.include(p.box);
    return box;
}

}  // namespace fernleaf
