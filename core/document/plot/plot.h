// A plot: curves of formulas and measured points within axes. What it shows follows from its formulas and from what
// names stand for where it lies, each time it is drawn (math/curves.h, render/plot_look.h).
#pragma once

#include <cstdint>
#include <map>
#include <string>
#include <vector>

#include "document/element_traits.h"
#include "document/working_manner.h"

namespace fernleaf {

using PlotId = ElementId;

constexpr double kLeastPlotMm = 20, kLargestPlotMm = 5000;
constexpr size_t kMostCurves = 12, kMostPlotPoints = 5000, kLongestPlotted = 2000;  // bytes
constexpr double kFarthestPlotted = 1e12, kNarrowestPlotted = 1e-9;                 // of an axis

struct PlotCurve {
    std::string formula;         // LaTeX or plain: an expression in one unknown, or y = such a one
    uint32_t colour = 0x2E6B4F;  // 0xRRGGBB
    friend bool operator==(const PlotCurve&, const PlotCurve&) = default;
};

// Measured values: a column of a table over another.
struct PlotPoints {
    std::vector<Point> at;
    std::string name = {};       // may be empty
    uint32_t colour = 0x2E6B4F;  // 0xRRGGBB
    friend bool operator==(const PlotPoints&, const PlotPoints&) = default;
};

// What of the numbers is seen.
struct PlotRange {
    double left = -10, right = 10, bottom = -10, top = 10;
    friend bool operator==(const PlotRange&, const PlotRange&) = default;
};
bool is_sound(const PlotRange& range);
// What is seen after the plane was moved by so many numbers, or drawn larger (over 1) or smaller about a place. A range
// that would be too wide or too narrow stays as it is.
PlotRange moved(const PlotRange& range, Point by);
PlotRange zoomed(const PlotRange& range, Point about, double times);

struct Plot {
    PlotId id = 0;
    int64_t z = 0;  // its place among the others (z_of); 0: by its id
    Box box;        // mm, before it is turned about its middle
    double angle = 0;
    std::vector<PlotCurve> curves;
    std::vector<PlotPoints> points;
    PlotRange range;
    bool marks = false;  // zeros, highest and lowest places are marked
    AngleUnit angles = AngleUnit::radian;
    bool decimal_comma = false;  // how its formulas are understood
    uint32_t colour = 0x1E2A44;  // of its axes, 0xRRGGBB
    int64_t group = 0;           // those of one number are taken together; 0: by itself
    // What names stand for where it lies; not kept, but given to what is drawn (math/page_values.h).
    std::map<std::string, double> values = {};
    friend bool operator==(const Plot&, const Plot&) = default;
};

template <>
struct ElementTraits<Plot> {
    static constexpr ElementKind kKind = ElementKind::plot;
    static constexpr PaintLayer kLayer = PaintLayer::objects;
    static Box bounds(const Plot& plot);
    static bool covers(const Plot& plot, Point p, double reach_mm);
    static bool mostly_inside(const Plot& plot, const std::vector<Point>& polygon);
    static Plot transformed(Plot plot, const Affine& by);
    static bool locked(const Plot&) { return false; }
    static constexpr bool kHasColour = true;
    static void set_colour(Plot& plot, uint32_t colour) { plot.colour = colour; }
    static std::optional<std::string> validation_error(const Plot& plot);
    static std::string encode(const Plot& plot);  // JSON
    static Result<Plot> decode(std::string_view bytes);
    static Plot as_kept(Plot plot) { return plot.values.clear(), plot; }
    static std::vector<std::string> files(const Plot&) { return {}; }
    static std::vector<ElementId>* made_from(Plot&) { return nullptr; }
    static std::string plain_text(const Plot& plot);  // its formulas, one a line
};

}  // namespace fernleaf
