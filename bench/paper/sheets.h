// Sheets of paper with writing and print on them, whose words are known.
#pragma once

#include <opencv2/core.hpp>
#include <random>
#include <string>
#include <vector>

#include "base/geometry.h"
#include "bench/paper/paper_camera.h"
#include "demo/hand.h"
#include "ink/stroke.h"
#include "paper/printed_text.h"
#include "reading/reader.h"
#include "transcript/reading.h"

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

// Other things that are photographed: what stands on them, all words in order, each followed by a blank.
struct DrawnThing {
    cv::Mat pixels;  // CV_8UC3, BGR
    std::string truth;
};
// A form, printed and filled in by hand. layout: below kFormLayouts.
constexpr size_t kFormLayouts = 6;
DrawnThing draw_form(const Hand& hand, size_t layout, std::mt19937& random);
// A whiteboard with its frame.
DrawnThing draw_board(const Hand& hand, const std::vector<std::string>& texts, std::mt19937& random);
// A sticky note or a slip of a few words. kind: of paper and pen, below kNoteKinds.
constexpr size_t kNoteKinds = 6;
DrawnThing draw_note(const Hand& hand, const std::vector<std::string>& texts, size_t kind, std::mt19937& random);

// A sheet as it is photographed with twelve megapixels, and the page that is found in the photograph.
struct PhotographedPage {
    Shot shot;
    cv::Mat page;  // straightened, not cleaned; empty where no sheet was found
};

// From anywhere, all of the sheet in the picture: what is not can't be read.
Shot photographed(const cv::Mat& sheet, const PaperCamera& camera, std::mt19937& random);
PhotographedPage found_in_photograph(const cv::Mat& sheet, const PaperCamera& camera, std::mt19937& random);

// What a page says. pixels: straightened. width_mm: as it lies on the page.
constexpr double kAnyWidthMm = 210;
Reading reading_of(const cv::Mat& pixels, const Reader& reader, PrintSkills& print, double width_mm = kAnyWidthMm);
// The same, all words in the order in which they are read, each followed by a blank.
std::string read_as_page(const cv::Mat& pixels, const Reader& reader, PrintSkills& print);

// All words on the sheet, in order, each followed by a blank.
std::string truth_of(const DrawnSheet& sheet);

}  // namespace fernleaf
