#include <algorithm>
#include <chrono>
#include <cstdio>

#include "base/quantile.h"
#include "bench/drawings/tables.h"
#include "drawing/guides.h"
#include "drawing/links.h"

namespace fernleaf {
namespace {

constexpr size_t kFigures = 150, kRow = 12;

// A page of figures in rows, each linked to the next.
Page page_of_links() {
    Page page;
    for (size_t i = 0; i < kFigures; ++i) {
        const double x = 30.0 * static_cast<double>(i % kRow), y = 22.0 * static_cast<double>(i / kRow);
        FairShape figure;
        figure.id = figure.key = static_cast<int64_t>(i) + 1;
        figure.shape = {ShapeKind::rectangle, {{x, y}, {x + 20, y}, {x + 20, y + 12}, {x, y + 12}}};
        page.shapes.push_back(std::move(figure));
    }
    for (size_t i = 0; i < kFigures; ++i) {
        FairShape link = linked(page.shapes[i], page.shapes[(i + 1) % kFigures]);
        link.id = static_cast<int64_t>(kFigures + i) + 1;
        link.routing = static_cast<Routing>(i % 3);
        page.shapes.push_back(std::move(link));
    }
    return page;
}

}  // namespace

void links_table(const DrawingsBench& bench) {
    const Page page = page_of_links();
    std::vector<double> dragging, dropping;
    const auto ms = [](auto from) {
        return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - from).count();
    };
    for (size_t i = 0; i < 10 * bench.count; ++i) {
        const FairShape& figure = page.shapes[i % kFigures];
        const Affine by = Affine::shift({1 + static_cast<double>(i % 17), static_cast<double>(i % 13)});
        auto begin = std::chrono::steady_clock::now();
        std::vector<Box> others;
        for (const FairShape& s : page.shapes)
            if (is_closed(s.shape.kind)) others.push_back(drawn_box(s));
        Elements moved;
        moved.shapes = {ElementTraits<FairShape>::transformed(figure, by)};
        const Snap snap = snapped(drawn_box(moved.shapes[0]), others, 0, 1.5);
        const auto links = links_led(page, moved);
        dragging.push_back(ms(begin));
        begin = std::chrono::steady_clock::now();
        Edit edit{"Move"};
        edit.removed.shapes = {figure}, edit.added.shapes = moved.shapes;
        hold_links(edit, page, {}, [id = ElementId{1000}]() mutable { return ++id; });
        dropping.push_back(ms(begin));
        if (links.empty() || edit.added.shapes.size() < 2 || !std::isfinite(snap.by.x))
            std::printf("nothing followed\n");
    }
    std::printf(
        "%zu figures and as many links: guides and links while one is dragged %.2f ms (99th percentile %.2f), once it "
        "is "
        "dropped %.2f (%.2f)\n",
        kFigures, median(dragging), quantile(dragging, 0.99), median(dropping), quantile(dropping, 0.99));
}

}  // namespace fernleaf
