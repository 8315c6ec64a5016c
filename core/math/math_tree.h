// A formula as a tree: what is read, typed, worked out and set goes through it.
//
//   MathTree half{MathKind::quotient, {}, {number("1"), number("2")}};
//
// Which numbers of parts a kind has, and what its text is, stands beside it. is_sound() tells whether a tree is so;
// what parse_math() gives always is.
#pragma once

#include <set>
#include <string>
#include <utility>
#include <vector>

namespace fernleaf {

// As nothing keeps them: their order may change.
enum class MathKind {
    number,    // text: digits, with a point
    name,      // text: a letter, a Greek letter's name, or either with an index ("v_0"); pi, e, i, infinity
    unit,      // text: its sign ("km"); parse_math() gives names, with_units() makes them units
    sum,       // two parts or more
    product,   // two or more
    quotient,  // what is divided, and by what
    power,     // what is raised, and to what
    negative,  // one
    call,      // text: one of known_functions(); its arguments
    relation,  // text: =, !=, <, <=, >, >= or ~ between two parts; three or more for a chain, texts parted by blanks
    asked,     // one: a sign of equality with nothing behind it
    all_of,    // relations that hold together, one or more
    matrix,    // rows
    row        // of a matrix
};

struct MathTree {
    MathKind kind = MathKind::number;
    std::string text = "0";
    std::vector<MathTree> parts = {};
    friend bool operator==(const MathTree&, const MathTree&) = default;
};

inline MathTree math_number(std::string digits) { return {MathKind::number, std::move(digits)}; }
inline MathTree math_name(std::string name) { return {MathKind::name, std::move(name)}; }
inline MathTree math_call(std::string function, std::vector<MathTree> arguments) {
    return {MathKind::call, std::move(function), std::move(arguments)};
}
inline MathTree math_of(MathKind kind, std::vector<MathTree> parts) { return {kind, {}, std::move(parts)}; }

// A function a formula may call: how many arguments it has, and how the algebra program calls it.
struct MathFunction {
    const char* name;
    int least, most;      // arguments
    const char* algebra;  // empty: it is written in a way of its own
    bool trigonometric = false, inverse = false;
};
const std::vector<MathFunction>& known_functions();
const MathFunction* known_function(const std::string& name);  // null: there is none

// Whether each part of it is as it must be, and it is neither larger nor deeper than is worked with.
bool is_sound(const MathTree& tree);
constexpr size_t kMostMathParts = 5000, kDeepestMath = 150;

// The names in it that stand for something unknown: all but pi, e, i, infinity and those that a sum, an integral, a
// limit or a derivative binds.
std::set<std::string> unknowns_in(const MathTree& tree);

// With something in the place of a name.
MathTree substituted(MathTree tree, const std::string& name, const MathTree& by);

// What a formula gives to a name: the right side of a = 3, the second one of a = 3 + 4 = 7; null: nothing.
const MathTree* value_given(const MathTree& formula);
// Of one that gives a value all but the name: 3; 3 + 4 = 7.
MathTree without_name(const MathTree& formula);

bool holds(const MathTree& tree, MathKind kind);
bool has_decimals(const MathTree& tree);

}  // namespace fernleaf
