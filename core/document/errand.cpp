#include "document/errand.h"

#include <algorithm>

namespace fernleaf {
namespace {

// mm
constexpr double kBoxMm = 5, kFootMm = 4, kLeftMm = 8, kPitchMm = 16, kAboutMm = 1.2, kLeastTickMm = 1.5;
constexpr double kMostOfIt = 0.7;  // of a stroke's points; ticks fly out of their boxes

}  // namespace

std::vector<ErrandBox> errand_boxes(const Sheet& sheet) {
    std::vector<ErrandBox> out;
    if (!sheet.errands || sheet.endless) return out;
    for (int i = 0; i < kErrands; ++i)
        out.push_back({static_cast<Errand>(i),
                       Box::of(kLeftMm + i * kPitchMm, sheet.height_mm - kFootMm - kBoxMm, kBoxMm, kBoxMm)});
    return out;
}

std::optional<Errand> errand_of(const Sheet& sheet, const Stroke& stroke) {
    if (!sheet.errands || stroke.points.empty()) return std::nullopt;
    const Box covered = stroke.box();
    // What is written across the foot of a page ticks nothing.
    if (std::max(covered.width(), covered.height()) < kLeastTickMm || covered.width() > kPitchMm) return std::nullopt;
    for (const ErrandBox& e : errand_boxes(sheet)) {
        const Box reach = e.box.grown(kAboutMm);
        const auto within =
            std::ranges::count_if(stroke.points, [&](const InkPoint& p) { return reach.contains(p.at); });
        if (static_cast<double>(within) >= kMostOfIt * static_cast<double>(stroke.points.size())) return e.errand;
    }
    return std::nullopt;
}

}  // namespace fernleaf
