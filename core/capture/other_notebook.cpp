#include "capture/other_notebook.h"

#include <cmath>
#include <unordered_set>

namespace fernleaf {
namespace {

constexpr double kCellMm = 1;
constexpr size_t kLeastCells = 40, kLeastEarlierCells = 150;  // to tell anything by
// Of the later ink's cells. What is added to a page crosses a tenth of it at most; on a page half covered by lines of
// writing those of another cross a third and more.
constexpr double kSurelyAcross = 0.3, kPerhapsAcross = 0.15;

int64_t cell_of(Point p) {
    return (static_cast<int64_t>(std::floor(p.x / kCellMm)) << 32) ^
           (static_cast<int64_t>(std::floor(p.y / kCellMm)) & 0xFFFFFFFF);
}

std::unordered_set<int64_t> cells(const std::vector<Stroke>& ink) {
    std::unordered_set<int64_t> out;
    for (const Stroke& stroke : ink)
        for (size_t i = 0; i < stroke.points.size(); ++i) {
            const Point to = stroke.points[i].at, from = i > 0 ? stroke.points[i - 1].at : to;
            const int steps = 1 + static_cast<int>(distance(from, to) / (kCellMm / 2));
            for (int k = 1; k <= steps; ++k) out.insert(cell_of(from + (to - from) * (static_cast<double>(k) / steps)));
        }
    return out;
}

}  // namespace

OtherNotebook other_notebook(const std::vector<Stroke>& earlier, const std::vector<Stroke>& later, bool begins_anew) {
    const auto before = cells(earlier), now = cells(later);
    if (now.size() < kLeastCells || before.size() < kLeastEarlierCells) return OtherNotebook::no;
    size_t across = 0;
    for (const int64_t cell : now) across += before.contains(cell);
    const double share = static_cast<double>(across) / static_cast<double>(now.size());
    if (share >= kSurelyAcross) return begins_anew ? OtherNotebook::yes : OtherNotebook::perhaps;
    if (share >= kPerhapsAcross || begins_anew) return OtherNotebook::perhaps;
    return OtherNotebook::no;
}

}  // namespace fernleaf
