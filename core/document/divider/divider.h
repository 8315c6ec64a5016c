// A rule drawn across the page to part what stands above it from what stands below.
#pragma once

#include <cstdint>

#include "document/element_traits.h"

namespace fernleaf {

using DividerId = ElementId;

// As libraries keep them: numbers never change their meaning.
enum class RuleForm { plain = 0, twofold = 1, dashed = 2, dotted = 3, wavy = 4 };

constexpr double kLeastDividerMm = 2;
constexpr double kThinnestRuleMm = 0.1, kThickestRuleMm = 5;

struct Divider {
    DividerId id = 0;
    int64_t z = 0;  // its place among the others (z_of); 0: by its id
    Point middle;   // mm
    double length_mm = 100;
    double angle = 0;  // degrees clockwise about its middle
    double thickness_mm = 0.4;
    uint32_t colour = 0x1E2A44;  // 0xRRGGBB
    RuleForm form = RuleForm::plain;
    int64_t group = 0;  // those of one number are taken together; 0: by itself
    friend bool operator==(const Divider&, const Divider&) = default;
};

// How much room a rule takes across its length, mm: a wavy or twofold one more than it is thick.
double height_of(const Divider& divider);

template <>
struct ElementTraits<Divider> {
    static constexpr ElementKind kKind = ElementKind::divider;
    static constexpr PaintLayer kLayer = PaintLayer::objects;
    static Box bounds(const Divider& divider);
    static bool covers(const Divider& divider, Point p, double reach_mm);
    static bool mostly_inside(const Divider& divider, const std::vector<Point>& polygon);
    static Divider transformed(Divider divider, const Affine& by);
    static bool locked(const Divider&) { return false; }
    static constexpr bool kHasColour = true;
    static void set_colour(Divider& divider, uint32_t colour) { divider.colour = colour; }
    static std::optional<std::string> validation_error(const Divider& divider);
    static std::string encode(const Divider& divider);  // JSON
    static Result<Divider> decode(std::string_view bytes);
    static Divider as_kept(Divider divider) { return divider; }
    static std::vector<std::string> files(const Divider&) { return {}; }
    static std::vector<ElementId>* made_from(Divider&) { return nullptr; }
    static std::string plain_text(const Divider&) { return "* * *"; }
};

}  // namespace fernleaf
