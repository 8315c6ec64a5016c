#include "ink/ringed.h"

#include <algorithm>

#include "ink/sign.h"

namespace fernleaf {
namespace {

constexpr double kSmallestMm = 4, kLargestMm = 18;
constexpr size_t kMostInside = 3;
constexpr double kFilled = 0.3;  // of the ring's height, by what is inside

}  // namespace

std::vector<Ringed> ringed_in(const std::vector<Stroke>& strokes) {
    std::vector<Box> boxes;
    for (const Stroke& s : strokes)
        boxes.push_back(is_valid(s) && s.pen.kind != PenKind::highlighter ? s.box() : Box());
    std::vector<Ringed> out;
    for (size_t i = 0; i < strokes.size(); ++i) {
        const Box& ring = boxes[i];
        const auto fits = [](double mm) { return mm >= kSmallestMm && mm <= kLargestMm; };
        if (!fits(ring.width()) || !fits(ring.height()) || !is_ring(strokes[i])) continue;
        Ringed found{i, {}};
        Box inside;
        bool cuts = false;
        for (size_t k = 0; k < strokes.size() && !cuts; ++k) {
            if (k == i || boxes[k].empty() || !boxes[k].meets(ring)) continue;
            const bool whole =
                ring.contains({boxes[k].left, boxes[k].top}) && ring.contains({boxes[k].right, boxes[k].bottom});
            cuts = !whole;
            found.inside.push_back(k);
            inside.include(boxes[k]);
        }
        if (cuts || found.inside.empty() || found.inside.size() > kMostInside) continue;
        if (inside.height() < kFilled * ring.height()) continue;
        std::ranges::sort(found.inside, {}, [&](size_t k) { return boxes[k].left; });
        out.push_back(std::move(found));
    }
    return out;
}

}  // namespace fernleaf
