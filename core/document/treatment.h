// What is done to a photograph or scan of paper to show it as a page. The file itself is never changed: everything here
// can be done otherwise at any time.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/result.h"
#include "document/sheet_outline.h"

namespace fernleaf {

// As libraries keep them.
enum class Look {
    original = 0,
    clean = 1,  // even light on white paper, inks in their colours
    grey = 2,
    black_white = 3,
};

struct Treatment {
    std::optional<SheetOutline> outline;  // px of the file's picture; none: all of it
    int dpi = 0;                          // dots an inch that a page of a PDF is drawn with; 0: as usual
    int quarter_turns = 0;                // clockwise, 0 to 3, after it was straightened
    double turn_deg = 0;                  // and then clockwise, -45 to 45
    double aspect = 0;                    // width over height once straightened; 0: as it is measured
    Look look = Look::original;
    bool without_rules = false;  // rules, squares and punch holes painted over
    // The pieces of ink that became strokes and are painted over: their boxes, in parts of the page's width and height.
    std::vector<Box> lifted;
    bool untouched() const { return *this == Treatment{}; }
    // Whether the file's picture lies as it did.
    bool is_rectified() const { return outline || quarter_turns != 0 || turn_deg != 0; }
    friend bool operator==(const Treatment&, const Treatment&) = default;
};

// JSON; nothing for a picture that is left as it is.
std::string encode_treatment(const Treatment& treatment);
Result<Treatment> decode_treatment(const std::string& json);

}  // namespace fernleaf
