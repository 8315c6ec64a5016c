#include "demo/drawn_diagram.h"

#include <array>
#include <set>
#include "demo/chance.h"
#include "demo/write_at.h"

namespace fernleaf {
namespace {

constexpr double kColumnMm = 62, kRowMm = 42;
constexpr std::array kFigures{ShapeKind::rectangle, ShapeKind::rectangle, ShapeKind::rounded_rectangle,
                              ShapeKind::ellipse,   ShapeKind::diamond,   ShapeKind::parallelogram};

// A figure about words of that width and height.
Shape about_words(ShapeKind kind, Point centre, double wide, double high) {
    const double roomy = kind == ShapeKind::diamond         ? 1.75
                         : kind == ShapeKind::ellipse       ? 1.4
                         : kind == ShapeKind::parallelogram ? 1.3
                                                            : 1.15;
    const double w = roomy * wide / 2 + 2, h = roomy * high / 2 + 2;
    Shape out{kind, {}};
    if (kind == ShapeKind::diamond || kind == ShapeKind::ellipse)
        out.points = {centre - Point{0, h}, centre + Point{w, 0}, centre + Point{0, h}, centre - Point{w, 0}};
    else if (kind == ShapeKind::parallelogram)
        out.points = {centre + Point{-w + 0.35 * h, -h}, centre + Point{w + 0.35 * h, -h},
                      centre + Point{w - 0.35 * h, h}, centre + Point{-w - 0.35 * h, h}};
    else
        out.points = {centre + Point{-w, -h}, centre + Point{w, -h}, centre + Point{w, h}, centre + Point{-w, h}};
    if (kind == ShapeKind::rounded_rectangle) out.radius = 0.7 * h;
    return out;
}

// Where a line from a figure's middle to a point leaves it.
Point leaves(const Shape& figure, Point centre, Point toward) {
    const auto border = outline_of(figure)[0];
    Point best = centre;
    double most = -1;
    for (size_t i = 1; i < border.size(); ++i) {
        const Point a = border[i - 1], d = border[i] - a, e = toward - centre;
        const double cross = d.x * e.y - d.y * e.x;
        if (std::abs(cross) < 1e-9) continue;
        const Point f = centre - a;
        const double t = (f.x * e.y - f.y * e.x) / cross, s = (f.x * d.y - f.y * d.x) / cross;
        if (t >= 0 && t <= 1 && s >= 0 && s <= 1 && s > most) most = s, best = a + d * t;
    }
    return best;
}

}  // namespace

DrawnDiagram draw_flow(const Hand& hand, const std::vector<std::string>& texts, const DrawingManner& manner,
                       std::mt19937& random) {
    Chance chance(random);
    DrawnDiagram out;
    WritingStyle style;
    style.x_height_mm = chance.between(2, 2.8);
    style.pen = manner.pen;
    const auto write = [&](const std::string& text, Point centre) {
        return write_at(out.strokes, hand, text, style, centre, 0, random);
    };
    const auto draw = [&](const Shape& shape) {
        std::ranges::move(drawn_by_hand(shape, manner, random), std::back_inserter(out.strokes));
    };
    const size_t count = 4 + chance.below(6), columns = 2 + chance.below(2);
    std::vector<Point> centres;
    for (size_t i = 0; i < count; ++i) {
        const size_t row = i / columns, place = i % columns, column = row % 2 == 0 ? place : columns - 1 - place;
        const Point centre{40 + kColumnMm * static_cast<double>(column) + chance.between(-3, 3),
                           30 + kRowMm * static_cast<double>(row) + chance.between(-2, 2)};
        const std::string text = some_text(hand, texts, random);
        const Box words = write(text, centre);
        MeantNode node{about_words(kFigures[chance.below(kFigures.size())], centre, words.width(), words.height()),
                       text};
        draw(node.figure);
        out.nodes.push_back(std::move(node));
        centres.push_back(centre);
    }
    std::set<std::pair<size_t, size_t>> pairs;
    const auto link = [&](size_t a, size_t b) {
        if (!pairs.insert({std::min(a, b), std::max(a, b)}).second) return;
        MeantLink meant{a,
                        b,
                        chance.one_in(5)   ? ShapeKind::line
                        : chance.one_in(8) ? ShapeKind::double_arrow
                                           : ShapeKind::arrow,
                        {}};
        Point from = leaves(out.nodes[a].figure, centres[a], centres[b]),
              to = leaves(out.nodes[b].figure, centres[b], centres[a]);
        const double way = distance(from, to);
        if (way < 6) return;
        // Ends stop short or run on.
        const Point u = (to - from) * (1 / way);
        from = from + u * chance.between(-0.8, 1.8), to = to - u * chance.between(-0.8, 1.8);
        Shape line{meant.kind, {from, to}};
        if (chance.one_in(5)) {  // an elbow
            line.points = {
                from,
                std::abs(u.x) > std::abs(u.y) ? Point{(from.x + to.x) / 2, from.y} : Point{from.x, (from.y + to.y) / 2},
                std::abs(u.x) > std::abs(u.y) ? Point{(from.x + to.x) / 2, to.y} : Point{to.x, (from.y + to.y) / 2},
                to};
            const double off = std::abs(u.x) > std::abs(u.y) ? std::abs(from.y - to.y) : std::abs(from.x - to.x);
            if (off < 3)
                line.points = {from, to};
            else if (meant.kind == ShapeKind::line)
                line.kind = ShapeKind::polyline;
        }
        draw(line);
        if (chance.one_in(3) && way > 14) {
            meant.text = chance.one_in(2) ? "yes" : "no";
            const Point side{-u.y, u.x};
            write(meant.text, (from + to) * 0.5 + side * (std::abs(u.x) > std::abs(u.y) ? -4.5 : 7.0));
        }
        out.links.push_back(std::move(meant));
    };
    for (size_t i = 0; i + 1 < count; ++i) link(i, i + 1);
    for (size_t k = chance.below(3); k > 0; --k) {  // some across
        const size_t a = chance.below(count);
        if (a + 2 * columns <= count && a + columns < count &&
            a / columns + 1 == (2 * columns * (a / columns + 1) - 1 - a) / columns) {
            const size_t below = 2 * columns * (a / columns + 1) - 1 - a;
            if (below < count) link(a, below);
        }
    }
    StrokeId id = 0;
    for (Stroke& s : out.strokes) s.id = ++id;
    return out;
}

}  // namespace fernleaf
