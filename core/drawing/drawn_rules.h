// Level and upright rules among a page's strokes: what may part the cells of a table.
//
//   const Rules rules = rules_in(strokes);
//   for (const Rule& rule : rules.level) draw({rule.begin, rule.at}, {rule.end, rule.at});   // the page set level
#pragma once

#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

// A level or upright run of a stroke on the page set level, mm. along: from begin to end; at: across.
struct Rule {
    size_t stroke = 0;  // index into those given
    double begin = 0, end = 0, at = 0;
    double length() const { return end - begin; }
};

struct Rules {
    std::vector<Rule> level, upright;
    double skew_deg =
        0;  // how far the page is turned, clockwise; the rules are those of the page turned back about 0, 0
};

// A stroke may hold several, as a frame does, and holds little else. A page turned by more than 12 degrees has none.
Rules rules_in(const std::vector<Stroke>& strokes);

// How far a rule's end may miss what it ends on, mm.
double touch_reach(const Rule& rule);

// Whether a stroke is taller than letters, or long and bent little, as sides of figures are; words bend much.
bool is_side(const Stroke& stroke);

bool touch(const Rule& level, const Rule& upright);

}  // namespace fernleaf
