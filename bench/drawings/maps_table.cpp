#include <cstdio>
#include <set>

#include "bench/drawings/measuring.h"
#include "bench/drawings/tables.h"
#include "bench/reading/errors.h"
#include "demo/drawn_map.h"
#include "drawing/drawing_reading.h"

namespace fernleaf {

void maps_table(const DrawingsBench& bench, const Reader& reader) {
    Tally nodes, links;
    size_t whole = 0;
    Errors labels;
    for (size_t i = 0; i < bench.count; ++i) {
        std::mt19937 random(bench.seed * 100000 + 90000 + static_cast<unsigned>(i));
        const DrawnMap meant = draw_map(bench.hands[i % bench.hands.size()], bench.texts, {bench.careless, {}}, random);
        const DrawnInk ink = drawn_ink(meant.strokes);
        const Reading reading = read_drawn(meant.strokes, ink, reader);
        const DrawingReading read = read_drawing(reading);
        std::vector<size_t> told(meant.nodes.size(), read.nodes.size());
        size_t here = 0;
        for (size_t m = 0; m < meant.nodes.size(); ++m) {
            for (size_t n = 0; n < read.nodes.size(); ++n)
                if (read.nodes[n].box.contains(meant.nodes[m].words.centre()) &&
                    std::ranges::find(told, n) == told.end())
                    told[m] = n;
            here += told[m] < read.nodes.size();
            labels.add(meant.nodes[m].text, told[m] < read.nodes.size() ? read.nodes[told[m]].text() : std::string());
        }
        size_t good = 0;
        for (size_t m = 1; m < meant.nodes.size(); ++m)
            for (const DrawnLink& l : read.links) {
                const size_t a = told[m], b = told[meant.nodes[m].parent];
                if (a == read.nodes.size() || b == read.nodes.size()) continue;
                if ((l.from == a && l.to == b) || (l.from == b && l.to == a)) {
                    ++good;
                    break;
                }
            }
        nodes.meant += meant.nodes.size(), nodes.told += read.nodes.size(), nodes.right += here;
        links.meant += meant.nodes.size() - 1, links.told += read.links.size(), links.right += good;
        const bool right =
            here == meant.nodes.size() && read.nodes.size() == here && good + 1 == here && read.links.size() == good;
        whole += right;
        if (bench.tell_wrong && !right)
            std::printf("map %zu: nodes %zu of %zu, %zu told; links %zu of %zu, %zu told, %zu loose\n", i, here,
                        meant.nodes.size(), read.nodes.size(), good, meant.nodes.size() - 1, read.links.size(),
                        read.loose.size());
    }
    std::printf("maps: nodes F1 %.3f, links F1 %.3f, whole %.1f %%; labels CER %.1f %%\n", nodes.f1(), links.f1(),
                100.0 * static_cast<double>(whole) / static_cast<double>(bench.count), labels.cer());
}

}  // namespace fernleaf
