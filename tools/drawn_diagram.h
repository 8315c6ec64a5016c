// Diagrams as people draw them: figures with words in them, links from one to another, some with words beside them.
#pragma once

#include "demo/drawn_shape.h"
#include "demo/hand.h"

namespace fernleaf {

struct MeantNode {
    Shape figure;
    std::string text;
};
struct MeantLink {
    size_t from = 0, to = 0;
    ShapeKind kind = ShapeKind::arrow;  // a line, an arrow or a double arrow
    std::string text;
};
struct DrawnDiagram {
    std::vector<MeantNode> nodes;
    std::vector<MeantLink> links;
    std::vector<Stroke> strokes;
};

// A flow of four to nine figures in rows. texts: of a word or two, for the labels; those that the hand can't write are
// left out.
DrawnDiagram draw_flow(const Hand& hand, const std::vector<std::string>& texts, const DrawingManner& manner,
                       std::mt19937& random);

}  // namespace fernleaf
