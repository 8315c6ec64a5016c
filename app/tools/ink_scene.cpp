#include "tools/ink_scene.h"

#include <algorithm>
#include <unordered_set>

#include "document/elements.h"
#include "ink/nib.h"
#include "render/text_look.h"

namespace fernleaf {
DrawnStroke::DrawnStroke(const Stroke& stroke) : stroke_(stroke), box_(drawn_box(stroke)) {}

void DrawnStroke::draw(QPainter& painter, const PageScheme& scheme, const Box& clip) const {
    std::call_once(once_, [this] { look_.emplace(stroke_); });
    look_->draw(painter, scheme, clip);
}

InkScene InkScene::of(const Page& page, const PageScheme& scheme) {
    InkScene scene;
    scene.sheet = page.info;
    scene.objects = page;
    scene.objects.strokes.clear();
    scene.scheme = scheme_on(scheme, page.info.colour);
    scene.shapes.reserve(page.strokes.size());
    for (const Stroke& stroke : page.strokes) scene.shapes.push_back(std::make_shared<DrawnStroke>(stroke));
    return scene;
}

namespace {

// A picture that follows another of the same file shows at once; its own image is on its way.
std::shared_ptr<const PictureImages> carried_on(std::shared_ptr<const PictureImages> images, const Edit& edit) {
    if (!images) return images;
    std::shared_ptr<PictureImages> more;
    for (const Picture& added : edit.added.pictures)
        for (const Picture& gone : edit.removed.pictures) {
            const auto image = images->find(gone.id);
            if (gone.file != added.file || gone.frame != added.frame || image == images->end()) continue;
            if (!more) more = std::make_shared<PictureImages>(*images);
            more->emplace(added.id, image->second);
        }
    return more ? more : std::move(images);
}

}  // namespace

void InkScene::apply(const Edit& edit) {
    images = carried_on(std::move(images), edit);
    const auto& removed = edit.removed;
    if (!removed.strokes.empty()) {
        std::unordered_set<StrokeId> gone;
        for (const Stroke& s : removed.strokes) gone.insert(s.id);
        std::erase_if(shapes, [&](const auto& shape) { return gone.contains(shape->id()); });
    }
    for (const Stroke& s : edit.added.strokes) {
        const auto place = std::ranges::upper_bound(shapes, s, z_less<Stroke, Stroke>,
                                                    [](const auto& shape) -> const Stroke& { return shape->stroke(); });
        const bool there = place != shapes.begin() && (*std::prev(place))->id() == s.id;  // shown before it was kept
        if (!there) shapes.insert(place, std::make_shared<DrawnStroke>(s));
    }
    Elements added = edit.added;
    added.strokes.clear();
    erase(objects, removed);
    erase(objects, added);  // shown before it was kept
    insert(objects, added);
}

const PictureImages& InkScene::decoded() const {
    static const PictureImages kNone;
    return images ? *images : kNone;
}

void InkScene::draw(QPainter& painter, const Box& clip) const {
    paint_paper(painter, sheet, scheme, decoded());
    paint_elements(painter, objects, {scheme, decoded(), clip}, [&](bool under) {
        for (const auto& shape : shapes)
            if (lies_under(shape->stroke().pen) == under && shape->box().meets(clip))
                shape->draw(painter, scheme, clip);
    });
}

}  // namespace fernleaf
