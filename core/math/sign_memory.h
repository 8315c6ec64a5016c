// What a person's corrections taught of how they write signs: forms with the signs they were said to be. A sign that
// looks much like one of them is likelier that one (after the prototypes that writer adaptation adds to a classifier:
// Connell & Jain, "Writer adaptation for online handwriting recognition", 2002).
//
//   SignMemory taught;
//   taught.take(ids_of_formula, {{{7, 8}, sign_form(strokes, usual), *sign_named("z")}});
//   taught.lean(form, ids_of_another, chances);  // of what the network tells
#pragma once

#include <deque>
#include <unordered_set>
#include <vector>

#include "ink/stroke.h"
#include "math/sign_form.h"

namespace fernleaf {

struct TaughtSign {
    std::vector<StrokeId> strokes;  // rising, at least one
    SignForm form;
    size_t sign = 0;  // of math_signs()
};

class SignMemory {
public:
    static constexpr size_t kMost = 1000;  // signs; the oldest go first

    // What a person says of a formula's signs now, instead of what they said of these before. Whether that is anything
    // new. ink: all of the formula's strokes.
    bool take(const std::unordered_set<StrokeId>& ink, const std::vector<TaughtSign>& said);
    // chances: of math_signs(), and last that it is none; together 1, before and after. What was said of the formula
    // itself counts for the signs that it was said of alone. ink: as before.
    void lean(const SignForm& form, const std::unordered_set<StrokeId>& ink, std::vector<float>& chances) const;
    bool empty() const { return known_.empty(); }

private:
    struct Known {
        std::vector<StrokeId> strokes;
        std::vector<float> maps;  // of length 1
        size_t sign = 0;
        friend bool operator==(const Known&, const Known&) = default;
    };
    std::deque<Known> known_;
};

}  // namespace fernleaf
