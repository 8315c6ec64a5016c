// A formula set in type on the page. What it says is LaTeX; how that looks is told when it is drawn
// (render/formula_look.h), and how much room it takes by who sets it.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "document/element_traits.h"

namespace fernleaf {

using SetFormulaId = ElementId;

constexpr double kLeastFormulaMm = 1, kLargestFormulaMm = 200;  // of its type
constexpr size_t kLongestFormula = 20'000;                      // bytes

struct SetFormula {
    SetFormulaId id = 0;
    int64_t z = 0;        // its place among the others (z_of); 0: by its id
    Point middle;         // mm, of its box
    double angle = 0;     // degrees clockwise about its middle
    double size_mm = 5;   // of its type
    double width_mm = 0;  // its box
    double ascent_mm = 0, descent_mm = 0;
    std::string latex;
    uint32_t colour = 0x1E2A44;       // 0xRRGGBB
    std::vector<StrokeId> ink = {};   // that it was set from; empty for one that wasn't
    Affine transform_since_set = {};  // what has become of it since then: its ink would have gone with it
    int64_t group = 0;                // those of one number are taken together; 0: by itself
    friend bool operator==(const SetFormula&, const SetFormula&) = default;
};

// As it lies before it is turned, mm.
Box straight_box(const SetFormula& formula);

template <>
struct ElementTraits<SetFormula> {
    static constexpr ElementKind kKind = ElementKind::formula;
    static constexpr PaintLayer kLayer = PaintLayer::objects;
    static Box bounds(const SetFormula& formula);
    static bool covers(const SetFormula& formula, Point p, double reach_mm);
    static bool mostly_inside(const SetFormula& formula, const std::vector<Point>& polygon);
    // Larger or smaller, never of other proportions.
    static SetFormula transformed(SetFormula formula, const Affine& by);
    static bool locked(const SetFormula&) { return false; }
    static constexpr bool kHasColour = true;
    static void set_colour(SetFormula& formula, uint32_t colour) { formula.colour = colour; }
    static std::optional<std::string> validation_error(const SetFormula& formula);
    static std::string encode(const SetFormula& formula);  // JSON
    static Result<SetFormula> decode(std::string_view bytes);
    static SetFormula as_kept(SetFormula formula) { return formula; }
    static std::vector<std::string> files(const SetFormula&) { return {}; }
    static std::vector<ElementId>* made_from(SetFormula& formula) { return &formula.ink; }
    static std::string plain_text(const SetFormula& formula) { return formula.latex; }
};

}  // namespace fernleaf
