// Works formulas out: sums, equations, inequalities, systems, integrals, limits, matrices; exact first, decimal beside
// it.
//
//   WorkedOut out = work_out(*parse_math("x^2-16=0"), {});
//   out.text();      // "x = -4 or x = 4"
//
// The algebra is Debian's libgiac, in a process of its own under limits: our tree decides what is valid and builds what
// is sent (algebra_text.h), names are mapped, and only known functions pass. What takes longer, or more memory, is too
// hard. A call starts that process and waits for it: not for the UI's thread.
#pragma once

#include <map>
#include <string>

#include "base/cancel.h"
#include "document/working_manner.h"
#include "math/algebra_text.h"
#include "math/math_tree.h"

namespace fernleaf {

// earlier_values is for who gathers the values.
struct WorkingSettings : WorkingManner {
    std::map<std::string, MathTree> values = {};  // of names
};

struct WorkedOut {
    enum class Kind {
        value,      // what it comes to
        solutions,  // of an equation or a system, alternatives; or ranges
        truth,      // whether both sides are the same
        nothing     // in words: no solution, undefined, too hard, …
    } kind = Kind::nothing;
    std::string exact;    // plain, or the words
    std::string decimal;  // empty where it says no more than the exact one
    bool holds = false;   // of truth
    std::string text() const { return decimal.empty() ? exact : exact + " ≈ " + decimal; }
};

// tree: sound.
WorkedOut work_out(const MathTree& tree, const WorkingSettings& settings, const CancelToken& cancel = {});

// What a formula can be made into on wish.
enum class Rework { simplify, expand, factor, solve };

// A relation is reworked side by side; solve: it is solved for a name, whatever other names it holds. tree: sound.
WorkedOut reworked(const MathTree& tree, Rework how, const std::string& name, const WorkingSettings& settings,
                   const CancelToken& cancel = {});

}  // namespace fernleaf
