#include "page/room.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>

#include "page/moving.h"

namespace fernleaf {
namespace {

constexpr double kLineReachMm = 1;  // a place this near a line is in it
constexpr double kFootMm = 2;       // nothing is pushed nearer to the sheet's edge
constexpr double kKeptGapMm = 1.5;  // between what is closed up

struct Places {
    std::unordered_map<StrokeId, Box> line_of;  // the line a stroke is read in
    std::unordered_map<StrokeId, Box> word_of;
};

Places places_of(const Reading& reading) {
    Places out;
    for (const ReadLine& line : reading.lines)
        for (const ReadWord& word : line.words)
            for (const StrokeId id : word.strokes) {
                out.line_of[id] = line.box;
                out.word_of[id] = word.box;
            }
    return out;
}

// Where an element counts as standing: a stroke with its line or word.
Box place_of(const Stroke& s, const std::unordered_map<StrokeId, Box>& among) {
    const auto found = among.find(s.id);
    return found == among.end() ? s.box() : found->second;
}

template <typename Visit>
void each(const Elements& elements, const std::unordered_map<StrokeId, Box>& among, Visit visit) {
    for (const Stroke& s : elements.strokes) visit(s, place_of(s, among));
    for (const Picture& p : elements.pictures)
        if (!p.locked) visit(p, drawn_box(p));
    for (const TextBlock& t : elements.texts) visit(t, t.box());
}

void put(Elements& into, const Stroke& s) { into.strokes.push_back(s); }
void put(Elements& into, const Picture& p) { into.pictures.push_back(p); }
void put(Elements& into, const TextBlock& t) { into.texts.push_back(t); }

}  // namespace

Room room_at(const Page& page, const Reading& reading, Point at, Push push) {
    const Places places = places_of(reading);
    Room room{push, {}, 0};
    double stays_to = 0, moves_from = std::numeric_limits<double>::infinity();
    if (push == Push::down) {
        each(page, places.line_of, [&](const auto& e, const Box& place) {
            if (place.centre().y > at.y) {
                put(room.moving, e);
                moves_from = std::min(moves_from, place.top);
            } else {
                stays_to = std::max(stays_to, place.bottom);
            }
        });
    } else {
        double top = at.y - page.info.spacing_mm / 2, bottom = at.y + page.info.spacing_mm / 2;
        for (const ReadLine& line : reading.lines)
            if (line.kind == RegionKind::text && at.y > line.box.top - kLineReachMm &&
                at.y < line.box.bottom + kLineReachMm)
                top = line.box.top, bottom = line.box.bottom;
        each(page, places.word_of, [&](const auto& e, const Box& place) {
            const double middle = place.centre().y;
            if (middle < top || middle > bottom) return;
            if (place.centre().x > at.x) {
                put(room.moving, e);
                moves_from = std::min(moves_from, place.left);
            } else {
                stays_to = std::max(stays_to, place.right);
            }
        });
    }
    room.closes_mm = room.moving.empty() ? 0 : std::max(0.0, moves_from - stays_to - kKeptGapMm);
    return room;
}

Edit opened(const Page& page, const Reading& reading, const Room& room, double by_mm,
            const std::function<int64_t()>& new_id) {
    by_mm = std::max(by_mm, -room.closes_mm);
    Edit edit{by_mm < 0 ? "Close up" : "Make room"};
    edit.removed = room.moving;
    if (room.push == Push::right) {
        double right = 0;
        each(room.moving, {}, [&](const auto&, const Box& place) { right = std::max(right, place.right); });
        by_mm = std::min(by_mm, std::max(0.0, page.info.width_mm - kFootMm - right));
        edit.added = transformed(room.moving, Affine::shift({by_mm, 0}));
        edit.followed = renew(edit.added, new_id);
        return edit;
    }
    const Places places = places_of(reading);
    const double foot = page.info.height_mm - kFootMm;
    // From the first line on that would reach over the foot, all goes to the next page.
    double cut = std::numeric_limits<double>::infinity();
    if (!page.info.endless && by_mm > 0)
        each(room.moving, places.line_of, [&](const auto&, const Box& place) {
            if (place.bottom + by_mm > foot && place.bottom <= page.info.height_mm) cut = std::min(cut, place.top);
        });
    Elements stays, flows;
    each(room.moving, places.line_of,
         [&](const auto& e, const Box& place) { put(place.top >= cut ? flows : stays, e); });
    edit.added = transformed(std::move(stays), Affine::shift({0, by_mm}));
    edit.followed = renew(edit.added, new_id);
    if (!flows.empty()) {
        // A whole number of rules, so that writing stays on them.
        const double step = std::max(1.0, page.info.spacing_mm);
        const double up = std::max(0.0, std::floor(cut / step) - 1) * step;
        edit.flow = Flow{0, transformed(std::move(flows), Affine::shift({0, -up})), {}};
        edit.flow->followed = renew(edit.flow->content, new_id);
    }
    return edit;
}

}  // namespace fernleaf
