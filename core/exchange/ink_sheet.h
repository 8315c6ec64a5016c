// Ink as files bring it, and the sheet it is laid on.
#pragma once

#include <optional>
#include <vector>

#include "capture/captured_stroke.h"
#include "ink/stroke.h"

namespace fernleaf {

// The ink of one canvas, in mm from the sheet's top left corner; it lies inside the sheet.
struct InkSheet {
    double width_mm = 0;
    double height_mm = 0;
    std::vector<Stroke> strokes;
    std::optional<PageAddress> address = {};  // of addressed paper, when the canvas says it
};

constexpr size_t kMostInkPoints = 4'000'000;  // in a file

// Ink in a unit that is not known, in mm: in the usual unit that makes the writing nearest to hand size.
void scale_to_hand_size(std::vector<Stroke>& strokes);

// Finds the sheet for ink in mm: the canvas, where it is known (else empty) and holds all of it; else A5, A4 or as
// large as it takes, and ink that begins far from the corner is moved there. False when it reaches farther than any
// page.
bool lay_on_sheet(InkSheet& sheet, const Box& canvas);

}  // namespace fernleaf
