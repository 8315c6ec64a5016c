#include "tools/leaf_tool.h"

#include <algorithm>
#include <cmath>

#include "drawing/shape_at.h"

namespace fernleaf {
namespace {

constexpr double kFigureReachMm = 2;

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
    if (const ReadPlace word = word_at(px); word.valid()) return word;
    const QPointF mm = view().to_page(px);
    const ShapePlace shape = shape_at(session().reading(), {mm.x(), mm.y()}, kFigureReachMm);
    return ReadPlace::of_shape(shape.line, shape.shape);
}

}  // namespace fernleaf
