#include "transcript/inserted_space.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>

#include "document/elements.h"

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

// Where an element counts as standing: a stroke with its line or word, type without its fill.
template <Element E>
Box place_of(const E& e, const std::unordered_map<StrokeId, Box>& among) {
    if constexpr (std::is_same_v<E, Stroke>) {
        const auto found = among.find(e.id);
        return found == among.end() ? e.box() : found->second;
    } else if constexpr (std::is_same_v<E, TextBlock>) {
        return e.box();
    } else {
        return drawn_box(e);
    }
}

// What can be moved, with its place.
template <typename Visit>
void each(const Elements& elements, const std::unordered_map<StrokeId, Box>& among, Visit visit) {
    for_each_element(elements, [&]<typename E>(const E& e) {
        if (!ElementTraits<E>::locked(e)) visit(e, place_of(e, among));
    });
}

}  // namespace

InsertedSpace space_at(const Page& page, const Reading& reading, Point at, Push push) {
    const Places places = places_of(reading);
    InsertedSpace space{push, {}, 0};
    double stays_to = 0, moves_from = std::numeric_limits<double>::infinity();
    if (push == Push::down) {
        each(page, places.line_of, [&]<typename E>(const E& e, const Box& place) {
            if (place.centre().y > at.y) {
                space.moving.of<E>().push_back(e);
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
        each(page, places.word_of, [&]<typename E>(const E& e, const Box& place) {
            const double middle = place.centre().y;
            if (middle < top || middle > bottom) return;
            if (place.centre().x > at.x) {
                space.moving.of<E>().push_back(e);
                moves_from = std::min(moves_from, place.left);
            } else {
                stays_to = std::max(stays_to, place.right);
            }
        });
    }
    space.closes_mm = space.moving.empty() ? 0 : std::max(0.0, moves_from - stays_to - kKeptGapMm);
    return space;
}

Edit make_space_edit(const Page& page, const Reading& reading, const InsertedSpace& space, double by_mm,
                     const std::function<int64_t()>& new_id) {
    by_mm = std::max(by_mm, -space.closes_mm);
    Edit edit{by_mm < 0 ? "Close up" : "Make room"};
    edit.removed = space.moving;
    if (space.push == Push::right) {
        double right = 0;
        each(space.moving, {}, [&](const auto&, const Box& place) { right = std::max(right, place.right); });
        by_mm = std::min(by_mm, std::max(0.0, page.info.width_mm - kFootMm - right));
        edit.added = transformed(space.moving, Affine::shift({by_mm, 0}));
        edit.replacements = renew(edit.added, new_id);
        return edit;
    }
    const Places places = places_of(reading);
    const double foot = page.info.height_mm - kFootMm;
    // From the first line on that would reach over the foot, all goes to the next page.
    double cut = std::numeric_limits<double>::infinity();
    if (!page.info.endless && by_mm > 0)
        each(space.moving, places.line_of, [&](const auto&, const Box& place) {
            if (place.bottom + by_mm > foot && place.bottom <= page.info.height_mm) cut = std::min(cut, place.top);
        });
    Elements stays, flows;
    each(space.moving, places.line_of,
         [&]<typename E>(const E& e, const Box& place) { (place.top >= cut ? flows : stays).of<E>().push_back(e); });
    edit.added = transformed(std::move(stays), Affine::shift({0, by_mm}));
    edit.replacements = renew(edit.added, new_id);
    if (!flows.empty()) {
        // A whole number of rules, so that writing stays on them.
        const double step = std::max(1.0, page.info.spacing_mm);
        const double up = std::max(0.0, std::floor(cut / step) - 1) * step;
        edit.overflow = PageOverflow{0, transformed(std::move(flows), Affine::shift({0, -up})), {}};
        edit.overflow->replacements = renew(edit.overflow->content, new_id);
    }
    return edit;
}

}  // namespace fernleaf
