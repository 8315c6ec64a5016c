// Strokes as elements of a page; what they are is in ink/stroke.h.
#pragma once

#include "document/element_traits.h"
#include "ink/stroke.h"

namespace fernleaf {

template <>
struct ElementTraits<Stroke> {
    static constexpr ElementKind kKind = ElementKind::stroke;
    static constexpr PaintLayer kLayer = PaintLayer::ink;
    static Box bounds(const Stroke& stroke);
    static bool covers(const Stroke& stroke, Point p, double reach_mm) { return touches(stroke, p, reach_mm); }
    static bool mostly_inside(const Stroke& stroke, const std::vector<Point>& polygon);
    static Stroke transformed(Stroke stroke, const Affine& by) { return fernleaf::transformed(std::move(stroke), by); }
    static bool locked(const Stroke&) { return false; }
    static constexpr bool kHasColour = true;
    static void set_colour(Stroke& stroke, uint32_t colour) { stroke.pen.colour = colour; }
    static std::optional<std::string> validation_error(const Stroke& stroke);
    // Bytes: a version, the pen, the start, then the points (encode_points).
    static std::string encode(const Stroke& stroke);
    static Result<Stroke> decode(std::string_view bytes);
    static Stroke as_kept(Stroke stroke);
    static std::vector<std::string> files(const Stroke&) { return {}; }
    static std::vector<ElementId>* made_from(Stroke&) { return nullptr; }
    static std::string plain_text(const Stroke&) { return {}; }
};

// Points as differences of 1/100 mm and ms in variable-length integers, with pressure and tilt where there are any:
// places are kept to 1/100 mm, pressure to 1/255, tilt to 1°.
std::string encode_points(const std::vector<InkPoint>& points);
Result<std::vector<InkPoint>> decode_points(std::string_view bytes);

}  // namespace fernleaf
