#include "exchange/ink_sheet.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/quantile.h"

namespace fernleaf {
namespace {

constexpr double kHandHeightMm = 3.0;    // usual height of a stroke of handwriting
constexpr double kLongestSideMm = 1000;  // of a sheet whose unit has to be guessed
constexpr double kFarthestInkMm = 50'000;
constexpr double kEdgeMm = 10;

Box extent_of(const std::vector<Stroke>& strokes) {
    Box out;
    for (const Stroke& s : strokes) out.include(s.box());
    return out;
}

}  // namespace

void scale_to_hand_size(std::vector<Stroke>& strokes) {
    std::vector<double> heights;
    for (const Stroke& s : strokes) heights.push_back(std::max(s.box().height(), 0.3 * s.box().width()));
    const double usual = median(std::move(heights));
    const Box extent = extent_of(strokes);
    // mm, 1/100 mm, 1/10 mm, CSS px, and the tablet resolutions of 1000, 2540 and 5080 to an inch; last, whatever fits.
    double best = 0, least = 1e9;
    for (const double unit : {1.0, 0.01, 0.1, 25.4 / 96, 25.4 / 1000, 25.4 / 5080}) {
        if (std::max(extent.width(), extent.height()) * unit > kLongestSideMm) continue;
        const double miss = std::abs(std::log(std::max(usual, 1e-9) * unit / kHandHeightMm));
        if (miss < least) least = miss, best = unit;
    }
    // A tablet of yet another resolution: no common unit comes near hand size.
    if (best == 0 || (usual > 0 && least > std::log(3.0)))
        best = std::min(kHandHeightMm / std::max(usual, 1e-9),
                        kLongestSideMm / std::max({extent.width(), extent.height(), 1e-9}));
    for (Stroke& s : strokes)
        for (InkPoint& p : s.points.change()) p.at = p.at * best;
}

bool lay_on_sheet(InkSheet& sheet, const Box& canvas) {
    const Box extent = extent_of(sheet.strokes);
    if (extent.width() > kFarthestInkMm || extent.height() > kFarthestInkMm) return false;
    const bool known = canvas.width() > 0 && canvas.height() > 0;
    Point shift;
    if (!known || !canvas.contains({extent.left, extent.top}) || !canvas.contains({extent.right, extent.bottom})) {
        if (extent.left < 0 || extent.left > 200) shift.x = kEdgeMm - extent.left;
        if (extent.top < 0 || extent.top > 280) shift.y = kEdgeMm - extent.top;
        const double right = extent.right + shift.x, bottom = extent.bottom + shift.y;
        constexpr std::array<Point, 2> kSheets = {Point{148, 210}, Point{210, 297}};  // A5, A4
        const auto* fit = std::ranges::find_if(kSheets, [&](Point s) { return right <= s.x && bottom <= s.y; });
        sheet.width_mm = fit != kSheets.end() ? fit->x : std::max(210.0, right + kEdgeMm);
        sheet.height_mm = fit != kSheets.end() ? fit->y : std::max(297.0, bottom + kEdgeMm);
    } else {
        sheet.width_mm = canvas.width();
        sheet.height_mm = canvas.height();
    }
    if (shift != Point())
        for (Stroke& s : sheet.strokes)
            for (InkPoint& p : s.points.change()) p.at = p.at + shift;
    return true;
}

}  // namespace fernleaf
