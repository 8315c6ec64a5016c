#include "document/sheets.h"

#include <algorithm>
#include <numbers>

#include "document/elements.h"

namespace fernleaf {
namespace {

constexpr double kLowestShare = 0.5;  // of a sheet that must be filled before it may end
constexpr double kMarginMm = 4;       // kept free about a cut where there is room

// Heights at which something stands, as intervals from the top down that do not overlap.
std::vector<std::pair<double, double>> occupied(const Page& page) {
    std::vector<std::pair<double, double>> spans;
    const auto add = [&](const Box& box) {
        if (!box.empty()) spans.emplace_back(box.top, box.bottom);
    };
    for (const Stroke& s : page.strokes) add(s.box().grown(s.pen.width_mm / 2));
    for (const Picture& p : page.pictures) add(drawn_box(p));
    for (const TextBlock& t : page.texts)
        for (const PlacedWord& w : t.words) add(w.box);  // a block can be cut between its lines
    std::ranges::sort(spans);
    std::vector<std::pair<double, double>> joined;
    for (const auto& [top, bottom] : spans) {
        if (!joined.empty() && top <= joined.back().second)
            joined.back().second = std::max(joined.back().second, bottom);
        else
            joined.emplace_back(top, bottom);
    }
    return joined;
}

// The lowest place from first to last where nothing stands; last itself when there is none.
double cut_between(double first, double last, const std::vector<std::pair<double, double>>& spans) {
    double best = last;
    bool found = false;
    double free_from = 0;
    const auto gap = [&](double from, double to) {
        const double low = std::min(to, last);
        if (low <= std::max(from, first)) return;
        best = std::max({from, first, low - kMarginMm, (std::max(from, first) + low) / 2});
        found = true;
    };
    for (const auto& [top, bottom] : spans) {
        if (free_from > last) break;
        gap(free_from, top);
        free_from = std::max(free_from, bottom);
    }
    if (free_from <= last) gap(free_from, last);
    return found ? best : last;
}

}  // namespace

std::vector<Box> sheets_of(const Page& page) {
    const double width = page.info.width_mm, tallest = width * std::numbers::sqrt2;
    if (!page.info.endless) return {Box::of(0, 0, width, page.info.height_mm)};
    const auto spans = occupied(page);
    const double end = spans.empty() ? 0 : spans.back().second + kMarginMm;
    std::vector<Box> sheets;
    double top = 0;
    while (sheets.empty() || top < end - kMarginMm) {
        const bool last = end <= top + tallest;
        const double bottom = last ? top + tallest : cut_between(top + kLowestShare * tallest, top + tallest, spans);
        sheets.push_back({0, top, width, bottom});
        top = bottom;
    }
    return sheets;
}

}  // namespace fernleaf
