#include "tools/leaf_tool.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "drawing/shape_at.h"

namespace fernleaf {
namespace {

constexpr double kFigureReachMm = 2, kSignReachMm = 1;

// The smallest of a formula's signs about a point, or -1.
int sign_at(const ReadLine& line, Point mm) {
    int best = -1;
    double smallest = std::numeric_limits<double>::infinity();
    if (!can_be_said(line.signs)) return best;
    for (size_t i = 0; i < line.signs.size(); ++i) {
        const Box box = line.signs[i].box.grown(kSignReachMm);
        const double size = box.width() * box.height();
        if (box.contains(mm) && size < smallest) smallest = size, best = static_cast<int>(i);
    }
    return best;
}

}  // namespace

ReadPlace ToolSurface::word_at(QPointF px) {
    const QPointF mm = view().to_page(px);
    const auto& lines = session().reading().lines;
    ReadPlace best;
    double nearest = 1.5;  // mm
    for (size_t l = 0; l < lines.size(); ++l)
        for (size_t w = 0; w < lines[l].words.size(); ++w) {
            const Box& box = lines[l].words[w].box;
            const double dx = std::max({box.left - mm.x(), 0.0, mm.x() - box.right});
            const double dy = std::max({box.top - mm.y(), 0.0, mm.y() - box.bottom});
            if (const double d = std::hypot(dx, dy); d < nearest)
                nearest = d, best = {static_cast<int>(l), static_cast<int>(w)};
        }
    return best;
}

ReadPlace ToolSurface::place_at(QPointF px) {
    const QPointF mm = view().to_page(px);
    if (const ReadPlace word = word_at(px); word.valid()) {
        const int sign = sign_at(session().reading().lines[static_cast<size_t>(word.line)], {mm.x(), mm.y()});
        return sign >= 0 ? ReadPlace::of_sign(word.line, sign) : word;
    }
    const ShapePlace shape = shape_at(session().reading(), {mm.x(), mm.y()}, kFigureReachMm);
    return ReadPlace::of_shape(shape.line, shape.shape);
}

}  // namespace fernleaf
