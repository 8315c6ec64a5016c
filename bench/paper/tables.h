// The tables that paper_bench prints.
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <vector>

#include "bench/paper/paper_camera.h"
#include "demo/hand.h"
#include "paper/printed_text.h"
#include "reading/reader.h"

namespace fernleaf {

struct PaperBench {
    std::vector<Hand> hands;
    std::vector<std::string> texts;  // lines to write and print
    std::unique_ptr<PaperCamera> camera;
    size_t first = 0, count = 100;  // of pictures: from the first up to the count
    unsigned seed = 1;
    std::filesystem::path failures;  // where pictures that went wrong are kept; empty: nowhere
};

// How well the sheets found lie over those photographed.
void sheets_table(const PaperBench& bench);
// Errors in reading pages photographed, and the same pages flat.
void reading_table(const PaperBench& bench, const Reader& reader, PrintSkills& print);
// Errors over the distance of lines, as ink and as a flat picture.
void crowded_table(const PaperBench& bench, const Reader& reader);
// Errors over forms of several layouts, printed and filled in by hand.
void forms_table(const PaperBench& bench, const Reader& reader, PrintSkills& print);
// Errors on whiteboards, whose frame is photographed with them.
void boards_table(const PaperBench& bench, const Reader& reader, PrintSkills& print);
// Errors on sticky notes and slips of a few words.
void notes_table(const PaperBench& bench, const Reader& reader, PrintSkills& print);
// Flows and tables drawn on paper: figures, links, grids and their words.
void drawings_table(const PaperBench& bench, const Reader& reader, PrintSkills& print);
// How many pages, forms, boards and notes are set upright the wrong way.
void turned_table(const PaperBench& bench, const Reader& reader);
// Washed out, crumpled, behind glass, a screen, a wall, a keyboard: what is told of them, and what is made up.
void odd_table(const PaperBench& bench, const Reader& reader, PrintSkills& print);
// What it takes to read one photograph, start of the program included.
void speed_table(const PaperBench& bench);
// Time, colours, and what taking out rules does to reading.
void cleaning_table(const PaperBench& bench, const Reader& reader);
// Ink lifted from pages photographed, and from the same pages flat, beside the strokes they were drawn with.
void lifting_table(const PaperBench& bench, const Reader& reader, PrintSkills& print);

}  // namespace fernleaf
