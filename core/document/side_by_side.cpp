#include "document/side_by_side.h"

namespace fernleaf {
namespace {

constexpr double kGapMm = 6, kEdgeMm = 8;
constexpr double kSmaller = 0.97;  // tried scale by scale

// In rows at a scale; empty when they do not fit.
std::vector<Box> in_rows(const std::vector<SizeMm>& sheets, SizeMm page, double scale) {
    std::vector<Box> out;
    double x = kEdgeMm, y = kEdgeMm, row = 0;
    for (const SizeMm& sheet : sheets) {
        const double w = sheet.width * scale, h = sheet.height * scale;
        if (x > kEdgeMm && x + w > page.width - kEdgeMm) {
            x = kEdgeMm;
            y += row + kGapMm;
            row = 0;
        }
        if (x + w > page.width - kEdgeMm || y + h > page.height - kEdgeMm) return {};
        out.push_back(Box::of(x, y, w, h));
        x += w + kGapMm;
        row = std::max(row, h);
    }
    return out;
}

}  // namespace

std::vector<Box> side_by_side(const std::vector<SizeMm>& sheets, SizeMm page) {
    if (sheets.empty()) return {};
    std::vector<Box> out;
    for (double scale = 1; out.empty(); scale *= kSmaller) out = in_rows(sheets, page, scale);
    return out;
}

}  // namespace fernleaf
