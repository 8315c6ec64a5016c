// What tests of drawings that move and lay out type share.
#pragma once

#include <algorithm>
#include <cmath>

#include "document/text/text_block.h"

namespace fernleaf {

inline constexpr double kTestLetterMm = 2, kTestLineMm = 5;

// As type is laid out, with letters that are all as wide.
inline void lay_out(TextBlock& block) {
    const std::string text = plain_text(block);
    const double letters = std::max(1.0, std::floor(block.width_mm / kTestLetterMm));
    const double lines = std::max(1.0, std::ceil(static_cast<double>(text.size()) / letters));
    block.height_mm = lines * kTestLineMm;
    const double wide = std::min(block.width_mm, kTestLetterMm * static_cast<double>(text.size()));
    block.words = {{text, Box::of(block.at.x, block.at.y, wide, kTestLineMm), 0}};
}

// The numbers of new elements.
struct Ids {
    ElementId next = 1000;
    ElementId operator()() { return ++next; }
};

}  // namespace fernleaf
