// The signs that handwritten formulas are made of: what each is called, and how it stands on its line.
//
//   const MathSign& alpha = math_signs()[*sign_named("\\alpha")];
#pragma once

#include <optional>
#include <string_view>
#include <vector>

namespace fernleaf {

// Where a sign's ink lies. As nothing keeps them: their order may change.
enum class SignHeight {
    small,   // from the baseline to the height of an x
    tall,    // to the height of a capital
    tailed,  // from below the baseline to the height of an x
    both,    // from below the baseline to the height of a capital: f, brackets, an integral
    middle,  // about the middle of a small letter: + − =
    low,     // on the baseline: a point, a comma
    high     // at the height of a capital: a prime, a degree sign
};
constexpr size_t kSignHeights = 7;

// What a sign may stand next to follows from it.
enum class SignKind {
    digit,
    letter,
    binary,    // between two others: + · ×
    relation,  // = < ∈
    open,
    close,
    bar,        // |, which opens and closes
    operation,  // Σ Π ∫, which have bounds
    root,
    point,  // . and ,
    mark    // behind what it belongs to: % ! ° ′
};
constexpr size_t kSignKinds = 11;

struct MathSign {
    const char* latex;
    SignHeight height;
    SignKind kind;
};

// In the order in which the network of sign_network.h tells them.
const std::vector<MathSign>& math_signs();
std::optional<size_t> sign_named(std::string_view latex);

// Signs of the same form but another size or height, of which the network tells only the first: x and X; 0, o and °;
// the point and the dot of a product. Most have none.
const std::vector<size_t>& twins_of(size_t sign);
// Whether it is told only by the form of another.
bool is_twin(size_t sign);

// Names of functions that are written letter by letter, the longer before those they begin with.
const std::vector<std::string_view>& written_functions();

}  // namespace fernleaf
