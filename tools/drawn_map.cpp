#include "demo/drawn_map.h"

#include <algorithm>

#include "demo/chance.h"
#include "demo/write_at.h"

namespace fernleaf {
namespace {

constexpr double kBranchMm = 46, kTwigMm = 34, kBranchRowMm = 26, kTwigRowMm = 13;

}  // namespace

DrawnMap draw_map(const Hand& hand, const std::vector<std::string>& texts, const DrawingManner& manner,
                  std::mt19937& random) {
    Chance chance(random);
    DrawnMap out;
    WritingStyle style;
    style.x_height_mm = chance.between(1.7, 2.2);
    style.pen = manner.pen;
    const auto write = [&](const std::string& text, Point at, int side) {
        return write_at(out.strokes, hand, text, style, at, side, random);
    };
    const auto draw = [&](const Shape& shape) {
        std::ranges::move(drawn_by_hand(shape, manner, random), std::back_inserter(out.strokes));
    };
    // A line between two places, straight or with a bow.
    const auto branch = [&](Point from, Point to) {
        const Point way = to - from, side{-way.y, way.x};
        if (chance.one_in(2))
            draw({ShapeKind::line, {from, to}});
        else
            draw({ShapeKind::arc, {from, (from + to) * 0.5 + side * chance.between(-0.14, 0.14), to}});
    };
    const auto label = [&] { return some_text(hand, texts, random); };
    const Point middle{105, 100};
    MapNode root{label(), {}, !chance.one_in(8), 0};
    root.words = write(root.text, middle, 0);
    const double a = root.words.width() / 2 * 1.35 + 4, b = root.words.height() / 2 * 1.35 + 4;
    if (root.framed)
        draw({ShapeKind::ellipse,
              {middle - Point{0, b}, middle + Point{a, 0}, middle + Point{0, b}, middle - Point{a, 0}}});
    out.nodes.push_back(root);
    // Branches left and right, each side from the top down.
    const size_t count = 3 + chance.below(4);
    for (const int side : {1, -1}) {
        const size_t here = side > 0 ? (count + 1) / 2 : count / 2;
        for (size_t i = 0; i < here; ++i) {
            const double row = static_cast<double>(i) - (static_cast<double>(here) - 1) / 2;
            const Point at =
                middle + Point{side * (kBranchMm + chance.between(-4, 4)), row * kBranchRowMm + chance.between(-2, 2)};
            MapNode node{label(), {}, false, 0};
            node.words = write(node.text, at, side);
            const size_t number = out.nodes.size();
            out.nodes.push_back(node);
            const Point end = at - Point{side * chance.between(1.2, 3.0), 0};
            const double up = std::clamp(row / std::max(1.0, static_cast<double>(here) / 2), -1.0, 1.0);
            const double across = std::sqrt(1 - 0.6 * up * up);
            const Point begin = root.framed
                                    ? middle + Point{side * a * across, b * up * 0.77}
                                    : Point{side > 0 ? root.words.right + 2 : root.words.left - 2, middle.y + 2 * up};
            branch(begin, end);
            const size_t twigs = chance.one_in(2) ? 0 : 1 + chance.below(2);
            const Point outer{side > 0 ? node.words.right : node.words.left, node.words.centre().y};
            for (size_t k = 0; k < twigs; ++k) {
                const double twig_row = static_cast<double>(k) - (static_cast<double>(twigs) - 1) / 2;
                const Point place = outer + Point{side * (kTwigMm / 2 + chance.between(-2, 2)), twig_row * kTwigRowMm};
                MapNode twig{label(), {}, false, number};
                twig.words = write(twig.text, place, side);
                out.nodes.push_back(twig);
                branch(outer + Point{side * chance.between(1.2, 2.5), twig_row},
                       place - Point{side * chance.between(1.2, 2.5), 0});
            }
        }
    }
    StrokeId id = 0;
    for (Stroke& s : out.strokes) s.id = ++id;
    return out;
}

}  // namespace fernleaf
