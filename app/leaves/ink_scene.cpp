#include "leaves/ink_scene.h"

#include <algorithm>
#include <unordered_set>

#include "ink/nib.h"
#include "page/moving.h"
#include "render/text_look.h"

namespace fernleaf {
namespace {

Box inked(const Stroke& stroke) { return stroke.box().grown(widest_mark(stroke.pen) / 2); }

}  // namespace

DrawnStroke::DrawnStroke(const Stroke& stroke) : stroke_(stroke), box_(inked(stroke)) {}

void DrawnStroke::draw(QPainter& painter, const PageScheme& scheme, const Box& clip) const {
    std::call_once(once_, [this] { look_.emplace(stroke_); });
    look_->draw(painter, scheme, clip);
}

InkScene InkScene::of(const Page& page, const PageScheme& scheme) {
    InkScene scene;
    scene.sheet = page.info;
    scene.pictures = page.pictures;
    scene.texts = page.texts;
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
        const auto place = std::ranges::upper_bound(
            shapes, s, [](const Stroke& a, const Stroke& b) { return lies_below(a, b); },
            [](const auto& shape) -> const Stroke& { return shape->stroke(); });
        const bool there = place != shapes.begin() && (*std::prev(place))->id() == s.id;  // shown before it was kept
        if (!there) shapes.insert(place, std::make_shared<DrawnStroke>(s));
    }
    const auto exchange = [](auto& shown, const auto& taken, const auto& given) {
        const auto same = [](const auto& list, int64_t id) {
            return std::ranges::any_of(list, [id](const auto& e) { return e.id == id; });
        };
        std::erase_if(shown, [&](const auto& e) { return same(taken, e.id) || same(given, e.id); });
        for (const auto& e : given)
            shown.insert(
                std::ranges::upper_bound(shown, e, [](const auto& a, const auto& b) { return lies_below(a, b); }), e);
    };
    exchange(pictures, removed.pictures, edit.added.pictures);
    exchange(texts, removed.texts, edit.added.texts);
}

const PictureImages& InkScene::decoded() const {
    static const PictureImages kNone;
    return images ? *images : kNone;
}

void InkScene::draw(QPainter& painter, const Box& clip) const {
    paint_paper(painter, sheet, scheme, decoded());
    if (images) paint_pictures(painter, pictures, *images);
    const auto strokes = [&](bool under) {
        painter.save();
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(Qt::NoPen);
        for (const auto& shape : shapes)
            if (lies_under(shape->stroke().pen) == under && shape->box().meets(clip))
                shape->draw(painter, scheme, clip);
        painter.restore();
    };
    strokes(true);
    for (const TextBlock& text : texts)
        if (drawn_box(text).meets(clip)) draw_text(painter, text, scheme);
    strokes(false);
}

Box touched_by(const Edit& edit) {
    Box box;
    for (const Elements* side : {&edit.added, &edit.removed}) {
        for (const Stroke& s : side->strokes) box.include(inked(s));
        for (const Picture& p : side->pictures) box.include(drawn_box(p));
        for (const TextBlock& t : side->texts) box.include(drawn_box(t));
    }
    return box;
}

}  // namespace fernleaf
