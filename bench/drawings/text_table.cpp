#include <chrono>
#include <cstdio>

#include "bench/drawings/tables.h"
#include "drawing/drawn_ink.h"
#include "drawing/table_finding.h"
#include "ink/ink_tick_boxes.h"

namespace fernleaf {

void text_table(const DrawingsBench& bench) {
    size_t strokes = 0, taken = 0, pages = 0, tables = 0, boxes = 0;
    double seconds = 0;
    for (size_t i = 0; i < bench.count; ++i) {
        std::mt19937 random(bench.seed * 100000 + 70000 + static_cast<unsigned>(i));
        const Hand& hand = bench.hands[i % bench.hands.size()];
        WritingStyle style;
        style.x_height_mm = std::uniform_real_distribution<double>(1.8, 3.2)(random);
        std::vector<Stroke> page;
        for (int line = 0; line < 18; ++line) {
            const std::string& text = bench.lines[random() % bench.lines.size()];
            std::ranges::move(hand.write(text, {15, 20 + 4.6 * style.x_height_mm * line}, style, random),
                              std::back_inserter(page));
        }
        tables += tables_in(page).size();
        boxes += ink_tick_boxes(page).size();
        const auto begin = std::chrono::steady_clock::now();
        const DrawnInk ink = drawn_ink(page);
        seconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
        strokes += page.size();
        const auto here = static_cast<size_t>(std::ranges::count(ink.drawn, true));
        taken += here;
        if (bench.tell_wrong)
            for (const ShapeGroup& group : ink.groups)
                std::printf("page %zu (hand %zu): %s of %zu strokes, %.1f x %.1f mm, x-height %.1f\n", i,
                            i % bench.hands.size(), std::string(name_of(group.reading.best().shape.kind)).c_str(),
                            group.strokes.size(), page[group.strokes[0]].box().width(),
                            page[group.strokes[0]].box().height(), style.x_height_mm);
        ++pages;
    }
    std::printf(
        "pages of words: %zu of %zu strokes taken for shapes, %.2f %%; %zu tables; %zu boxes to tick; %.0f ms a page\n",
        taken, strokes, 100.0 * static_cast<double>(taken) / static_cast<double>(std::max<size_t>(1, strokes)), tables,
        boxes, 1000 * seconds / static_cast<double>(std::max<size_t>(1, pages)));
}

}  // namespace fernleaf
