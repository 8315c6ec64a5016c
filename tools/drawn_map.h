// Maps as people draw them: one thing in the middle, mostly ringed, lines from it to words about it, and from some of
// those to more words.
#pragma once

#include "demo/drawn_shape.h"
#include "demo/hand.h"

namespace fernleaf {

struct MapNode {
    std::string text;
    Box words;            // where they stand, mm
    bool framed = false;  // the middle may be
    size_t parent = 0;    // its own number for the middle
};
struct DrawnMap {
    std::vector<MapNode> nodes;  // the middle first
    std::vector<Stroke> strokes;
};

// Three to six branches, to either side, in straight lines and in curves. texts: of a word or two, for the labels.
DrawnMap draw_map(const Hand& hand, const std::vector<std::string>& texts, const DrawingManner& manner,
                  std::mt19937& random);

}  // namespace fernleaf
