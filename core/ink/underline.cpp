#include "ink/underline.h"

#include <algorithm>
#include <cmath>

#include "ink/sign.h"

namespace fernleaf {
namespace {

constexpr double kUsualHeightMm = 2.5;   // of strokes, where there are none to tell
constexpr double kLeastHeightMm = 0.8;   // lower strokes are dots
constexpr double kShortest = 1.5;        // in usual heights; shorter lines are dashes and bars of letters
constexpr double kFlat = 0.35;           // of an underline's width: its height at most
constexpr double kReach = 3.2;           // above it, in usual heights, writing is looked for
constexpr double kGap = 1.5;             // from feet to the line, at most
constexpr double kCut = 0.2;             // so far the line may run above the feet
constexpr double kUnderlined = 0.6;      // of its length, by writing
constexpr double kBetweenLetters = 0.5;  // on either side of a stroke, in usual heights, counts as covered
constexpr double kBelow = 0.4;           // of its length, at most, with ink so near below:
constexpr double kBelowGap = 1.1;        // in usual heights
constexpr double kWiderThanHigh = 1.1;   // than the highest stroke above it: else it is a bar of that letter
constexpr double kJoinedMm = 0.8;        // uprights that end so near to both of its ends make a box of it

// How much of a stretch boxes cover, 0 to 1.
double covered(double from, double to, std::vector<std::pair<double, double>> parts) {
    std::ranges::sort(parts);
    double sum = 0, reach = from;
    for (const auto& [left, right] : parts) {
        const double begin = std::max(left, reach), end = std::min(right, to);
        if (end > begin) sum += end - begin;
        reach = std::max(reach, end);
    }
    return sum / std::max(0.1, to - from);
}

}  // namespace

std::vector<Underline> underlines_in(const std::vector<Stroke>& strokes) {
    std::vector<Box> boxes(strokes.size());
    std::vector<double> heights;
    for (size_t i = 0; i < strokes.size(); ++i) {
        if (strokes[i].points.empty() || strokes[i].pen.kind == PenKind::highlighter || !is_valid(strokes[i])) continue;
        boxes[i] = strokes[i].box();
        if (boxes[i].height() > kLeastHeightMm) heights.push_back(boxes[i].height());
    }
    std::ranges::sort(heights);
    const double usual = heights.empty() ? kUsualHeightMm : heights[heights.size() / 2];

    std::vector<Underline> out;
    for (size_t i = 0; i < strokes.size(); ++i) {
        const Box& line = boxes[i];
        if (line.width() < kShortest * usual || line.height() > kFlat * line.width()) continue;
        const bool wave = is_wave(strokes[i]);
        if (!wave && !is_level(strokes[i])) continue;
        const Point a = strokes[i].points.front().at, b = strokes[i].points.back().at;
        const auto y_at = [&](double x) {
            return b.x == a.x ? a.y : a.y + (b.y - a.y) * std::clamp((x - a.x) / (b.x - a.x), 0.0, 1.0);
        };
        Underline found{i, wave, {}};
        std::vector<std::pair<double, double>> above, below;
        std::vector<double> feet;  // how far above the line
        double highest = 0;
        bool joined_a = false, joined_b = false;
        for (size_t k = 0; k < strokes.size(); ++k) {
            if (k == i || boxes[k].empty()) continue;
            if (boxes[k].grown(kJoinedMm).meets(line) && is_upright(strokes[k]))
                for (const Point end : {strokes[k].points.front().at, strokes[k].points.back().at}) {
                    joined_a = joined_a || distance(end, a) < kJoinedMm;
                    joined_b = joined_b || distance(end, b) < kJoinedMm;
                }
            const Point c = boxes[k].centre();
            if (boxes[k].right < line.left || boxes[k].left > line.right) continue;
            const double y = y_at(c.x), middle = y - c.y;
            if (middle > 0 && middle < kReach * usual) {
                above.emplace_back(boxes[k].left - kBetweenLetters * usual, boxes[k].right + kBetweenLetters * usual);
                highest = std::max(highest, boxes[k].height());
                if (boxes[k].height() > kLeastHeightMm) feet.push_back(y - boxes[k].bottom);
                if (c.x > line.left && c.x < line.right) found.over.push_back(k);
            } else if (middle < 0 && boxes[k].top - y < kBelowGap * usual) {
                below.emplace_back(boxes[k].left, boxes[k].right);
            }
        }
        if (found.over.empty() || feet.empty() || (joined_a && joined_b) || line.width() < kWiderThanHigh * highest)
            continue;
        std::ranges::sort(feet);
        // Tails hang below the usual foot, dots and the upper parts of letters stand above it.
        if (feet[feet.size() / 4] > kGap * usual || feet[feet.size() / 2] < -kCut * usual) continue;
        if (covered(line.left, line.right, above) < kUnderlined) continue;
        if (covered(line.left, line.right, below) > kBelow) continue;
        out.push_back(std::move(found));
    }
    return out;
}

}  // namespace fernleaf
