// A formula as it stands on the page, whether or not it makes sense: from the LaTeX that is read and typed, for setting
// it and for MathML. What it means, parse_math.h tells.
//
//   auto written = written_math("\\frac{x^{2}}{3}");
//   std::string xml = mathml(*written);
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace fernleaf {

struct WrittenMath {
    enum class Kind {
        row,       // parts from left to right, any number
        sign,      // latex: one letter, digit or command
        name,      // latex: a function's name, or words
        fraction,  // over, under the bar
        scripts,   // base, index, power; an empty row where there is none
        root,      // what stands under it, and its index; an empty row where there is none
        accent,    // latex: \\vec, \\hat or \\bar; what it stands over
        grid,  // latex: the environment's name, for an array with how its columns stand: "array{rr}"; rows of cells,
               // which are rows
        line   // among a grid's rows: drawn across it
    } kind = Kind::row;
    std::string latex = {};
    std::vector<WrittenMath> parts = {};
    friend bool operator==(const WrittenMath&, const WrittenMath&) = default;
};

// None: braces or environments that don't close, a script of nothing, or deeper than 60 levels. Plain forms such as
// x^2-16=0 are LaTeX, too.
std::optional<WrittenMath> written_math(std::string_view latex);

// Of a sign or a name, the characters that stand for it in Unicode; the command itself where there is none.
std::string shown(const WrittenMath& sign_or_name);

// Whether bounds of it stand over and under it rather than beside it.
bool has_bounds_over(const WrittenMath& base);

// Which parts of a row are units behind numbers (12 kg, 90 km/h), which stand upright; where all that may be one is
// single letters (3 m) none is.
std::vector<bool> parts_of_units(const WrittenMath& row);

// What brackets a grid stands between, empty where there is none; and how a column stands: l, c or r.
std::pair<std::string, std::string> brackets_of(const WrittenMath& grid);
char stands(const WrittenMath& grid, size_t column);

// Presentation MathML, in a <math> element.
std::string mathml(const WrittenMath& formula);

}  // namespace fernleaf
