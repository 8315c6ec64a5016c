// The tables that drawings_bench prints.
#pragma once

#include <string>
#include <vector>

#include "demo/hand.h"
#include "reading/reader.h"

namespace fernleaf {

struct DrawingsBench {
    size_t count = 100;  // of drawings of each kind
    unsigned seed = 1;
    double careless = 1;             // how they are drawn (DrawingManner)
    std::vector<Hand> hands;         // for labels
    std::vector<std::string> texts;  // for labels
    std::vector<std::string> lines;  // for pages of words
    bool tell_wrong = false;         // print what went wrong
};

// Each kind of shape: told right, what it was taken for, and the time it took.
void shapes_table(const DrawingsBench& bench);

// Flows with words: figures, links and labels found, and whole diagrams right.
void diagrams_table(const DrawingsBench& bench, const Reader& reader);

// Maps, most of whose nodes are words without a frame: nodes and links found, and whole maps right.
void maps_table(const DrawingsBench& bench, const Reader& reader);

// Tables with words in cells, of rules both ways and one: those right, and what is in them.
void grids_table(const DrawingsBench& bench, const Reader& reader);
// Figures with links on a full page: the time it takes that one is dragged.
void links_table(const DrawingsBench& bench);
// Pages of words: how much of them is taken for shapes.
void text_table(const DrawingsBench& bench);
// For training/shape_net.py: a line a shape with its kind, and one with kind, error and freedom of each fit.
void shape_fits_dump(const DrawingsBench& bench);

}  // namespace fernleaf
