// Things read flat and photographed, for the tables of forms, boards and notes.
#pragma once

#include <algorithm>
#include <functional>
#include <string>

#include "bench/paper/sheets.h"
#include "bench/paper/tables.h"
#include "bench/reading/errors.h"
#include "paper/scan_lines.h"

namespace fernleaf {

// How much of a page's ink lies in lines of writing: the rest was taken for drawings, or for dirt.
struct InkShare {
    double all = 0, written = 0;  // px
    void add(const InkShare& other) { all += other.all, written += other.written; }
    double percent() const { return 100 * written / std::max(all, 1.0); }
};
InkShare ink_share(const ScannedPage& page);

struct ThingErrors {
    Errors flat, taken;
    InkShare flat_ink, taken_ink;
    void add(const ThingErrors& other) {
        flat.add(other.flat), taken.add(other.taken);
        flat_ink.add(other.flat_ink), taken_ink.add(other.taken_ink);
    }
    void print(const std::string& name) const;  // a row: errors flat / photographed; ink read
};

// Draws and reads as many of one kind as the bench counts, prints their row, and gives their errors. kind: below 1000,
// for the drawing's chance and the names of the pictures that are kept. What says nothing is left out.
ThingErrors read_things(const PaperBench& bench, const Reader& reader, PrintSkills& print, const std::string& name,
                        unsigned kind, const std::function<DrawnThing(const Hand&, std::mt19937&)>& draw);

}  // namespace fernleaf
