#include "tools/replay_painter.h"

#include <algorithm>

#include "ink/nib.h"

namespace fernleaf {
namespace {

constexpr int kFaint = 205;  // of 255: how much paper lies over what is not there yet

// How many of those made from ink are there.
size_t there_by(const ListeningDesk& desk, int64_t now_ms) {
    return static_cast<size_t>(std::ranges::upper_bound(desk.made(), now_ms, {}, &ListeningDesk::Made::there_ms) -
                               desk.made().begin());
}

}  // namespace

void ReplayPainter::forget() {
    written_ = {};
    shapes_.clear();
    next_ = 0;
}

QRectF ReplayPainter::box_px(const Stroke& stroke) const { return surface_.leaf_rect(drawn_box(stroke), 3); }

void ReplayPainter::begin_anew(int64_t now_ms) {
    const PageViewport& view = surface_.view();
    const double ratio = surface_.device_ratio();
    look_ = {view.origin(), view.scale(), ratio, surface_.size_px()};
    next_ = 0;
    written_ = QImage(surface_.size_px() * ratio, QImage::Format_ARGB32_Premultiplied);
    written_.setDevicePixelRatio(ratio);
    written_.fill(Qt::transparent);
    const InkScene& scene = surface_.tiles().scene();
    shapes_.clear();
    for (const auto& shape : scene.shapes) shapes_.emplace(shape->id(), shape);
    // Type, figures and pictures have no times of their own: they are there, but for what was made from ink that is not
    // written yet.
    const ListeningDesk& desk = surface_.session().listening();
    made_ = there_by(desk, now_ms);
    Elements objects = scene.objects;
    for_each_list(objects, [&](auto& list) {
        std::erase_if(list, [&](const auto& e) {
            return std::any_of(desk.made().begin() + static_cast<std::ptrdiff_t>(made_), desk.made().end(),
                               [&](const ListeningDesk::Made& made) { return made.element == e.id; });
        });
    });
    QPainter painter(&written_);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.translate(view.origin());
    painter.scale(view.scale(), view.scale());
    const Box clip = box_of(QRectF(view.to_page({0, 0}), view.to_page({static_cast<double>(look_.size.width()),
                                                                       static_cast<double>(look_.size.height())})));
    paint_elements(painter, objects, {scene.scheme, scene.decoded(), clip}, [](bool) {});
}

void ReplayPainter::draw_until(int64_t now_ms) {
    const ListeningDesk& desk = surface_.session().listening();
    const Replay& replay = *desk.replay();
    const PageViewport& view = surface_.view();
    const Look look{view.origin(), view.scale(), surface_.device_ratio(), surface_.size_px()};
    const bool back = next_ > 0 && next_ <= replay.strokes.size() && replay.strokes[next_ - 1].end_ms > now_ms;
    if (written_.isNull() || look != look_ || back || next_ > replay.strokes.size() || made_ != there_by(desk, now_ms))
        begin_anew(now_ms);
    if (next_ == replay.strokes.size() || replay.strokes[next_].end_ms > now_ms) return;
    QPainter painter(&written_);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.translate(view.origin());
    painter.scale(view.scale(), view.scale());
    painter.setPen(Qt::NoPen);
    const InkScene& scene = surface_.tiles().scene();
    for (; next_ < replay.strokes.size() && replay.strokes[next_].end_ms <= now_ms; ++next_) {
        const Stroke& stroke = desk.replayed(replay.strokes[next_]);
        if (const ElementId into = desk.made_into(replay.strokes[next_]); into != 0) {
            const auto end = desk.made().begin() + static_cast<std::ptrdiff_t>(made_);
            const bool there = std::any_of(desk.made().begin(), end,
                                           [&](const ListeningDesk::Made& made) { return made.element == into; });
            if (!there) StrokeLook(stroke).draw(painter, scene.scheme, drawn_box(stroke));
            continue;
        }
        const auto shape = shapes_.find(stroke.id);
        if (shape != shapes_.end()) shape->second->draw(painter, scene.scheme, shape->second->box());
    }
}

void ReplayPainter::moved() {
    const ListeningDesk& desk = surface_.session().listening();
    const bool shown = desk.replay() != nullptr;
    if (shown != std::exchange(shown_, shown)) {
        forget();
        return surface_.refresh_all();
    }
    if (!shown) return;
    const std::vector<ReplayStroke>& strokes = desk.replay()->strokes;
    const int64_t now = desk.position_ms();
    if (next_ > strokes.size() || (next_ > 0 && strokes[next_ - 1].end_ms > now) || made_ != there_by(desk, now))
        return surface_.refresh_all();
    for (size_t i = next_; i < strokes.size() && strokes[i].begin_ms <= now; ++i)
        surface_.refresh(box_px(desk.replayed(strokes[i])));
}

void ReplayPainter::paint(QPainter& painter) {
    const ListeningDesk& desk = surface_.session().listening();
    const Replay* replay = desk.replay();
    if (!replay) return;
    const int64_t now = desk.position_ms();
    draw_until(now);
    const PageViewport& view = surface_.view();
    const InkScene& scene = surface_.tiles().scene();
    QColor paper = scene.scheme.paper;
    paper.setAlpha(kFaint);
    painter.fillRect(QRectF(view.origin(), QSizeF(scene.sheet.width_mm, scene.sheet.height_mm) * view.scale()), paper);
    painter.drawImage(QPointF(0, 0), written_);
    painter.save();
    painter.translate(view.origin());
    painter.scale(view.scale(), view.scale());
    painter.setPen(Qt::NoPen);
    for (size_t i = next_; i < replay->strokes.size() && replay->strokes[i].begin_ms <= now; ++i) {
        const Stroke& stroke = desk.replayed(replay->strokes[i]);
        const size_t points = points_written(stroke, replay->strokes[i], now);
        if (points == 0) continue;
        Stroke part = stroke;
        part.points.change().resize(points);
        StrokeLook(part).draw(painter, scene.scheme, drawn_box(part));
    }
    painter.restore();
}

}  // namespace fernleaf
