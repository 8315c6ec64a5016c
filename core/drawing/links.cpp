#include "drawing/links.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <optional>
#include <unordered_map>
#include <unordered_set>

#include "drawing/drawing_reading.h"
#include "drawing/pen_path.h"

namespace fernleaf {
namespace {

constexpr double kReachesBorderMm = 12;  // a link's end from what it leads to
constexpr double kHoldsOnMm = 4;         // an end that is moved there
constexpr double kToMiddle = 0.12;       // of a figure's size: how far a line may point past its middle
constexpr double kCornerMm = 6;          // that a corner of an elbow is as bad as
constexpr double kStubMm = 5;            // an elbow goes straight for, out of and into a figure, at least
constexpr double kBow = 0.3;             // height of an arc to its chord
constexpr int kArcPieces = 16;

Point at_share(const Box& box, Point share) {
    return {box.left + share.x * box.width(), box.top + share.y * box.height()};
}

Point nearest_on(const Shape& figure, Point p) {
    Point best = p;
    double least = std::numeric_limits<double>::infinity();
    for (const std::vector<Point>& line : outline_of(figure))
        for (size_t i = 1; i < line.size(); ++i) {
            const Point side = line[i] - line[i - 1];
            const double squared = dot(side, side);
            const double t = squared > 0 ? std::clamp(dot(p - line[i - 1], side) / squared, 0.0, 1.0) : 0;
            const Point foot = line[i - 1] + side * t;
            if (const double d = distance(foot, p); d < least) least = d, best = foot;
        }
    return best;
}

// Calls with each place where the way from one point to another crosses a figure's border, and how far along it is, 0
// to 1.
template <typename Each>
void for_each_crossing(const Shape& figure, Point from, Point to, const Each& each) {
    const Point way = to - from;
    for (const std::vector<Point>& line : outline_of(figure))
        for (size_t i = 1; i < line.size(); ++i) {
            const Point side = line[i] - line[i - 1], off = line[i - 1] - from;
            const double cross = way.x * side.y - way.y * side.x;
            if (std::abs(cross) < 1e-9) continue;
            const double t = (off.x * side.y - off.y * side.x) / cross, u = (off.x * way.y - off.y * way.x) / cross;
            if (t >= 0 && t <= 1 && u >= 0 && u <= 1) each(from + way * t, t);
        }
}

// The last place where the way from within a figure to a point outside crosses its border.
Point leaving(const Shape& figure, Point within, Point toward) {
    Point best = within;
    double most = -1;
    for_each_crossing(figure, within, toward, [&](Point at, double along) {
        if (along > most) most = along, best = at;
    });
    return most < 0 ? nearest_on(figure, within) : best;
}

// Where an end is aimed at: in the middle of its figure, or on its border.
Point aim(const LinkEnd& end, const Shape* figure, Point otherwise) {
    if (!figure) return otherwise;
    const Point p = at_share(box_of(*figure), end.at);
    return end.to_middle() ? p : nearest_on(*figure, p);
}

Point end_of(const LinkEnd& end, const Shape* figure, Point aimed, Point toward) {
    return figure && end.to_middle() ? leaving(*figure, aimed, toward) : aimed;
}

// A way out of a figure: a place on its border, and the direction that leads away from it.
struct Way {
    Point at, out;
};

std::vector<Way> ways(const LinkEnd& end, const Shape* figure, Point free_end) {
    std::vector<Way> out;
    constexpr std::array kSides{Point{1, 0}, Point{-1, 0}, Point{0, 1}, Point{0, -1}};
    if (!figure) {
        for (const Point side : kSides) out.push_back({free_end, side});
        return out;
    }
    const Box box = box_of(*figure);
    const Point aimed = aim(end, figure, free_end);
    for (const Point side : kSides) {
        const Point beyond = box.centre() + Point{side.x * box.width(), side.y * box.height()};
        if (end.to_middle())
            out.push_back({leaving(*figure, aimed, beyond), side});
        else
            out.push_back({aimed, side});
    }
    // At a place on a border there is one way out: away from the middle, across the nearer side.
    if (!end.to_middle()) {
        const Point off = aimed - box.centre();
        const bool level = std::abs(off.x) * box.height() > std::abs(off.y) * box.width();
        const Point side = level ? Point{off.x > 0 ? 1.0 : -1.0, 0} : Point{0, off.y > 0 ? 1.0 : -1.0};
        std::erase_if(out, [&](const Way& w) { return w.out != side; });
    }
    return out;
}

// The path from one way out into another, if it goes outward and inward as it must.
std::optional<std::vector<Point>> elbow(const Way& a, const Way& b) {
    std::vector<Point> path{a.at};
    const bool a_level = a.out.x != 0, b_level = b.out.x != 0;
    if (a_level != b_level) {
        path.push_back(a_level ? Point{b.at.x, a.at.y} : Point{a.at.x, b.at.y});
    } else {
        const auto middle = [](double from, double to) { return (from + to) / 2; };
        const double off = a_level ? std::abs(a.at.y - b.at.y) : std::abs(a.at.x - b.at.x);
        if (off > 1e-6) {
            const double turn = a_level ? middle(a.at.x, b.at.x) : middle(a.at.y, b.at.y);
            path.push_back(a_level ? Point{turn, a.at.y} : Point{a.at.x, turn});
            path.push_back(a_level ? Point{turn, b.at.y} : Point{b.at.x, turn});
        }
    }
    path.push_back(b.at);
    const auto goes = [](Point way, Point out) { return dot(way, out); };
    const double least = path.size() == 2 ? 0 : kStubMm;
    if (goes(path[1] - path[0], a.out) < least || goes(path[path.size() - 2] - path.back(), b.out) < least)
        return std::nullopt;
    return path;
}

std::vector<Point> best_elbow(const std::vector<Way>& from, const std::vector<Way>& to) {
    std::vector<Point> best;
    double least = std::numeric_limits<double>::infinity();
    for (const Way& a : from)
        for (const Way& b : to)
            if (auto path = elbow(a, b)) {
                const double cost = path_length(*path) + kCornerMm * static_cast<double>(path->size() - 2);
                if (cost < least) least = cost, best = *std::move(path);
            }
    return best;
}

std::vector<Point> arc_between(Point a, Point b) {
    const Point way = b - a, control = (a + b) * 0.5 + Point{way.y, -way.x} * (2 * kBow);
    std::vector<Point> out;
    for (int i = 0; i <= kArcPieces; ++i) {
        const double t = static_cast<double>(i) / kArcPieces;
        out.push_back(a * ((1 - t) * (1 - t)) + control * (2 * t * (1 - t)) + b * (t * t));
    }
    return out;
}

// What takes a line's ends from where they were to where they are.
Affine carried(Point a, Point b, Point to_a, Point to_b) {
    const Point was = b - a, is = to_b - to_a;
    const double squared = dot(was, was);
    if (squared < 1e-9) return Affine::shift(to_a - a);
    const double c = dot(was, is) / squared, s = (was.x * is.y - was.y * is.x) / squared;
    return {c, -s, to_a.x - c * a.x + s * a.y, s, c, to_a.y - s * a.x - c * a.y};
}

using Figures = std::unordered_map<int64_t, const Shape*>;

const Shape* figure_of(const LinkEnd& end, const Figures& figures) {
    const auto found = end.figure == 0 ? figures.end() : figures.find(end.figure);
    return found == figures.end() ? nullptr : found->second;
}

// The figures of a page once some are taken away and others added.
Figures figures_after(const Elements& page, const Elements& removed, const Elements& added) {
    Figures out;
    for (const FairShape& s : page.shapes)
        if (s.key != 0) out[s.key] = &s.shape;
    for (const FairShape& s : removed.shapes) out.erase(s.key);
    for (const FairShape& s : added.shapes)
        if (s.key != 0) out[s.key] = &s.shape;
    return out;
}

// Ends whose figures are gone are free.
FairShape led_among(FairShape link, const Figures& figures) {
    for (LinkEnd* end : {&link.from, &link.to})
        if (!figure_of(*end, figures)) *end = {};
    const Shape *from = figure_of(link.from, figures), *to = figure_of(link.to, figures);
    return led(std::move(link), from, to);
}

// A link that was itself moved holds on to what its ends came near to.
void hold_anew(FairShape& link, const Figures& figures) {
    std::vector<Point>& p = link.shape.points;
    for (const bool last : {false, true}) {
        const Point at = last ? p.back() : p.front(), before = last ? p[p.size() - 2] : p[1];
        LinkEnd& end = last ? link.to : link.from;
        const Shape* held = figure_of(end, figures);
        if (held && distance(nearest_on(*held, at), at) < kHoldsOnMm) continue;
        end = {};
        double nearest = kHoldsOnMm;
        for (const auto& [key, figure] : figures)
            if (const double away = distance(nearest_on(*figure, at), at); away < nearest)
                nearest = away, end = link_end(key, *figure, at, before);
    }
    if (link.from.figure == link.to.figure) link.to = {};
}

// Words beside links, and how far the middles of these went.
class Labels {
public:
    explicit Labels(const Reading& reading) : drawing_(read_drawing(reading)) {}

