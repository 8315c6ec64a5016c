// Drawings: how often shapes are told right. The shapes are made as people draw them (tools/drawn_shape.h).
//
//   drawings_bench [TABLES] [--count N] [--seed N] [--careless N] [--hands DIRECTORY] [--lines FILE] [--tell-wrong]
//
// TABLES: of shapes, diagrams, maps, grids, links, text; all without. HANDS: *.json. LINES: a file of lines for pages
// of words. "fits" prints what training/shape_net.py learns from, drawn up to so carelessly. Constants were set on
// seeds from 1 to 9; figures are of seeds from 100 on.
#include <algorithm>
#include <array>
#include <chrono>
#include <cstdio>
#include <fstream>
#include <map>
#include <string>
#include <vector>

#include "bench/drawings/tables.h"
#include "bench/options.h"
#include "reading/models_directory.h"

using namespace fernleaf;

namespace {

const std::vector<std::string> kLabels{
    "Start",       "read the gauge", "below zero", "wait an hour", "ring the bell", "light the pots", "note the time",
    "check again", "frost",          "done",       "call Ines",    "open the vent", "press",          "wash apples",
    "mill",        "fill the tank",  "rest",       "taste",        "bottle",        "store",          "too sour",
    "add water",   "weigh",          "label",      "clean up"};

}  // namespace

int main(int argc, char** argv) {
    std::vector<std::string> words(argv + 1, argv + argc);
    const auto option = [&](const char* name, double otherwise) {
        const std::string value = take_option(words, name);
        return value.empty() ? otherwise : std::stod(value);
    };
    DrawingsBench bench;
    bench.count = static_cast<size_t>(option("--count", 100));
    bench.seed = static_cast<unsigned>(option("--seed", 1));
    bench.careless = option("--careless", 1);
    bench.tell_wrong = std::erase(words, "--tell-wrong") > 0;
    const std::string hands = take_option(words, "--hands"), lines = take_option(words, "--lines");
    const auto wants = [&](const char* table) {
        return words.empty() || std::ranges::find(words, table) != words.end();
    };
    if (wants("shapes")) shapes_table(bench);
    if (wants("links")) links_table(bench);
    if (std::ranges::find(words, "fits") != words.end()) shape_fits_dump(bench);
    if (!wants("diagrams") && !wants("maps") && !wants("grids") && !wants("text")) return 0;
    if (!hands.empty()) bench.hands = hands_in(hands);
    auto reader = Reader::load(models_directory());
    if (bench.hands.empty() || !reader || !(*reader)->load_language("en")) {
        std::fprintf(stderr, "drawings_bench: no hands there, or the reader's data is missing\n");
        return 1;
    }
    bench.texts = kLabels;
    if (wants("diagrams")) diagrams_table(bench, **reader);
    if (wants("maps")) maps_table(bench, **reader);
    if (wants("grids")) grids_table(bench, **reader);
    std::ifstream in(lines);
    for (std::string line; std::getline(in, line);)
        if (!line.empty()) bench.lines.push_back(line);
    if (wants("text") && !bench.lines.empty()) text_table(bench);
    return 0;
}
