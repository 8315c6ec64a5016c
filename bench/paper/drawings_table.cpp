#include <cstdio>

#include "bench/paper/sheets.h"
#include "bench/paper/tables.h"
#include "bench/reading/errors.h"
#include "demo/drawn_diagram.h"
#include "demo/drawn_table.h"
#include "drawing/drawing_reading.h"
#include "exchange/table_file.h"

namespace fernleaf {
namespace {

constexpr double kPxPerMm = 10, kMarginMm = 15, kSameFigure = 0.5;
const std::vector<std::string> kLabels{
    "Start", "read the gauge", "below zero",    "wait an hour", "ring the bell", "note the time",
    "frost", "done",           "open the vent", "press",        "mill",          "fill the tank",
    "taste", "bottle",         "too sour",      "add water",    "weigh",         "clean up"};

// What was drawn, on a sheet as large as it needs.
struct Drawn {
    cv::Mat pixels;
    Point moved;  // mm
    double width_mm = 0;
};

Drawn on_sheet(const std::vector<Stroke>& strokes) {
    Box box;
    for (const Stroke& s : strokes) box.include(s.box());
    Drawn out;
    out.moved = Point{kMarginMm - box.left, kMarginMm - box.top};
    out.width_mm = box.width() + 2 * kMarginMm;
    out.pixels = cv::Mat(static_cast<int>((box.height() + 2 * kMarginMm) * kPxPerMm),
                         static_cast<int>(out.width_mm * kPxPerMm), CV_8UC3, cv::Scalar(240, 244, 246));
    std::vector<Stroke> moved = strokes;
    for (Stroke& s : moved)
        for (InkPoint& p : s.points.change()) p.at = p.at + out.moved;
    draw_ink(out.pixels, moved, kPxPerMm);
    return out;
}

struct Flows {
    size_t meant = 0, found = 0, told = 0, links_meant = 0, links_found = 0, links_told = 0, whole = 0, all = 0;
    Errors labels;

    void add(const DrawnDiagram& diagram, Point moved, const Reading& reading) {
        const DrawingReading drawing = read_drawing(reading);
        std::vector<size_t> over(diagram.nodes.size(), drawing.nodes.size());
        size_t here = 0, linked = 0;
        for (size_t m = 0; m < over.size(); ++m) {
            const Box box = shifted(box_of(diagram.nodes[m].figure), moved);
            for (size_t n = 0; n < drawing.nodes.size(); ++n)
                if (drawing.nodes[n].figure && drawing.nodes[n].box.overlap(box) > kSameFigure) over[m] = n;
            if (over[m] == drawing.nodes.size()) continue;
            ++here;
            labels.add(diagram.nodes[m].text, drawing.nodes[over[m]].text());
        }
        for (const MeantLink& link : diagram.links)
            linked += std::ranges::any_of(drawing.links, [&](const DrawnLink& l) {
                return (l.from == over[link.from] && l.to == over[link.to]) ||
                       (l.from == over[link.to] && l.to == over[link.from]);
            });
        meant += over.size(), found += here, told += drawing.nodes.size();
        links_meant += diagram.links.size(), links_found += linked, links_told += drawing.links.size();
        whole += here == over.size() && drawing.nodes.size() == here && linked == diagram.links.size() &&
                 drawing.links.size() == linked;
        ++all;
    }
    void print(const char* name) const {
        const auto f1 = [](size_t right, size_t a, size_t b) {
            return 2.0 * static_cast<double>(right) / static_cast<double>(std::max<size_t>(1, a + b));
        };
        std::printf("  %-13s figures F1 %.3f, links F1 %.3f, whole %.0f %%, labels CER %.1f %%\n", name,
                    f1(found, meant, told), f1(links_found, links_meant, links_told),
                    100.0 * static_cast<double>(whole) / static_cast<double>(all), labels.cer());
    }
};

struct Grids {
    size_t right = 0, all = 0, words = 0, placed = 0;
    Errors cells;

    void add(const DrawnTable& meant, const Reading& reading) {
        const std::vector<TableWords> tables = tables_of(reading);
        const bool same = tables.size() == 1 && tables[0].table->rows == meant.table.rows &&
                          tables[0].table->columns == meant.table.columns &&
                          tables[0].table->cells.size() == meant.table.cells.size();
        ++all, right += same;
        if (!same) return;
        for (size_t c = 0; c < meant.texts.size(); ++c) {
            cells.add(meant.texts[c], tables[0].texts[c]);
            words += !meant.texts[c].empty();
            placed += !meant.texts[c].empty() && !tables[0].texts[c].empty();
        }
    }
    void print(const char* name) const {
        std::printf(
            "  %-13s grids right %.0f %%; of those, cells with something in them %.1f %%, their text CER %.1f %%\n",
            name, 100.0 * static_cast<double>(right) / static_cast<double>(std::max<size_t>(1, all)),
            100.0 * static_cast<double>(placed) / static_cast<double>(std::max<size_t>(1, words)), cells.cer());
    }
};

}  // namespace

void drawings_table(const PaperBench& bench, const Reader& reader, PrintSkills& print) {
    Flows flat_flows, taken_flows;
    Grids flat_grids, taken_grids;
    for (size_t i = bench.first; i < bench.count; ++i) {
        std::mt19937 random(bench.seed * 100000 + 31000 + static_cast<unsigned>(i));
        const Hand& hand = bench.hands[i % bench.hands.size()];
        const DrawnDiagram flow = draw_flow(hand, kLabels, {1, {0x1E2A44, 0.5F}}, random);
        const DrawnTable table = draw_table(hand, kLabels, {1, {0x1E2A44, 0.5F}}, random);
        for (const bool is_flow : {true, false}) {
            const Drawn sheet = on_sheet(is_flow ? flow.strokes : table.strokes);
            const auto add = [&](const cv::Mat& pixels, Flows& flows, Grids& grids) {
                const Reading reading = pixels.empty() ? Reading() : reading_of(pixels, reader, print, sheet.width_mm);
                if (is_flow)
                    flows.add(flow, sheet.moved, reading);
                else
                    grids.add(table, reading);
            };
            add(sheet.pixels, flat_flows, flat_grids);
            add(found_in_photograph(sheet.pixels, *bench.camera, random).page, taken_flows, taken_grids);
        }
    }
    std::printf("drawings on paper, %zu of each kind\n", bench.count - bench.first);
    flat_flows.print("flows flat"), taken_flows.print("photographed");
    flat_grids.print("tables flat"), taken_grids.print("photographed");
}

}  // namespace fernleaf