    void carry(const FairShape& before, const FairShape& after) {
        const auto link = std::ranges::find_if(
            drawing_.links, [&](const DrawnLink& l) { return l.strokes.size() == 1 && l.strokes[0] == before.id; });
        if (link == drawing_.links.end()) return;
        const Point by = middle_of(after.shape) - middle_of(before.shape);
        for (const ReadWord* word : link->words) {
            for (const StrokeId id : word->strokes) moved_[id] = by;
            if (word->block != 0) moved_[word->block] = by;
        }
    }

    // Those that the edit does not touch itself.
    void add_to(Edit& edit, const Page& page, const std::function<ElementId()>& new_id) const {
        if (moved_.empty()) return;
        std::unordered_set<ElementId> touched;
        for (const ElementId id : ids_of(edit.removed)) touched.insert(id);
        const auto carry = [&]<typename E>(const std::vector<E>& list) {
            for (const E& e : list) {
                const auto by = moved_.find(e.id);
                if (by == moved_.end() || touched.contains(e.id)) continue;
                Elements one;
                one.of<E>().push_back(e);
                one = transformed(std::move(one), Affine::shift(by->second));
                const auto replacements = renew(one, new_id);
                edit.replacements.insert(edit.replacements.end(), replacements.begin(), replacements.end());
                edit.removed.of<E>().push_back(e);
                edit.added.of<E>().push_back(one.of<E>().front());
            }
        };
        carry(page.strokes);
        carry(page.texts);
    }

private:
    static Point middle_of(const Shape& line) {
        const std::vector<Point>& p = line.points;
        const double half = path_length(p) / 2;
        double way = 0;
        for (size_t i = 1; i < p.size(); ++i) {
            const double piece = distance(p[i - 1], p[i]);
            if (way + piece >= half && piece > 0) return p[i - 1] + (p[i] - p[i - 1]) * ((half - way) / piece);
            way += piece;
        }
        return p.back();
    }

