// Parts of a formula as they are put together: signs, powers, fractions, roots and rows of these, each with the ink it
// is made of and where it stands on its line.
//
//   FormulaPart x = sign_part(*sign_named("x"), box, ink), two = sign_part(*sign_named("2"), ...);
//   PlaceNumbers numbers = place_numbers(x, two);              // for the network that tells places
//   FormulaPart squared = joined(x, two, Place::power);
#pragma once

#include <array>
#include <bitset>
#include <cstdint>

#include "base/geometry.h"
#include "math/math_signs.h"

namespace fernleaf {

constexpr size_t kMostFormulaStrokes = 192;
using FormulaInk = std::bitset<kMostFormulaStrokes>;

// Where a part stands beside another one. As the network knows them: their order may not change.
enum class Place { right, power, index, over, under, inside, none };
constexpr size_t kPlaces = 7;

struct FormulaPart {
    enum class Kind {
        sign,
        scripts,   // with a power, an index or both; also with bounds over and under it
        dividend,  // a bar with what stands over it: half a fraction
        fraction,
        root,
        vector,  // with an arrow over it
        row      // two parts or more from left to right
    } kind = Kind::sign;
    FormulaInk ink;
    Box box;
    // The line it stands on: baseline, mm, and the height of small letters, as its parts tell on the mean, those of
    // unknown height aside; how many tell it.
    double baseline = 0, unit = 1;
    int told = 0;
    Box first, last;                      // its first part's nucleus, and its last part as a whole
    Box nucleus;                          // its last part's nucleus
    int first_sign = -1, last_sign = -1;  // -1: a fraction
    bool has_power = false, has_index = false;
    bool has_root_index = false;  // a root with what stands in its hook: the 3 of a third root
    std::array<char, 4> name{};   // what single small letters spell, if it is three or fewer and nothing else
    std::array<char, 8> tail{};   // what the single small letters at its end spell, the last seven
    int open = 0;                 // brackets that are open at its end
    int reversed = 0;             // brackets closed that were not open
    double score = 0;             // the logarithm of how likely it is
    std::array<int32_t, 2> made_of{-1, -1};  // of the reading's parts
    Place by = Place::none;                  // how they stand
};

FormulaPart sign_part(size_t sign, const Box& box, const FormulaInk& ink);

// Whether a part may stand so beside another by what they are; of their places the network tells.
bool may_stand(const FormulaPart& a, const FormulaPart& b, Place place);

// Whether b stands where a root's index does: small, above the hook of its sign. hook: the sign's box, body: of what
// stands under it. The network of places has never seen one.
bool stands_in_hook(const Box& hook, const Box& body, const Box& b);

// Whether an arrow stands over a letter, which it makes a vector. The network has seen none of these either.
bool is_arrow_over(const FormulaPart& arrow, const FormulaPart& letter);

// a with b at such a place of it; over a root stands its index; score and made_of are the caller's. Of a fraction's
// parts a is the bar, with Place::over the dividend comes of it, and the divisor is put under that.
FormulaPart joined(const FormulaPart& a, const FormulaPart& b, Place place);

constexpr size_t kPlaceNumbers = 15 + 2 * kSignHeights + 2 * kSignKinds + 4;
using PlaceNumbers = std::array<float, kPlaceNumbers>;
PlaceNumbers place_numbers(const FormulaPart& a, const FormulaPart& b);

}  // namespace fernleaf
