// Words at a place of a drawing, in a hand.
#pragma once

#include <algorithm>
#include <iterator>
#include <string>
#include <vector>

#include "demo/hand.h"

namespace fernleaf {

// Adds the strokes of words whose middle is at a place; with side 1 or -1 their left or right end is. Their box, mm.
inline Box write_at(std::vector<Stroke>& out, const Hand& hand, const std::string& text, const WritingStyle& style,
                    Point at, int side, std::mt19937& random) {
    std::vector<Stroke> ink = hand.write(text, {0, 0}, style, random);
    Box box;
    for (const Stroke& s : ink) box.include(s.box());
    const Point by = at - Point{side > 0 ? box.left : side < 0 ? box.right : box.centre().x, box.centre().y};
    for (Stroke& s : ink)
        for (InkPoint& p : s.points.change()) p.at = p.at + by;
    std::ranges::move(ink, std::back_inserter(out));
    return shifted(box, by);
}

}  // namespace fernleaf
