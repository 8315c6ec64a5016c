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

struct FairShape {
    FairShapeId id = 0;
    int64_t z = 0;  // its place among the others (z_of); 0: by its id
    Shape shape;    // mm
    double width_mm = 0.5;
    uint32_t colour = 0x1E2A44;       // 0xRRGGBB
    std::vector<StrokeId> ink = {};   // what it was drawn from; empty for one that wasn't
    Affine transform_since_set = {};  // what has become of it since then: its ink would have gone with it
    friend bool operator==(const FairShape&, const FairShape&) = default;
};

template <>
struct ElementTraits<FairShape> {
    static constexpr ElementKind kKind = ElementKind::shape;
    static constexpr PaintLayer kLayer = PaintLayer::objects;
    static Box bounds(const FairShape& fair) { return box_of(fair.shape).grown(fair.width_mm / 2); }
    // On its lines; what it encloses is not it.
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
