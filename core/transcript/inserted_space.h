// Making room on a page: what stands below a place moves down, or what stands right of it in its line moves right; and
// back, until it meets what stays.
//
//   InsertedSpace space = space_at(page, reading, {80, 120}, Push::down);
//   Edit edit = make_space_edit(page, reading, space, 24, next_id);
#pragma once

#include <functional>
#include <limits>

#include "document/edit.h"
#include "transcript/reading.h"

namespace fernleaf {

enum class Push { down, right };

struct InsertedSpace {
    Push push = Push::down;
    Elements moving;
    double closes_mm = 0;  // how far what moves can come back
};

// Lines move as a whole, even when a letter's tail hangs across the place; locked pictures stay.
InsertedSpace space_at(const Page& page, const Reading& reading, Point at, Push push);

// Opens (or with by_mm < 0 closes) the room. What no longer fits on the sheet flows to a page of its own, whole lines
// at a time; an endless sheet only grows. new_id gives the elements their new ids.
Edit make_space_edit(const Page& page, const Reading& reading, const InsertedSpace& room, double by_mm,
                     const std::function<int64_t()>& new_id);

}  // namespace fernleaf
