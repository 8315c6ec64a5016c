// Sheets of paper with writing and print on them, whose words are known.
#pragma once

#include <opencv2/core.hpp>
#include <random>
#include <string>
#include <vector>

#include "base/geometry.h"
#include "demo/hand.h"
#include "demo/photo.h"
#include "ink/stroke.h"

namespace fernleaf {

struct DrawnLine {
    std::string text;
    Box box;  // px
    bool printed = false;
};

struct DrawnSheet {
    cv::Mat pixels;  // CV_8UC3, BGR
    double width_mm = 0;
    std::vector<DrawnLine> lines;
    std::vector<Stroke> strokes;  // of what is written, mm
    uint32_t ink = 0;             // the pen's colour on white paper, 0xRRGGBB
};

enum class Content { written, printed, both };  // both: lines of either kind by turns, as on a form

// The typefaces that print is drawn in.
extern const std::vector<std::string> kUsualFaces;

// Any size, paper, rules and pen. Lines that the hand can't write are left out. Needs a QGuiApplication for print.
DrawnSheet draw_sheet(const Hand& hand, const std::vector<std::string>& texts, Content content, std::mt19937& random,
                      const std::vector<std::string>& faces = kUsualFaces);

// A sheet as it is photographed with twelve megapixels, and the page that is found in the photograph.
struct PhotographedPage {
    View view;
    Photo photo;
    cv::Mat page;  // straightened, not cleaned; empty where no sheet was found
};

// From anywhere, all of the sheet in the picture: what is not can't be read. view: how it was taken.
Photo photographed(const DrawnSheet& sheet, std::mt19937& random, View* view = nullptr);
PhotographedPage found_in_photograph(const DrawnSheet& sheet, std::mt19937& random);

// All words on the sheet, in order, each followed by a blank.
std::string truth_of(const DrawnSheet& sheet);

}  // namespace fernleaf
