// Formulas as the algebra program takes and gives them. Names of the page never reach it: each stands as v1, v2, … in
// what is sent, so that none is taken for one of its own.
//
//   AlgebraText text(AngleUnit::degree);
//   std::string sent = text.of(tree);              // "sin((v1)*pi/180)"
//   auto back = text.read("2*v1");                 // 2 x
#pragma once

#include <map>
#include <optional>
#include <string>

#include "document/working_manner.h"
#include "math/math_tree.h"

namespace fernleaf {

// The value of an answer: a tree, or alternatives of lists, or conditions.
struct AlgebraAnswer {
    enum class Kind { value, list, all, any } kind = Kind::value;  // all: what stands together; any: one of them
    MathTree value = {};
    std::vector<AlgebraAnswer> parts = {};
};

// Whether some angle in it says itself that it is in degrees.
bool holds_degrees(const MathTree& tree);

class AlgebraText {
public:
    explicit AlgebraText(AngleUnit unit) : unit_(unit) {}

    // tree: sound.
    std::string of(const MathTree& tree);
    std::string name_of(const std::string& name);  // what stands for it
    // Nothing where it is not understood, which is as if there were no answer.
    std::optional<AlgebraAnswer> read(const std::string& text) const;

private:
    std::string call(const MathTree& tree);
    std::string list(const std::vector<MathTree>& parts, const char* between);

    AngleUnit unit_;
    std::map<std::string, std::string> sent_, meant_;  // by name of the page, and back
};

}  // namespace fernleaf
