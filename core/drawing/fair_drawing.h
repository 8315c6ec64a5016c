// Draws ink fair: what was read as shapes and tables becomes such, where they were drawn, in their colour and width.
//
//   FairDrawing fair = drawn_fair(page.strokes, reading, chosen, page.shapes, new_id);
//   Edit edit{"Draw fair", {.shapes = fair.shapes}, {fair.ink}};
//
// Method: each shape is made tidy in steps, none of which moves any of it farther than kMostMovedMm: sides that are
// nearly level or upright become so; figures of a kind that are nearly as wide or as high get one width or height;
// middles that nearly stand in a row or a column do; links end on the borders of what they link (constraints found
// from the drawing and satisfied one after the other, as Pavlidis & Van Wyk, "An automatic beautifier for drawings and
// illustrations", 1985).
#pragma once

#include <functional>
#include <set>
#include <vector>

#include "document/edit.h"
#include "transcript/reading.h"

namespace fernleaf {

constexpr double kMostMovedMm = 3;

struct FairDrawing {
    std::vector<FairShape> shapes;  // without ids
    std::vector<FairTable> tables;  // the same
    std::vector<Stroke> ink;        // what they replace
    bool empty() const { return shapes.empty() && tables.empty(); }
};

// chosen: a shape or a table is drawn fair when more than half of its strokes (rules) are; null: all that was read as
// drawn. What is written in a table stays ink. Where nothing
// chosen was read as drawn all of it is taken to be, for a person says so; but no highlighter, whose ink would cover
// what it lies under.
// before: what is fair on the page already, which links may lead to; new_key: gives each figure its key.
FairDrawing drawn_fair(const std::vector<Stroke>& strokes, const Reading& reading, const std::set<StrokeId>* chosen,
                       const std::vector<FairShape>& before, const std::function<int64_t()>& new_key);

// What puts it in the place of its ink.
Edit edit_of(FairDrawing fair, const std::function<ElementId()>& new_id);

}  // namespace fernleaf
