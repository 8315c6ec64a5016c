// A sheet of paper.
#pragma once

#include <cstdint>
#include <string>

#include "base/geometry.h"

namespace fernleaf {

// What is printed on a page. As libraries keep them: numbers never change their meaning.
enum class Paper {
    plain = 0,
    ruled = 1,
    squared = 2,
    dotted = 3,
    margined = 4,
    staves = 5,
    picture = 6,
    week = 7,  // this and all that follow: a form
    minutes = 8,
    questions = 9,  // and notes beside them
    lab = 10,
    storyboard = 11,
    isometric = 12,
    checklist = 13,
    graph = 14,
    addresses = 15
};
constexpr Paper kLastPaper = Paper::addresses;
// Whether lines are printed on it, spacing_mm apart, to write on.
constexpr bool has_rules(Paper paper) { return paper != Paper::plain && paper < Paper::picture; }

constexpr uint32_t kUsualPaper = 0xFBF8F1;  // dark where the window is dark; other colours stay as they are
constexpr uint32_t kWhitePaper = 0xFFFFFF;  // under photographs of paper: what is written on them stays dark
constexpr double kLeastSpacingMm = 2, kMostSpacingMm = 40;
constexpr double kLeastSheetMm = 20, kMostSheetMm = 2000;

struct Sheet {
    double width_mm = 148;
    double height_mm = 210;  // of an endless sheet: as far as it has come
    Paper paper = Paper::margined;
    double spacing_mm = 8;  // of rules, squares and dots; of a staff's lines a fifth of it
    uint32_t colour = kUsualPaper;
    std::string picture = {};  // for Paper::picture: a file of the library
    bool endless = false;      // grows downwards as it is written on
    bool errands = false;      // boxes to tick are printed at its foot (errand.h)
    friend bool operator==(const Sheet&, const Sheet&) = default;
};

// A sheet for a picture of so many mm, and where the picture lies on it. Pictures too long for any sheet are made
// smaller; thin ones lie at the top of one of the least size.
struct SheetForPicture {
    double width_mm = 0, height_mm = 0;
    Box picture;
};
SheetForPicture sheet_for_picture(double width_mm, double height_mm);

}  // namespace fernleaf
