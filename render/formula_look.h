// Formulas set in type: fractions, powers, roots and bounds in the text face, as one path, so that they look the same
// on the screen, on paper and in every file.
//
//   const auto written = written_math("\\frac{x^{2}}{3}");
//   const FormulaLook look = formula_look(*written, 18);
//   painter.translate(left, baseline), painter.drawPath(look.path);
#pragma once

#include <QPainterPath>
#include <QRectF>
#include <vector>

#include "math/written_math.h"

namespace fernleaf {

struct FormulaLook {
    QPainterPath path;  // filled; from (0, 0), the left end of the baseline; px
    double width = 0, ascent = 0, descent = 0;
    // About each sign, in the order in which they are read (math/formula_reading.h): a power before an index, a root
    // before what stands under it, an accent before what it stands over, a fraction's bar between its parts, names
    // letter by letter.
    std::vector<QRectF> signs;
};

// GUI threads, as fonts are.
FormulaLook formula_look(const WrittenMath& formula, double px);

// Words beside a formula, such as what it comes to, likewise.
FormulaLook plain_look(const QString& text, double px);

// A tick, or a cross with what would be right behind it.
FormulaLook judged_look(bool right, const QString& text, double px);

}  // namespace fernleaf
