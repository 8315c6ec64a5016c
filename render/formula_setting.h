// Formulas that are elements of a page: how much room they take, and how they are drawn.
#pragma once

#include <QPainter>
#include <optional>

#include "document/formula/set_formula.h"
#include "render/page_painter.h"
#include "transcript/reading.h"

namespace fernleaf {

// Measures a formula anew, in its size; its left end stays where it is and its baseline stays on its line. False where
// its LaTeX can't be set: then nothing changes. GUI threads, as fonts are.
bool measure(SetFormula& formula);

// One that begins at a place on its baseline; nothing where the LaTeX can't be set.
std::optional<SetFormula> formula_at(Point baseline, std::string latex, double size_mm);

// What was read of ink, in its place, about as large, in its colour; nothing where it can't be set. line: of math.
std::optional<SetFormula> set_from_ink(const ReadLine& line, const std::vector<Stroke>& strokes);

// The painter's unit must be the millimetre, its origin the page's top left corner.
void draw_formula(QPainter& painter, const SetFormula& formula, const PageScheme& scheme);

}  // namespace fernleaf
