#include <chrono>
#include <cstdio>
#include <fstream>
#include <set>
#include <string>

#include "bench/drawings/measuring.h"
#include "bench/drawings/tables.h"
#include "bench/reading/errors.h"
#include "demo/drawn_diagram.h"
#include "drawing/drawing_reading.h"
#include "drawing/drawn_ink.h"
#include "drawing/fair_drawing.h"
#include "drawing/table_finding.h"
#include "reading/ink_reading.h"

namespace fernleaf {

void diagrams_table(const DrawingsBench& bench, const Reader& reader) {
    Tally places, figures, links;
    size_t directed = 0, whole = 0, whole_kinds = 0, tables = 0;
    Errors labels, alone;
    double seconds = 0, off_mm = 0;
    size_t ink_points = 0;
    for (size_t i = 0; i < bench.count; ++i) {
        std::mt19937 random(bench.seed * 100000 + 50000 + static_cast<unsigned>(i));
        const DrawnDiagram meant =
            draw_flow(bench.hands[i % bench.hands.size()], bench.texts, {bench.careless, {}}, random);
        // The same words by themselves, as large as in the flows, to compare with.
        WritingStyle style;
        style.x_height_mm = 2.4;
        for (const MeantNode& node : meant.nodes) {
            std::string text;
            for (const ReadLine& line : read_ink(
                     bench.hands[i % bench.hands.size()].write(node.text, {20, 20}, style, random), reader, {}, {}))
                text += (text.empty() ? "" : " ") + line.text();
            alone.add(node.text, text);
        }
        tables += !tables_in(meant.strokes).empty();
        const auto begin = std::chrono::steady_clock::now();
        const DrawnInk ink = drawn_ink(meant.strokes);
        seconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
        const Reading reading = read_drawn(meant.strokes, ink, reader);
        const DrawingReading read = read_drawing(reading);

        const FairDrawing fair =
            drawn_fair(meant.strokes, reading, nullptr, {}, [key = int64_t{0}]() mutable { return ++key; });
        for (const FairShape& shape : fair.shapes) {
            const auto outline = outline_of(shape.shape);
            for (const Stroke& s : fair.ink)
                if (std::ranges::find(shape.ink, s.id) != shape.ink.end())
                    for (const InkPoint& p : s.points) off_mm += distance_to(outline, p.at), ++ink_points;
        }

        // Each node that was meant, and the one told that lies over it.
        std::vector<size_t> told(meant.nodes.size(), read.nodes.size());
        size_t kinds = 0, over = 0;
        for (size_t m = 0; m < meant.nodes.size(); ++m) {
            for (size_t n = 0; n < read.nodes.size(); ++n)
                if (read.nodes[n].figure && read.nodes[n].box.overlap(box_of(meant.nodes[m].figure)) > 0.6) told[m] = n;
            if (told[m] == read.nodes.size()) {
                labels.add(meant.nodes[m].text, std::string());
                continue;
            }
            ++over;
            kinds += read.nodes[told[m]].figure->shape.kind == meant.nodes[m].figure.kind;
            labels.add(meant.nodes[m].text, read.nodes[told[m]].text());
        }
        places.meant += meant.nodes.size(), places.told += read.nodes.size(), places.right += over;
        figures.meant += meant.nodes.size(), figures.told += read.nodes.size(), figures.right += kinds;
        size_t linked = 0, good = 0;
        for (const MeantLink& link : meant.links)
            for (const DrawnLink& l : read.links) {
                const size_t a = told[link.from], b = told[link.to];
                if (!((l.from == a && l.to == b) || (l.from == b && l.to == a))) continue;
                ++linked;
                good += link.kind == ShapeKind::line           ? l.heads == LinkHeads::none
                        : link.kind == ShapeKind::double_arrow ? l.heads == LinkHeads::both
                                                               : l.heads == LinkHeads::to && l.from == a;
                break;
            }
        links.meant += meant.links.size(), links.told += read.links.size(), links.right += linked;
        directed += good;
        const bool structure = over == meant.nodes.size() && read.nodes.size() == meant.nodes.size() &&
                               good == meant.links.size() && read.links.size() == meant.links.size();
        whole += structure, whole_kinds += structure && kinds == meant.nodes.size();
        if (bench.tell_wrong && !(structure && kinds == meant.nodes.size())) {
            std::printf(
                "diagram %zu: nodes %zu of %zu over, %zu kinds, %zu told; links %zu of %zu, %zu right, %zu told, %zu "
                "loose\n",
                i, over, meant.nodes.size(), kinds, read.nodes.size(), linked, meant.links.size(), good,
                read.links.size(), read.loose.size());
            for (size_t n = 0; n < read.nodes.size(); ++n)
                if (std::ranges::find(told, n) == told.end())
                    std::printf(
                        "   nothing -> %s of %.0f x %.0f mm, %zu strokes, \"%s\"\n",
                        read.nodes[n].figure ? std::string(name_of(read.nodes[n].figure->shape.kind)).c_str() : "words",
                        read.nodes[n].box.width(), read.nodes[n].box.height(), read.nodes[n].strokes.size(),
                        read.nodes[n].text().c_str());
            for (size_t m = 0; m < meant.nodes.size(); ++m)
                if (told[m] == read.nodes.size() ||
                    read.nodes[told[m]].figure->shape.kind != meant.nodes[m].figure.kind)
                    std::printf("   %s -> %s\n", std::string(name_of(meant.nodes[m].figure.kind)).c_str(),
                                told[m] == read.nodes.size()
                                    ? "nothing"
                                    : std::string(name_of(read.nodes[told[m]].figure->shape.kind)).c_str());
        }
    }
    std::printf(
        "figures found F1 %.3f, of their kind %.3f; links F1 %.3f, direction right %.3f; whole diagrams %.1f %%, with "
        "every kind %.1f %%; "
        "labels CER %.1f %%, alone %.1f %%; figures and links found in %.0f ms; drawn fair %.2f mm from the ink, mean; "
        "%zu taken for "
        "tables\n",
        places.f1(), figures.f1(), links.f1(),
        static_cast<double>(directed) / static_cast<double>(std::max<size_t>(1, links.right)),
        100.0 * static_cast<double>(whole) / static_cast<double>(bench.count),
        100.0 * static_cast<double>(whole_kinds) / static_cast<double>(bench.count), labels.cer(), alone.cer(),
        1000 * seconds / static_cast<double>(bench.count),
        off_mm / static_cast<double>(std::max<size_t>(1, ink_points)), tables);
}

}  // namespace fernleaf
