#include "drawing/shape_at.h"

#include "ink/selecting.h"

namespace fernleaf {

ShapePlace shape_at(const Reading& reading, Point place, double reach) {
    ShapePlace on, about;
    double nearest = reach, smallest = std::numeric_limits<double>::infinity();
    for (size_t l = 0; l < reading.lines.size(); ++l)
        for (size_t s = 0; s < reading.lines[l].shapes.size(); ++s) {
            const Shape& shape = reading.lines[l].shapes[s].best().shape;
            const Box box = box_of(shape);
            if (!box.grown(reach).contains(place)) continue;
            const auto outline = outline_of(shape);
            const ShapePlace here{static_cast<int>(l), static_cast<int>(s)};
            if (const double away = distance_to(outline, place); away < nearest) nearest = away, on = here;
            if (is_closed(shape.kind) && box.width() * box.height() < smallest && inside(outline.front(), place))
                smallest = box.width() * box.height(), about = here;
        }
    return on.valid() ? on : about;
}

}  // namespace fernleaf