    DrawingReading drawing_;
    std::unordered_map<ElementId, Point> moved_;
};

}  // namespace

Point on_border(const Shape& figure, Point from, Point end) {
    const Point way = end - from, far = from + way * (1 + kReachesBorderMm / std::max(1.0, length(way)));
    Point met = end;
    double least = std::numeric_limits<double>::infinity();
    for_each_crossing(figure, from, far, [&](Point at, double) {
        if (const double d = distance(at, end); d < least) least = d, met = at;
    });
    if (least <= kReachesBorderMm) return met;
    const Point nearest = nearest_on(figure, end);
    return distance(nearest, end) <= kReachesBorderMm ? nearest : end;
}

LinkEnd link_end(int64_t key, const Shape& figure, Point at, Point before) {
    const Box box = box_of(figure);
    const Point way = at - before;
    const double size = std::min(box.width(), box.height());
    const Point off = box.centre() - before;
    const double past = length(way) > 0 ? std::abs(way.x * off.y - way.y * off.x) / length(way) : size;
    if (past <= kToMiddle * size || size <= 0) return {key, {0.5, 0.5}};
    return {key, {(at.x - box.left) / box.width(), (at.y - box.top) / box.height()}};
}

FairShape led(FairShape link, const Shape* from, const Shape* to) {
    std::vector<Point>& p = link.shape.points;
    if (!is_line(link.shape.kind) || p.size() < 2 || (!from && !to)) return link;
    const Point was_from = p.front(), was_to = p.back();
    const Point a = aim(link.from, from, was_from), b = aim(link.to, to, was_to);
    std::vector<Point> path;
    if (link.routing == Routing::elbow) path = best_elbow(ways(link.from, from, a), ways(link.to, to, b));
    if (path.empty()) {
        const Point begin = end_of(link.from, from, a, b), end = end_of(link.to, to, b, a);
        path = link.routing == Routing::curved ? arc_between(begin, end) : std::vector{begin, end};
    }
    if (path_length(path) < 1e-3) return link;  // figures that lie on one another
    p = std::move(path);
    if (link.shape.kind == ShapeKind::line && p.size() > 2) link.shape.kind = ShapeKind::polyline;
    if (link.shape.kind == ShapeKind::polyline && p.size() == 2) link.shape.kind = ShapeKind::line;
    if (!link.ink.empty())
        link.transform_since_set = link.transform_since_set.then(carried(was_from, was_to, p.front(), p.back()));
    return link;
}

FairShape linked(const FairShape& from, const FairShape& to) {
    FairShape link;
    link.shape = {ShapeKind::arrow, {box_of(from.shape).centre(), box_of(to.shape).centre()}};
    link.width_mm = from.width_mm, link.colour = from.colour;
    link.from.figure = from.key, link.to.figure = to.key;
    return led(std::move(link), &from.shape, &to.shape);
}

void hold_links(Edit& edit, const Page& page, const Reading& reading, const std::function<ElementId()>& new_id) {
    if (edit.added.shapes.empty() && edit.removed.shapes.empty()) return;
    const Figures figures = figures_after(page, edit.removed, edit.added);
    std::unordered_set<int64_t> changed;  // figures
    std::unordered_set<ElementId> removed;
    for (const FairShape& s : edit.removed.shapes) changed.insert(s.key), removed.insert(s.id);
    for (const FairShape& s : edit.added.shapes) changed.insert(s.key);
    changed.erase(0);
    // Those that are changed themselves, by which ends that don't go along come off; what is new is led already.
    const bool changes_lines =
        std::ranges::any_of(edit.removed.shapes, [](const FairShape& s) { return is_line(s.shape.kind); });
    for (FairShape& link : edit.added.shapes) {
        if (!changes_lines || !is_line(link.shape.kind) || link.shape.points.size() < 2) continue;
        const bool along = changed.contains(link.from.figure) || changed.contains(link.to.figure);
        if (!along) hold_anew(link, figures);
        if (link.holds()) link = led_among(std::move(link), figures);
    }
    std::vector<std::pair<const FairShape*, FairShape>> led_anew;
    for (const FairShape& link : page.shapes) {
        if (removed.contains(link.id) || !(changed.contains(link.from.figure) || changed.contains(link.to.figure)))
            continue;
        FairShape now = led_among(link, figures);
        if (now != link) led_anew.emplace_back(&link, std::move(now));
    }
    if (led_anew.empty()) return;
    Labels labels(reading);
    for (auto& [before, now] : led_anew) {
        labels.carry(*before, now);
        now.z = z_of(*before);
        now.id = new_id();
        edit.removed.shapes.push_back(*before);
        edit.added.shapes.push_back(std::move(now));
    }
    labels.add_to(edit, page, new_id);
}

std::vector<FairShape> links_led(const Elements& page, const Elements& changed) {
    const Figures figures = figures_after(page, {}, changed);
    std::unordered_set<int64_t> keys;
    std::unordered_set<ElementId> ids;
    for (const FairShape& s : changed.shapes) keys.insert(s.key), ids.insert(s.id);
    keys.erase(0);
    std::vector<FairShape> out;
    for (const FairShape& link : page.shapes)
        if (!ids.contains(link.id) && (keys.contains(link.from.figure) || keys.contains(link.to.figure)))
            out.push_back(led_among(link, figures));
    return out;
}

}  // namespace fernleaf
