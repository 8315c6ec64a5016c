#include "drawing/fair_drawing.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <unordered_map>

#include "drawing/drawing_reading.h"
#include "drawing/drawn_ink.h"
#include "drawing/links.h"

namespace fernleaf {
namespace {

constexpr double kNearlyLevel = 6;      // degrees
constexpr double kNearlyAsLong = 0.1;   // of the longer one
constexpr double kNearlyInRowMm = 1.5;  // of middles from that of their row
constexpr double kLevelMm = 1e-6;

Point middle_of(const Shape& shape) { return box_of(shape).centre(); }

// The shape as changed, if no point of it went too far from where it was drawn.
Shape within_reach(const Shape& drawn, const Shape& now, Shape changed) {
    for (size_t i = 0; i < drawn.points.size(); ++i)
        if (distance(drawn.points[i], changed.points[i]) > kMostMovedMm) return now;
    return changed;
}

// How far a direction is from level or upright, whichever is nearer: degrees, -45 to 45.
double off_level(Point way) {
    const double degrees = std::atan2(way.y, way.x) * 180 / std::numbers::pi;
    return degrees - 90 * std::round(degrees / 90);
}

// The direction of its longest side, or of its axis.
Point direction_of(const Shape& shape) {
    const std::vector<Point>& p = shape.points;
    if (shape.kind == ShapeKind::ellipse) return p[1] - p[3];
    if (shape.kind == ShapeKind::diamond) return p[2] - p[0];
    Point longest;
    const size_t sides = is_closed(shape.kind) ? p.size() : p.size() - 1;
    for (size_t i = 0; i < sides; ++i)
        if (const Point side = p[(i + 1) % p.size()] - p[i]; length(side) > length(longest)) longest = side;
    return longest;
}

bool has_direction(ShapeKind kind) {
    return kind != ShapeKind::circle && kind != ShapeKind::arc && kind != ShapeKind::curve &&
           kind != ShapeKind::brace && kind != ShapeKind::star && kind != ShapeKind::polygon;
}

Shape levelled(const Shape& shape) {
    if (!has_direction(shape.kind)) return shape;
    const double off = off_level(direction_of(shape));
    if (std::abs(off) > kNearlyLevel) return shape;
    return transformed(shape, Affine::turn(-off * std::numbers::pi / 180, middle_of(shape)));
}

// Of a line of several parts each that is nearly level or upright becomes so; the ends stay as near as they can.
Shape with_right_angles(Shape shape) {
    std::vector<Point>& p = shape.points;
    for (size_t i = 1; i < p.size(); ++i) {
        const Point way = p[i] - p[i - 1];
        if (std::abs(off_level(way)) > 2 * kNearlyLevel) continue;
        if (std::abs(way.x) > std::abs(way.y))
            p[i].y = p[i - 1].y;
        else
            p[i].x = p[i - 1].x;
    }
    return shape;
}

// Numbers that are nearly alike become their mean: for each the mean of its group.
template <typename Near>
std::vector<double> grouped_means(const std::vector<double>& values, const Near& near) {
    std::vector<size_t> order(values.size());
    for (size_t i = 0; i < order.size(); ++i) order[i] = i;
    std::ranges::sort(order, {}, [&](size_t i) { return values[i]; });
    std::vector<double> out(values.size());
    for (size_t from = 0; from < order.size();) {
        size_t to = from + 1;
        while (to < order.size() && near(values[order[from]], values[order[to]])) ++to;
        double sum = 0;
        for (size_t k = from; k < to; ++k) sum += values[order[k]];
        for (size_t k = from; k < to; ++k) out[order[k]] = sum / static_cast<double>(to - from);
        from = to;
    }
    return out;
}

struct Figure {
    Shape drawn, fair;
};

void equal_sizes(std::vector<Figure*>& figures) {
    std::map<ShapeKind, std::vector<Figure*>> kinds;
    for (Figure* f : figures) kinds[f->fair.kind].push_back(f);
    for (auto& [kind, alike] : kinds) {
        std::vector<double> widths, heights;
        for (const Figure* f : alike)
            widths.push_back(box_of(f->fair).width()), heights.push_back(box_of(f->fair).height());
        const auto near = [](double a, double b) { return b - a <= kNearlyAsLong * b; };
        const std::vector<double> wide = grouped_means(widths, near), high = grouped_means(heights, near);
        for (size_t i = 0; i < alike.size(); ++i) {
            Figure& f = *alike[i];
            if (!(widths[i] > 0 && heights[i] > 0)) continue;
            double across = wide[i] / widths[i], down = high[i] / heights[i];
            // What is as high as wide by its kind stays so.
            if (kind == ShapeKind::circle || kind == ShapeKind::square) across = down = std::sqrt(across * down);
            f.fair = within_reach(f.drawn, f.fair, transformed(f.fair, Affine::scale(across, down, middle_of(f.fair))));
        }
    }
}

void in_rows(std::vector<Figure*>& figures) {
    std::vector<double> x, y;
    for (const Figure* f : figures) x.push_back(middle_of(f->fair).x), y.push_back(middle_of(f->fair).y);
    const auto near = [](double a, double b) { return b - a <= 2 * kNearlyInRowMm; };
    const std::vector<double> columns = grouped_means(x, near), rows = grouped_means(y, near);
    for (size_t i = 0; i < figures.size(); ++i) {
        Figure& f = *figures[i];
        f.fair = within_reach(f.drawn, f.fair, transformed(f.fair, Affine::shift({columns[i] - x[i], rows[i] - y[i]})));
    }
}

// How far an upright or level line is to be moved aside to lead through a figure's middle; nothing if it passes it by.
Point to_middle(const std::vector<Point>& line, const Shape& figure) {
    const Point off = middle_of(figure) - line[0], way = line[1] - line[0];
    const bool upright = std::abs(way.x) < kLevelMm, level = std::abs(way.y) < kLevelMm;
    if (upright && std::abs(off.x) < kMostMovedMm) return {off.x, 0};
    if (level && std::abs(off.y) < kMostMovedMm) return {0, off.y};
    return {};
}

// Its rules, level and upright, at the distances at which they were drawn.
FairTable fair_table(const ReadTable& read) {
    std::vector<double> x(static_cast<size_t>(read.columns) + 1), y(static_cast<size_t>(read.rows) + 1);
    FairTable out;
    for (const ReadCell& cell : read.cells) {
        const auto row = static_cast<size_t>(cell.row), column = static_cast<size_t>(cell.column);
        x[column] = cell.box.left, x[column + static_cast<size_t>(cell.column_count)] = cell.box.right;
        y[row] = cell.box.top, y[row + static_cast<size_t>(cell.row_count)] = cell.box.bottom;
        if (cell.row_count > 1 || cell.column_count > 1)
            out.merged.push_back({cell.row, cell.column, cell.row_count, cell.column_count});
    }
    out.at = {x.front(), y.front()};
    for (size_t i = 1; i < x.size(); ++i) out.columns_mm.push_back(x[i] - x[i - 1]);
    for (size_t i = 1; i < y.size(); ++i) out.rows_mm.push_back(y[i] - y[i - 1]);
    out.ink = read.rules;
    return out;
}

double median_width(const std::vector<const Stroke*>& ink) {
    std::vector<float> widths;
    for (const Stroke* s : ink) widths.push_back(s->pen.width_mm);
    std::ranges::nth_element(widths, widths.begin() + std::ssize(widths) / 2);
    return std::clamp<double>(widths[widths.size() / 2], kThinnestBorderMm, kThickestBorderMm);
}

}  // namespace

FairDrawing drawn_fair(const std::vector<Stroke>& strokes, const Reading& reading, const std::set<StrokeId>* chosen,
                       const std::vector<FairShape>& before, const std::function<int64_t()>& new_key) {
    std::unordered_map<StrokeId, const Stroke*> ink;
    for (const Stroke& s : strokes) ink[s.id] = &s;
    const auto wanted = [&](const std::vector<StrokeId>& ids) {
        const auto here = std::ranges::count_if(ids, [&](StrokeId id) { return !chosen || chosen->contains(id); });
        return std::ranges::all_of(ids, [&](StrokeId id) { return ink.contains(id); }) && 2 * here > std::ssize(ids);
    };
    std::vector<ReadShape> shapes;
    for (const ReadLine& line : reading.lines)
        for (const ReadShape& shape : line.shapes)
            if (wanted(shape.strokes)) shapes.push_back(shape);
    FairDrawing out;
    for (const ReadLine& line : reading.lines) {
        if (!line.table || line.table->rules.empty() || !wanted(line.table->rules)) continue;
        FairTable table = fair_table(*line.table);
        if (ElementTraits<FairTable>::validation_error(table)) continue;
        std::vector<const Stroke*> rules;
        for (const StrokeId id : table.ink) rules.push_back(ink[id]), out.ink.push_back(*ink[id]);
        table.width_mm = median_width(rules);
        table.colour = rules.front()->pen.colour;
        out.tables.push_back(std::move(table));
    }
    Reading all = reading;
    if (shapes.empty() && out.empty() && chosen) {
        std::vector<Stroke> said;
        for (const Stroke& s : strokes)
            if (chosen->contains(s.id) && !lies_under(s.pen)) said.push_back(s);
        shapes = drawn_ink(said, true).shapes(said);
        all.lines.emplace_back().shapes = shapes;  // so that their links hold on to their figures, too
    }
    std::vector<Figure> figures;
    for (const ReadShape& shape : shapes) {
        const Shape& drawn = shape.best().shape;
        const Shape changed = drawn.kind == ShapeKind::polyline || (is_line(drawn.kind) && drawn.points.size() > 2)
                                  ? with_right_angles(drawn)
                                  : levelled(drawn);
        figures.push_back({drawn, within_reach(drawn, drawn, changed)});
    }
    std::vector<Figure*> closed;
    for (Figure& f : figures)
        if (is_closed(f.fair.kind)) closed.push_back(&f);
    equal_sizes(closed);
    in_rows(closed);

    std::map<std::vector<StrokeId>, Figure*> by_ink;
    for (size_t i = 0; i < shapes.size(); ++i) by_ink[shapes[i].strokes] = &figures[i];
    std::unordered_map<int64_t, const FairShape*> fair_before;
    for (const FairShape& shape : before) fair_before[shape.id] = &shape;
    struct Ends {
        const Figure* figure = nullptr;   // drawn fair now,
        const FairShape* fair = nullptr;  // or before
    };
    std::map<const Figure*, std::pair<Ends, Ends>> ends;
    const DrawingReading drawing = read_drawing(all);
    for (const DrawnLink& link : drawing.links) {
        const auto line = by_ink.find(link.strokes);
        if (line == by_ink.end() || !is_line(line->second->fair.kind)) continue;
        std::vector<Point>& p = line->second->fair.points;
        const auto border = [&](size_t node) -> const Shape* {
            if (!drawing.nodes[node].figure) return nullptr;
            const auto found = by_ink.find(drawing.nodes[node].strokes);
            // One that stays ink has its border where it was drawn.
            return found != by_ink.end() ? &found->second->fair : &drawing.nodes[node].figure->shape;
        };
        // Which end is at which node: the line may have been drawn either way.
        const Shape *first = border(link.from), *last = border(link.to);
        const auto held = [&](size_t node) {
            Ends on;
            const std::vector<StrokeId>& made_of = drawing.nodes[node].strokes;
            if (const auto found = by_ink.find(made_of); found != by_ink.end()) on.figure = found->second;
            if (made_of.size() == 1)
                if (const auto found = fair_before.find(made_of[0]); found != fair_before.end())
                    on.fair = found->second;
            return on;
        };
        std::pair<Ends, Ends>& holds = ends[line->second] = {held(link.from), held(link.to)};
        const Point from = drawing.nodes[link.from].box.centre(), to = drawing.nodes[link.to].box.centre();
        if (distance(from, p.front()) + distance(to, p.back()) > distance(from, p.back()) + distance(to, p.front()))
            std::swap(first, last), std::swap(holds.first, holds.second);
        // Upright or level, and nearly at the middle of what it leads to or from: there.
        if (p.size() == 2)
            for (const Shape* figure : {first, last})
                if (const Point by = figure ? to_middle(p, *figure) : Point{}; length(by) > 0) {
                    p[0] = p[0] + by, p[1] = p[1] + by;
                    break;
                }
        if (last) p.back() = on_border(*last, p[p.size() - 2], p.back());
        if (first) p.front() = on_border(*first, p[1], p.front());
    }

    std::map<const Figure*, int64_t> keys;
    for (const Figure& figure : figures)
        if (is_closed(figure.fair.kind) && is_valid(figure.fair)) keys[&figure] = new_key();
    for (size_t i = 0; i < shapes.size(); ++i) {
        if (!is_valid(figures[i].fair)) continue;
        FairShape fair;
        if (const auto key = keys.find(&figures[i]); key != keys.end()) fair.key = key->second;
        if (const auto held = ends.find(&figures[i]); held != ends.end()) {
            const std::vector<Point>& p = figures[i].fair.points;
            const auto end = [&](const Ends& on, Point at, Point before_it) -> LinkEnd {
                if (on.figure && keys.contains(on.figure))
                    return link_end(keys.at(on.figure), on.figure->fair, at, before_it);
                return on.fair ? link_end(on.fair->key, on.fair->shape, at, before_it) : LinkEnd{};
            };
            fair.from = end(held->second.first, p.front(), p[1]);
            fair.to = end(held->second.second, p.back(), p[p.size() - 2]);
            if (p.size() > 2) fair.routing = Routing::elbow;
        }
        fair.shape = figures[i].fair;
        fair.ink = shapes[i].strokes;
        std::vector<const Stroke*> lines;
        for (const StrokeId id : fair.ink) lines.push_back(ink[id]), out.ink.push_back(*ink[id]);
        fair.width_mm = median_width(lines);
        fair.colour = ink[fair.ink.front()]->pen.colour;
        out.shapes.push_back(std::move(fair));
    }
    return out;
}

Edit edit_of(FairDrawing fair, const std::function<ElementId()>& new_id) {
    Edit edit{"Draw fair"};
    edit.removed.strokes = std::move(fair.ink);
    for (FairShape& shape : fair.shapes) shape.id = new_id();
    edit.added.shapes = std::move(fair.shapes);
    for (FairTable& table : fair.tables) table.id = new_id();
    edit.added.tables = std::move(fair.tables);
    return edit;
}

}  // namespace fernleaf
