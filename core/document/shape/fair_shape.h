// A shape drawn fair: an element of its own, which remembers the ink it was drawn from.
//
//   FairShape box{.shape = read.best().shape, .width_mm = 0.5, .ink = read.strokes};
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "document/element_traits.h"
#include "document/shape/shape.h"
#include "ink/stroke.h"

namespace fernleaf {

using FairShapeId = ElementId;

constexpr double kThinnestBorderMm = 0.05, kThickestBorderMm = 20;

// Where an end of a line holds on to a figure. To its middle (the line ends on the border on its way there), or to a
// place on its border.
struct LinkEnd {
    int64_t figure = 0;     // the figure's key; 0: the end is free
    Point at = {0.5, 0.5};  // of the figure's box, 0 to 1 each way
    bool to_middle() const { return at == Point{0.5, 0.5}; }
    friend bool operator==(const LinkEnd&, const LinkEnd&) = default;
};

// As libraries keep them.
enum class Routing { straight = 0, elbow = 1, curved = 2 };
enum class BorderForm { solid = 0, dashed = 1, dotted = 2 };

struct FairShape {
    FairShapeId id = 0;
    int64_t z = 0;  // its place among the others (z_of); 0: by its id
    Shape shape;    // mm
    double width_mm = 0.5;
    uint32_t colour = 0x1E2A44;           // 0xRRGGBB
    std::vector<StrokeId> ink = {};       // what it was drawn from; empty for one that wasn't
    Affine transform_since_set = {};      // what has become of it since then: its ink would have gone with it
    int64_t key = 0;                      // what it keeps while it is changed, for links to hold on to; 0: none
    LinkEnd from = {}, to = {};           // of a line: what its ends hold on to
    Routing routing = Routing::straight;  // of a line that holds on to something
    BorderForm form = BorderForm::solid;
    uint32_t fill = 0xFFFFFF;  // 0xRRGGBB
    double fill_strength = 0;  // 0: none, to 1: covering
    int64_t group = 0;         // those of one number are taken together; 0: by itself
    bool holds() const { return from.figure != 0 || to.figure != 0; }
    friend bool operator==(const FairShape&, const FairShape&) = default;
};

template <>
struct ElementTraits<FairShape> {
    static constexpr ElementKind kKind = ElementKind::shape;
    static constexpr PaintLayer kLayer = PaintLayer::objects;
    static Box bounds(const FairShape& fair) { return box_of(fair.shape).grown(fair.width_mm / 2); }
    // On its lines; what it encloses is not it, unless it is filled.
    static bool covers(const FairShape& fair, Point p, double reach_mm);
    static bool mostly_inside(const FairShape& fair, const std::vector<Point>& polygon);
    // A circle that is stretched is an ellipse then, a rectangle that is skewed a parallelogram.
    static FairShape transformed(FairShape fair, const Affine& by);
    static bool locked(const FairShape&) { return false; }
    static constexpr bool kHasColour = true;
    static void set_colour(FairShape& fair, uint32_t colour) { fair.colour = colour; }
    static std::optional<std::string> validation_error(const FairShape& fair);
    static std::string encode(const FairShape& fair);  // JSON
    static Result<FairShape> decode(std::string_view bytes);
    static FairShape as_kept(FairShape fair) { return fair; }
    static std::vector<std::string> files(const FairShape&) { return {}; }
    static std::vector<ElementId>* made_from(FairShape& fair) { return &fair.ink; }
    static std::string plain_text(const FairShape&) { return {}; }
};

}  // namespace fernleaf
