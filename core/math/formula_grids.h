// Formulas in rows: matrices between brackets, and what a brace holds together.
//
//   auto grid = read_grid(strokes, **weights, {});      // nothing: it is no grid
//   grid->latex;                                        // "\\begin{cases} x+y=3 \\\\ x-y=1 \\end{cases}"
//
// A bracket as high as all the rest, with rows to the right of it, makes a grid: with another at its right end a
// matrix, whose cells are told by the room between them, a brace alone cases. What stands before and behind is read
// with it. Each cell is read by itself (formula_reading.h).
#pragma once

#include <optional>

#include "math/formula_reading.h"

namespace fernleaf {

// As read_formula.
std::optional<FormulaReading> read_grid(const std::vector<Stroke>& strokes, const FormulaWeights& weights,
                                        const CancelToken& cancel = {}, const std::vector<SaidSign>& said = {},
                                        const SignMemory* taught = nullptr);

}  // namespace fernleaf
