// Reads a drawing: its figures, what links them, and the words in and beside them.
//
//   DrawingReading drawing = read_drawing(reading);
//   if (drawing.is_diagram()) ...   // as a file: exchange/diagram_file.h
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "transcript/reading.h"

namespace fernleaf {

// A figure, or words without a frame that a link leads to.
struct DrawnNode {
    std::optional<ShapeCandidate> figure;
    std::vector<ShapeCandidate> others;  // what else it may be, best first
    Box box;                             // mm
    std::vector<StrokeId> strokes;       // of the figure
    std::vector<const ReadWord*> words;  // in reading order
    std::string text() const;
};

enum class LinkHeads { none, to, both };

struct DrawnLink {
    ShapeCandidate line;
    std::vector<ShapeCandidate> others;
    std::vector<StrokeId> strokes;
    size_t from = 0, to = 0;  // nodes; with one head it is at the latter
    LinkHeads heads = LinkHeads::none;
    std::vector<const ReadWord*> words;
    std::string text() const;
};

struct DrawingReading {
    std::vector<DrawnNode> nodes;  // in reading order: from the top, then from the left
    std::vector<DrawnLink> links;
    std::vector<ReadShape> loose;  // lines that link nothing
    bool is_diagram() const { return !links.empty(); }
};

// Of a page's shapes, and of its words those inside figures or beside links, and those that links lead to. The reading
// must outlive what is given back.
DrawingReading read_drawing(const Reading& reading);

// What leads to what, a line a link with the words of both ends, for the index: where a link has no head or two, one
// for each direction. Links between things without words say nothing.
std::vector<ReadLine> outline_lines(const DrawingReading& drawing);

// Between what is linked, in an outline.
const char* sign_of(LinkHeads heads);

// The same as shapes alone: what was a link is a loose line.
DrawingReading without_links(DrawingReading drawing);

}  // namespace fernleaf
