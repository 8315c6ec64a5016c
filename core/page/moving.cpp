#include "page/moving.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <unordered_set>

#include "ink/nib.h"

namespace fernleaf {
namespace {

constexpr double kFillMm = 1.2;   // a block's fill reaches beyond its words
constexpr double kEvenly = 0.01;  // sides that grow alike, but for this
constexpr int kProbes = 6;        // a side, to tell how much of an element a lasso encloses
constexpr double kLeastSideMm = 2;
constexpr double kLeastPart = 0.01;  // of a picture, to be shown
constexpr double kLeastTypeMm = 0.5, kMostTypeMm = 100;

double degrees_of(const Affine& by) { return std::atan2(by.yx, by.xx) * 180 / std::numbers::pi; }

double normal(double degrees) {
    const double d = std::fmod(degrees, 360);
    return d > 180 ? d - 360 : d <= -180 ? d + 360 : d;
}

void grow_type(TextBlock& text, double by) {
    text.pitch_mm *= by;
    for (Paragraph& p : text.paragraphs) {
        p.indent_mm *= by;
        p.before_mm *= by;
        for (TextRun& run : p.runs) run.style.size_mm = std::clamp(run.style.size_mm * by, kLeastTypeMm, kMostTypeMm);
    }
}

TextBlock transformed(TextBlock text, const Affine& by) {
    const double wider = std::hypot(by.xx, by.yx), taller = std::hypot(by.xy, by.yy);
    const Point middle = by(Box::of(text.at.x, text.at.y, text.width_mm, text.height_mm).centre());
    const Point before = text.at;
    if (by == Affine::shift({by.dx, by.dy}))
        for (PlacedWord& w : text.words) w.box = shifted(w.box, {by.dx, by.dy});
    if (std::abs(wider - taller) < kEvenly) {
        if (std::abs(wider - 1) > 1e-9) grow_type(text, wider);
        text.width_mm = std::max(kLeastSideMm, text.width_mm * wider);
        text.height_mm *= wider;
        text.at = middle - Point{text.width_mm, text.height_mm} * 0.5;
        text.angle = normal(text.angle + degrees_of(by));
        if (!text.ink.empty()) text.carried = text.carried.then(by);
    } else {
        text.at = by(text.at);
        text.width_mm = std::max(kLeastSideMm, text.width_mm * wider);
        if (!text.ink.empty()) text.carried = text.carried.then(Affine::shift(text.at - before));
    }
    return text;
}

Picture transformed(Picture picture, const Affine& by) {
    const double width = picture.box.width() * std::hypot(by.xx, by.yx);
    const double height = picture.box.height() * std::hypot(by.xy, by.yy);
    const Point middle = by(picture.box.centre());
    picture.box = Box::of(middle.x - width / 2, middle.y - height / 2, width, height);
    picture.angle = normal(picture.angle + degrees_of(by));
    return picture;
}

bool mostly_inside(const Box& box, double angle, const std::vector<Point>& polygon) {
    int in = 0;
    for (int i = 0; i < kProbes; ++i)
        for (int k = 0; k < kProbes; ++k) {
            const Point p{box.left + box.width() * (i + 0.5) / kProbes, box.top + box.height() * (k + 0.5) / kProbes};
            in += inside(polygon, turned(p, angle, box.centre()));
        }
    return in >= kLassoShare * kProbes * kProbes;
}

Box straight(const TextBlock& text) { return Box::of(text.at.x, text.at.y, text.width_mm, text.height_mm); }

}  // namespace

Elements transformed(Elements elements, const Affine& by) {
    for (Stroke& s : elements.strokes) s = transformed(std::move(s), by);
    for (TextBlock& t : elements.texts) t = transformed(std::move(t), by);
    for (Picture& p : elements.pictures) p = transformed(std::move(p), by);
    return elements;
}

Box whole_box(const Picture& picture) {
    const double width = picture.box.width() / picture.crop.width(),
                 height = picture.box.height() / picture.crop.height();
    return Box::of(picture.box.left - picture.crop.left * width, picture.box.top - picture.crop.top * height, width,
                   height);
}

Picture cropped(Picture picture, Box part) {
    part = {std::clamp(part.left, 0.0, 1 - kLeastPart), std::clamp(part.top, 0.0, 1 - kLeastPart),
            std::clamp(part.right, 0.0, 1.0), std::clamp(part.bottom, 0.0, 1.0)};
    part.right = std::max(part.right, part.left + kLeastPart);
    part.bottom = std::max(part.bottom, part.top + kLeastPart);
    const Box whole = whole_box(picture);
    const Box shown = Box::of(whole.left + part.left * whole.width(), whole.top + part.top * whole.height(),
                              part.width() * whole.width(), part.height() * whole.height());
    // It is turned about its own middle from now on, and still lies as it lay.
    const Point middle = turned(shown.centre(), picture.angle, picture.box.centre());
    picture.box = shifted(shown, middle - shown.centre());
    picture.crop = part;
    return picture;
}

Elements within(const Elements& all, const std::vector<Point>& polygon) {
    Elements chosen;
    const auto ids = strokes_within(all.strokes, polygon);
    const std::unordered_set<StrokeId> wanted(ids.begin(), ids.end());
    for (const Stroke& s : all.strokes)
        if (wanted.contains(s.id)) chosen.strokes.push_back(s);
    for (const TextBlock& t : all.texts)
        if (mostly_inside(straight(t), t.angle, polygon)) chosen.texts.push_back(t);
    for (const Picture& p : all.pictures)
        if (!p.locked && mostly_inside(p.box, p.angle, polygon)) chosen.pictures.push_back(p);
    return chosen;
}

Elements picked(const Elements& all, const std::vector<int64_t>& ids) {
    const std::unordered_set<int64_t> wanted(ids.begin(), ids.end());
    Elements chosen;
    const auto pick = [&](const auto& from, auto& into) {
        for (const auto& e : from)
            if (wanted.contains(e.id)) into.push_back(e);
    };
    pick(all.strokes, chosen.strokes);
    pick(all.pictures, chosen.pictures);
    pick(all.texts, chosen.texts);
    return chosen;
}

std::vector<std::pair<StrokeId, StrokeId>> renew(Elements& elements, const std::function<int64_t()>& new_id) {
    const auto renewed = [&](auto& e) {
        const int64_t before = e.id;
        if (e.order == 0) e.order = before;
        e.id = new_id();
        return std::pair(before, e.id);
    };
    std::vector<std::pair<StrokeId, StrokeId>> followed;
    for (Stroke& s : elements.strokes) followed.push_back(renewed(s));
    for (Picture& p : elements.pictures) renewed(p);
    for (TextBlock& t : elements.texts) renewed(t);
    return followed;
}

std::vector<int64_t> ids_of(const Elements& elements) {
    std::vector<int64_t> ids;
    for (const Stroke& s : elements.strokes) ids.push_back(s.id);
    for (const Picture& p : elements.pictures) ids.push_back(p.id);
    for (const TextBlock& t : elements.texts) ids.push_back(t.id);
    return ids;
}

Box drawn_box(const Picture& picture) { return turned(picture.box, picture.angle, picture.box.centre()); }
Box drawn_box(const TextBlock& text) { return text.box().grown(kFillMm); }

Box drawn_box(const Elements& elements) {
    Box box;
    for (const Stroke& s : elements.strokes) box.include(s.box().grown(widest_mark(s.pen) / 2));
    for (const Picture& p : elements.pictures) box.include(drawn_box(p));
    for (const TextBlock& t : elements.texts) box.include(drawn_box(t));
    return box;
}

bool covers(const Picture& picture, Point p) {
    return picture.box.contains(turned(p, -picture.angle, picture.box.centre()));
}

bool covers(const TextBlock& text, Point p) {
    return straight(text).grown(kFillMm).contains(turned(p, -text.angle, straight(text).centre()));
}

}  // namespace fernleaf
