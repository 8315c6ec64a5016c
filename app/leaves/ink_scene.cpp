#include "leaves/ink_scene.h"

#include <algorithm>
#include <unordered_set>

#include "ink/nib.h"

namespace fernleaf {
namespace {

Box inked(const Stroke& stroke) { return stroke.box().grown(widest_mark(stroke.pen) / 2); }

}  // namespace

DrawnStroke::DrawnStroke(const Stroke& stroke) : stroke_(stroke), box_(inked(stroke)) {}

void DrawnStroke::draw(QPainter& painter, const PageScheme& scheme) const {
    std::call_once(once_, [this] { look_.emplace(stroke_); });
    look_->draw(painter, scheme);
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
        const auto place = std::ranges::upper_bound(shapes, s, lies_below,
                                                    [](const auto& shape) -> const Stroke& { return shape->stroke(); });
        const bool there = place != shapes.begin() && (*std::prev(place))->id() == s.id;  // shown before it was kept
        if (!there) shapes.insert(place, std::make_shared<DrawnStroke>(s));
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
    for (const bool under : {true, false})
        for (const auto& shape : shapes)
            if (lies_under(shape->stroke().pen) == under && shape->box().meets(clip)) shape->draw(painter, scheme);
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
