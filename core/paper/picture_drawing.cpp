#include "paper/picture_drawing.h"

#include <algorithm>
#include <map>

namespace fernleaf {
namespace {

// As it lies on the page.
Affine onto_page(const ScannedPage& scanned, const std::function<Point(Point)>& place) {
    const double px = 1 / scanned.shrink;
    const Point origin = place({0, 0}), x = place({px, 0}) - origin, y = place({0, px}) - origin;
    return {x.x, y.x, origin.x, x.y, y.y, origin.y};
}

Box placed(const Box& box, const Affine& by) {
    Box out;
    for (const Point p : {Point{box.left, box.top}, Point{box.right, box.top}, Point{box.left, box.bottom},
                          Point{box.right, box.bottom}})
        out.include(by(p));
    return out;
}

// The words of lines that stand in a table's cells, out of their lines.
std::vector<ReadLine> taken_into_cells(std::vector<ReadLine>& lines, const ReadTable& table, int region) {
    std::map<int, std::vector<ReadLine>> cells;
    for (ReadLine& line : lines) {
        if (line.kind != RegionKind::text || line.cell >= 0) continue;
        std::map<int, ReadLine> parts;
        std::erase_if(line.words, [&](const ReadWord& word) {
            const auto cell =
                std::ranges::find_if(table.cells, [&](const ReadCell& c) { return c.box.contains(word.box.centre()); });
            if (cell == table.cells.end()) return false;
            const int number = static_cast<int>(cell - table.cells.begin());
            ReadLine& part = parts[number];
            part.box.include(word.box);
            part.words.push_back(word);
            return true;
        });
        for (auto& [number, part] : parts) {
            part.region = region, part.cell = number;
            part.certainty = line.certainty, part.input_signature = line.input_signature;
            cells[number].push_back(std::move(part));
        }
        line.box = {};
        for (const ReadWord& word : line.words) line.box.include(word.box);
    }
    std::erase_if(lines, [](const ReadLine& line) { return line.kind == RegionKind::text && line.words.empty(); });
    std::vector<ReadLine> out;
    for (auto& [number, in_cell] : cells) std::ranges::move(in_cell, std::back_inserter(out));
    return out;
}

}  // namespace

void add_drawings(std::vector<ReadLine>& lines, const ScannedPage& scanned, const std::function<Point(Point)>& place,
                  uint64_t input_signature) {
    if (scanned.drawn.empty()) return;
    const Affine by = onto_page(scanned, place);
    std::vector<std::vector<ReadLine>> regions;
    for (const FoundTable& found : scanned.drawn.tables) {
        ReadLine grid;
        grid.kind = RegionKind::table;
        grid.certainty = found.certainty;
        grid.box = placed(found.box, by);
        grid.input_signature = input_signature;
        grid.table = found.table;
        for (ReadCell& cell : grid.table->cells) cell.box = placed(cell.box, by);
        std::vector<ReadLine> region{std::move(grid)};
        std::ranges::move(taken_into_cells(lines, *region[0].table, 0), std::back_inserter(region));
        regions.push_back(std::move(region));
    }
    ReadLine drawing;
    drawing.kind = RegionKind::drawing;
    drawing.certainty = 1;
    drawing.input_signature = input_signature;
    drawing.shapes = scanned.drawn.shapes;
    for (ReadShape& shape : drawing.shapes) {
        for (ShapeCandidate& c : shape.candidates) {
            c.shape = transformed(std::move(c.shape), by);
            c.error *= by.growth();
        }
        drawing.box.include(box_of(shape.best().shape));
        drawing.certainty = std::min(drawing.certainty, shape.best().certainty);
    }
    if (!drawing.shapes.empty()) regions.push_back({std::move(drawing)});
    Reading reading{std::move(lines)};
    for (std::vector<ReadLine>& region : regions) insert_regions(reading, std::move(region));
    lines = std::move(reading.lines);
}

}  // namespace fernleaf
