#include "tools/lasso_tool.h"

#include <QGuiApplication>
#include <algorithm>
#include <unordered_set>

#include "drawing/guides.h"
#include "drawing/links.h"
#include "look/theme.h"

namespace fernleaf {
namespace {

constexpr double kTapPx = 5;  // a lasso that stays within this is a tap
constexpr double kClosestLassoMm = 0.3;
constexpr double kTapReachMm = 1.5;
constexpr double kSnapPx = 6;

}  // namespace

void LassoTool::begin(const PenSample& sample) {
    const Point at = surface_.page_point(sample.at);
    CropFrame& crop = editing_.crop_frame();
    last_px_ = sample.at;
    if (crop.open()) {
        if (const Grip grip = crop.grip_at(sample.at, view()); grip != Grip::none) return crop.begin(grip, at);
        editing_.close_crop();
    }
    if (plot_.looked_into() && plot_.holds(sample.at) && !session().read_only()) return plot_.begin(sample.at);
    lasso_ = {at};
    rectangle_ = QGuiApplication::keyboardModifiers() & Qt::ShiftModifier;
    Selection& chosen = editing_.frame();
    if (const Grip grip = chosen.grip_at(sample.at, view()); grip != Grip::none && !session().read_only()) {
        chosen.begin(grip, at, view(), surface_.device_ratio(), tiles().scene().decoded(), tiles().scene().scheme);
        return;
    }
    editing_.clear();
}

void LassoTool::go_on(const PenSample& sample) {
    const Point at = surface_.page_point(sample.at);
    CropFrame& crop = editing_.crop_frame();
    Selection& chosen = editing_.frame();
    last_px_ = sample.at;
    if (plot_.dragging()) return plot_.drag_to(sample.at);
    if (crop.pulling()) {
        crop.drag_to(at);
        return surface_.refresh_all();
    }
    if (chosen.changing()) {
        if (lifted_.empty()) lift();
        editing_.repaint();
        drag(at);
        editing_.repaint();
        return;
    }
    if (rectangle_) {
        const Point first = lasso_.front();
        lasso_ = {first, {at.x, first.y}, at, {first.x, at.y}};
    } else if (distance(lasso_.back(), at) >= kClosestLassoMm) {
        lasso_.push_back(at);
    }
    surface_.refresh_all();
}

// Not when it is touched, only when it is first moved.
void LassoTool::lift() {
    const Elements& chosen = editing_.selection().chosen();
    const Page& page = *session().page();
    lifted_ = chosen;
    for (const FairShape& link : links_led(page, chosen))
        lifted_.shapes.push_back(*std::ranges::find(page.shapes, link.id, &FairShape::id));
    others_.clear();
    if (snap_to_guides()) {
        const auto add = [&](const auto& element) {
            if (!editing_.selection().contains(element.id)) others_.push_back(drawn_box(element));
        };
        for (const FairShape& s : page.shapes)
            if (is_closed(s.shape.kind)) add(s);
        for (const Picture& p : page.pictures) add(p);
        for (const TextBlock& t : page.texts) add(t);
        for (const FairTable& t : page.tables) add(t);
    }
    const bool grid = page.info.paper == Paper::squared || page.info.paper == Paper::dotted;
    grid_mm_ = grid && snap_to_grid() ? page.info.spacing_mm : 0;
    tiles().apply({"Move", {}, lifted_});
    editing_.begin_change();
    surface_.refresh_all();
}

void LassoTool::put_back() {
    if (!lifted_.empty()) tiles().apply({"Move", lifted_, {}});
    lifted_ = {};
}

void LassoTool::drag(Point at) {
    Selection& chosen = editing_.frame();
    const auto held = QGuiApplication::keyboardModifiers();
    chosen.drag_to(at, held & Qt::ShiftModifier);
    if (chosen.pulled() == Grip::inside && !(held & (Qt::ShiftModifier | Qt::ControlModifier))) {
        const Box box = shifted(chosen.box(), chosen.change()(Point{}));
        const Snap snap = snapped(box, others_, grid_mm_, kSnapPx / view().scale());
        chosen.snap(snap.by, snap.lines);
    }
    if (chosen.chosen().shapes.empty() || chosen.pulled() == Grip::column || chosen.pulled() == Grip::row) return;
    Elements moved;
    if (chosen.reshaped()) {
        moved.shapes = {*chosen.reshaped()};
    } else {
        moved.shapes = chosen.chosen().shapes;
        moved = transformed(std::move(moved), chosen.change());
    }
    chosen.show_links(links_led(*session().page(), moved));
}

void LassoTool::end() {
    CropFrame& crop = editing_.crop_frame();
    Selection& chosen = editing_.frame();
    if (plot_.dragging()) return plot_.end();
    if (crop.pulling()) {
        crop.end();
        return editing_.keep_crop();
    }
    const std::vector<Point> lasso = std::move(lasso_);
    lasso_.clear();
    Box drawn;
    for (const Point p : lasso) drawn.include(p);
    if (chosen.changing()) {
        const Affine by = chosen.change();
        const std::optional<FairShape> reshaped = chosen.reshaped();
        const Grip grip = chosen.pulled();
        editing_.repaint();
        chosen.cancel();
        const bool touched_only = lifted_.empty();
        if (by == Affine{}) put_back();
        lifted_ = {};
        if (reshaped && by != Affine{})
            editing_.reshape(*reshaped);
        else if ((grip == Grip::column || grip == Grip::row) && by != Affine{})
            table_.resize(grip == Grip::column ? Lines::columns : Lines::rows, chosen.pulled_line().first,
                          chosen.pulled_line().second);
        else if (by != Affine{})
            editing_.move(by, "Move");
        else if (touched_only)
            tap(last_px_);
        return;
    }
    if (std::max(drawn.width(), drawn.height()) * view().scale() < kTapPx)
        tap(last_px_);
    else if (const std::vector<ElementId> held = ids_of(within(*session().page(), lasso)); !held.empty())
        editing_.select(with_groups(*session().page(), held));
    else
        editing_.select_area(lasso);
    surface_.refresh_all();
}

void LassoTool::cancel() {
    // The ink that was being moved is where it was.
    if (Selection& chosen = editing_.frame(); chosen.changing()) {
        put_back();
        chosen.cancel();
    }
    plot_.cancel();
    editing_.crop_frame().end();
    lasso_.clear();
}

QCursor LassoTool::cursor_at(QPointF px) const {
    if (plot_.looked_into() && plot_.holds(px)) return plot_.dragging() ? Qt::ClosedHandCursor : Qt::OpenHandCursor;
    return cursor_of(editing_.cropping() ? editing_.crop_frame().grip_at(px, view())
                                         : editing_.selection().grip_at(px, view()));
}

void LassoTool::paint(QPainter& painter) const {
    if (lasso_.size() < 2) return;
    QPolygonF line;
    for (const Point p : lasso_) line << view().to_leaf({p.x, p.y});
    const Theme& t = theme();
    QColor wash = t.act;
    wash.setAlpha(20);
    painter.setPen(QPen(t.act, 1.6, Qt::DashLine));
    painter.setBrush(wash);
    painter.drawPolygon(line);
}

// A tap takes the word there; tapped again, its line; and again, its paragraph. Ink that is no word is taken by the
// stroke, type by the block. In a table that is drawn fair a tap takes the table and a cell; in that cell, what stands
// in it.
void LassoTool::tap(QPointF px) {
    const bool again = editing_.selection().grip_at(px, view()) != Grip::none;
    if ((table_.table() || !again) && table_.choose_at(surface_.page_point(px))) return;
    const int taps = again ? editing_.taps() + 1 : 1;
    if (!session().page()) return;
    const Page& page = *session().page();
    std::vector<ElementId> ids;
    if (const ReadPlace place = surface_.word_at(px); place.valid()) {
        const auto& lines = session().reading().lines;
        const ReadLine& line = lines[static_cast<size_t>(place.line)];
        for (const ReadLine& other : lines)
            for (const ReadWord& word : other.words) {
                const bool taken = taps == 1   ? &word == session().word(place)
                                   : taps == 2 ? &other == &line
                                               : other.region == line.region;
                if (taken) ids.insert(ids.end(), word.strokes.begin(), word.strokes.end());
            }
    }
    // What was changed is other ink until it is read again.
    std::unordered_set<ElementId> there;
    for (const Stroke& stroke : page.strokes) there.insert(stroke.id);
    std::erase_if(ids, [&](ElementId id) { return !there.contains(id); });
    if (ids.empty())
        if (const ElementId id = element_at(page, surface_.page_point(px), kTapReachMm); id != 0) {
            ids = {id};
            // A figure comes with what is written in it; tapped again, alone.
            const auto& shapes = page.shapes;
            const auto figure = std::ranges::find(shapes, id, &FairShape::id);
            if (taps == 1 && figure != shapes.end() && is_closed(figure->shape.kind))
                for (const ElementId inner : ids_of(within(page, outline_of(figure->shape).front())))
                    if (inner != id) ids.push_back(inner);
        }
    if (taps == 1) ids = with_groups(page, ids);
    editing_.select(ids, taps);
}

}  // namespace fernleaf
