// Things read flat and photographed, for the tables of forms, boards and notes.
#pragma once

#include <functional>
#include <string>

#include "bench/paper/sheets.h"
#include "bench/paper/tables.h"
#include "bench/reading/errors.h"

namespace fernleaf {

struct ThingErrors {
    Errors flat, taken;
    void add(const ThingErrors& other) { flat.add(other.flat), taken.add(other.taken); }
    void print(const std::string& name) const;  // a row: flat / photographed
};

// Draws and reads as many of one kind as the bench counts, prints their row, and gives their errors. kind: below 1000,
// for the drawing's chance and the names of the pictures that are kept. What says nothing is left out.
ThingErrors read_things(const PaperBench& bench, const Reader& reader, PrintSkills& print, const std::string& name,
                        unsigned kind, const std::function<DrawnThing(const Hand&, std::mt19937&)>& draw);

}  // namespace fernleaf
