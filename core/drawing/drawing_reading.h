// Reads a drawing: its figures, what links them, and the words in and beside them.
//
//   DrawingReading drawing = read_drawing(drawn_ink(strokes).groups, words);
//   std::string text = dot_text(drawing);
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "drawing/shape_grouping.h"
#include "transcript/reading.h"

namespace fernleaf {

// A figure, or words without a frame that a link leads to.
struct DrawnNode {
    std::optional<ShapeCandidate> figure;
    std::vector<ShapeCandidate> others;  // what else it may be, best first
    Box box;                             // mm
    std::vector<size_t> strokes;         // of the figure; indices into those given
    std::vector<const ReadWord*> words;  // in reading order
    std::string text() const;
};

enum class LinkHeads { none, to, both };

struct DrawnLink {
    ShapeCandidate line;
    std::vector<ShapeCandidate> others;
    std::vector<size_t> strokes;
    size_t from = 0, to = 0;  // nodes; with one head it is at the latter
    LinkHeads heads = LinkHeads::none;
    std::vector<const ReadWord*> words;
    std::string text() const;
};

struct DrawingReading {
    std::vector<DrawnNode> nodes;  // in reading order: from the top, then from the left
    std::vector<DrawnLink> links;
    std::vector<ShapeGroup> loose;  // lines that link nothing
    bool is_diagram() const { return !links.empty(); }
};

// groups: of a page's drawn ink (drawn_ink.h). words: of the page, of which those inside figures or beside links, and
// those that links lead to, are taken; they must outlive the reading.
DrawingReading read_drawing(std::vector<ShapeGroup> groups, const std::vector<const ReadWord*>& words);

// The diagram in the DOT language, nodes and links in order.
std::string dot_text(const DrawingReading& drawing);

}  // namespace fernleaf
