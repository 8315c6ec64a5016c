// Sets ink in type where it stands: what was read becomes blocks of text that remember their ink.
//
//   Setting setting = set_in_type(page, reading, chosen, measure);
//   Edit edit{"Set in type", {{}, {}, setting.blocks}, {setting.ink}};
//
// Method: lines of a region run on in one paragraph where the first word of the next would not have fitted any more
// (Knuth & Plass's first-fit rule, read backwards: "Breaking paragraphs into lines", 1981); else a paragraph ends. Type
// is as large as the writing, as long as it fits its place; every paragraph begins at the height of its ink, whatever
// its own length in type. List signs, headings, colours, highlights and
// underlines (a line for italic, a wave for bold) are taken over from the ink, and words of low certainty
// keep their mark.
#pragma once

#include <functional>
#include <set>

#include "document/page.h"
#include "transcript/reading.h"

namespace fernleaf {

// How wide a text is in a style, mm.
using MeasureText = std::function<double(const std::string& text, const TextStyle& style)>;

struct TypesettingResult {
    std::vector<TextBlock> blocks;  // not set yet: their words and height are not known here
    std::vector<Stroke> ink;        // what they replace
};

// The chosen ink in type; null: all that was read on the page. Ink that says nothing (drawings) stays as it is. A word
// is set when more than half of its strokes are chosen.
TypesettingResult set_in_type(const Page& page, const Reading& reading, const std::set<StrokeId>* chosen,
                              const MeasureText& measure);

}  // namespace fernleaf
