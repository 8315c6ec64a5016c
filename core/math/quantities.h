// Numbers with units: 3 m + 20 cm, 90 km/h, 2.40 €/kg.
//
//   MathTree sum = with_units(*parse_math("3 m + 20 cm"), {});   // m and cm are units, not letters multiplied
//   auto length = measured(sum);                                 // 16/5 of "m"
//
// What was written tells the unit of what comes of it: that of the first of those added, those multiplied each once.
// kg m/s² and the like get the name that they have (N). Temperatures in °C are not converted.
#pragma once

#include <map>
#include <string>

#include "base/result.h"
#include "math/math_tree.h"

namespace fernleaf {

// Whether a unit is known by this sign: those of the SI with the prefixes that are usual, some of everyday (min, l, t,
// ft, lb), and of money.
bool is_unit(const std::string& sign);

// With letters behind numbers as units, where all of them together are such. Letters that have values are none, unless
// all there is is one number with its unit (h = 3 m, where m is a mass of 5 kg). What could be meant as letters and
// does not fit as units stays as it is. values: of names, for that; tree: sound.
MathTree with_units(const MathTree& tree, const std::map<std::string, MathTree>& values);

// Whether both are units of one dimension, the first the larger one: h and min.
bool are_units_of_a_kind(const std::string& larger, const std::string& smaller);

// Whether it is a number with its unit and nothing else.
bool is_quantity(const MathTree& tree);
// Whether only what comes last in a relation has a unit, as many write it: 12 · 8 = 96 l.
bool has_unit_at_last(const MathTree& relation);

// With units as letters multiplied; only those of a set where one is given.
MathTree without_units(MathTree tree);
MathTree without_units(MathTree tree, const std::set<std::string>& only);

struct Measured {
    MathTree number;   // holds no units; not simplified
    std::string unit;  // as it is written behind the number: "m", "km/h", "/min"; empty: it is a plain number
};

// What a tree with units and without unknowns comes to. An error says what does not fit.
Result<Measured> measured(const MathTree& tree);
// The same, of what is beside it in an equation: in the same unit as that.
Result<Measured> measured_like(const MathTree& other, const MathTree& tree);

// "3.2" and "m" as "3.2 m".
std::string quantity_text(const std::string& number, const std::string& unit);

}  // namespace fernleaf
