// Errands: boxes printed at the foot of addressed paper that have something done with the page when they are ticked.
//
//   for (const ErrandBox& e : errand_boxes(sheet)) draw(e.box);
//   if (const auto errand = errand_of(sheet, stroke)) ...      // this stroke ticks one
#pragma once

#include <optional>
#include <vector>

#include "document/sheet.h"
#include "ink/stroke.h"

namespace fernleaf {

// As libraries keep them: numbers never change their meaning.
enum class Errand { send = 0, important = 1, todo = 2, tag_a = 3, tag_b = 4, tag_c = 5 };
constexpr int kErrands = 6;

struct ErrandBox {
    Errand errand = Errand::send;
    Box box;  // mm
};

// Of a sheet that has them, from left to right; else none.
std::vector<ErrandBox> errand_boxes(const Sheet& sheet);

// The one whose box most of the stroke lies in.
std::optional<Errand> errand_of(const Sheet& sheet, const Stroke& stroke);

}  // namespace fernleaf
