#include "bench/drawings/measuring.h"

#include "reading/ink_reading.h"

namespace fernleaf {

Reading read_drawn(const std::vector<Stroke>& strokes, const DrawnInk& ink, const Reader& reader) {
    std::vector<Shape> enclosing;
    for (const ShapeGroup& group : ink.groups) enclosing.push_back(group.reading.best().shape);
    Reading reading;
    for (const std::vector<Stroke>& words : parted_by_figures(ink.rest(strokes), enclosing))
        insert_regions(reading, read_ink(words, reader, {}, {}));
    reading.lines.emplace_back().shapes = ink.shapes(strokes);
    return reading;
}

}  // namespace fernleaf
