#include "paper/lifted_ink.h"

#include <gtest/gtest.h>

#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>
#include <string>

#include "paper/ink_mask.h"
#include "paper/page_reading.h"
#include "paper/sheet_picture.h"
#include "reading/test_reader.h"

namespace fernleaf {
namespace {

std::string words_in(const Reading& reading) {
    std::string out;
    for (const ReadLine& line : reading.lines) out += line.text();
    return out;
}

constexpr int kWide = 1000, kHigh = 1400;  // 5 px a mm
const cv::Scalar kBlue(150, 60, 20), kRed(30, 25, 170);

// A sheet with a word in blue over one in red, and a rule.
cv::Mat sheet() {
    cv::Mat page(kHigh, kWide, CV_8UC3, cv::Scalar(238, 246, 250));
    cv::line(page, {20, 330}, {980, 330}, cv::Scalar(215, 205, 190), 2);
    cv::putText(page, "apple", {100, 300}, cv::FONT_HERSHEY_SCRIPT_SIMPLEX, 2, kBlue, 4, cv::LINE_AA);
    cv::putText(page, "cider", {500, 600}, cv::FONT_HERSHEY_SCRIPT_SIMPLEX, 2, kRed, 4, cv::LINE_AA);
    cv::GaussianBlur(page, page, {}, 0.6);
    return page;
}

Picture whole() { return {1, "f", "sheet", 0, Box::of(0, 0, kWide / 5.0, kHigh / 5.0)}; }

Box box_of(const std::vector<Stroke>& strokes) {
    Box out;
    for (const Stroke& s : strokes) out.include(s.box());
    return out;
}

class Lifted : public WithReader {
protected:
    LiftedInk lift(const Picture& picture, PrintSkills* print = nullptr) {
        return lift_ink(sheet(), picture, *reader_, print, {});
    }
};

TEST_F(Lifted, InkBecomesStrokesInItsPlaceColourAndWidth) {
    const LiftedInk ink = lift(whole());
    ASSERT_GT(ink.strokes.size(), 4U);
    size_t blue = 0, red = 0;
    for (const Stroke& s : ink.strokes) {
        EXPECT_TRUE(is_valid(s));
        EXPECT_NEAR(s.pen.width_mm, 0.8, 0.25);
        EXPECT_GE(s.points.size(), 2U);
        const int r = static_cast<int>(s.pen.colour >> 16), b = static_cast<int>(s.pen.colour & 255);
        const bool upper = s.box().bottom < 80;
        EXPECT_EQ(b > r, upper) << "each word in its own colour";
        (upper ? blue : red)++;
    }
    EXPECT_GT(blue, 0U);
    EXPECT_GT(red, 0U);
    EXPECT_LT(ink.strokes.front().box().bottom, 80) << "the upper line was written first";
    const Box all = box_of(ink.strokes);
    EXPECT_NEAR(all.left, 20, 3);
    EXPECT_NEAR(all.bottom, 125, 8);
}

TEST_F(Lifted, WhatWasLiftedIsReadAsItWas) {
    Picture small = whole();
    small.box = Box::of(0, 0, kWide / 10.0, kHigh / 10.0);
    const LiftedInk ink = lift(small);
    Page page;
    page.strokes = ink.strokes;
    for (size_t i = 0; i < page.strokes.size(); ++i) page.strokes[i].id = static_cast<StrokeId>(i + 1);
    const Reading reading = read_page(page, {}, *reader_, {}, {}, {});
    ASSERT_EQ(reading.lines.size(), 2U);
    EXPECT_EQ(reading.lines[0].text(), "apple");
    EXPECT_EQ(reading.lines[1].text(), "cider");
}

TEST_F(Lifted, ThePictureIsWithoutItAndTheFileAsItWas) {
    Picture picture = whole();
    picture.treatment.lifted = lift(whole()).places;
    ASSERT_FALSE(picture.treatment.lifted.empty());
    EXPECT_FALSE(picture.treatment.untouched());
    std::vector<uchar> encoded;
    cv::imencode(".png", sheet(), encoded);
    const std::string bytes(encoded.begin(), encoded.end());
    for (const Look look : {Look::original, Look::clean, Look::black_white}) {
        picture.treatment.look = look;
        const auto shown = picture_pixels(bytes, picture);
        ASSERT_TRUE(shown);
        cv::Mat grey;
        cv::cvtColor(*shown, grey, cv::COLOR_BGR2GRAY);
        double darkest = 0;
        cv::minMaxLoc(grey(cv::Rect(60, 340, 900, 300)), &darkest);
        EXPECT_GT(darkest, 190) << "no ink is left, look " << static_cast<int>(look);
        if (look == Look::original) {
            EXPECT_LT(grey.at<uchar>(330, 900), 225) << "the rule stays";
        }
    }
    // Nothing is left to be read.
    Page page;
    page.pictures = {picture};
    const FileSource files = [&](const std::string&) -> Result<std::string> { return bytes; };
    EXPECT_EQ(words_in(read_page(page, files, *reader_, {}, {}, {})), "");
    page.pictures[0].treatment.lifted.clear();
    EXPECT_EQ(read_page(page, files, *reader_, {}, {}, {}).lines.size(), 2U);
}

TEST_F(Lifted, OnlyWhatTheCropShowsAndWhereThePictureLies) {
    Picture lower = whole();
    lower.crop = {0, 0.3, 1, 1};
    lower.box = Box::of(10, 20, 100, 98);  // half the size
    const LiftedInk ink = lift(lower);
    ASSERT_FALSE(ink.strokes.empty());
    const Box all = box_of(ink.strokes);
    EXPECT_NEAR(all.left, 10 + 50, 3);
    EXPECT_NEAR(all.bottom, 20 + (600 - 420) / 10.0, 5);
    for (const Stroke& s : ink.strokes) EXPECT_NEAR(s.pen.width_mm, 0.4, 0.15);
    lower.angle = 90;
    const Box aslant = box_of(lift(lower).strokes);
    EXPECT_NEAR(aslant.width(), all.height(), 0.1);
    EXPECT_NEAR(aslant.height(), all.width(), 0.1);
}

TEST_F(Lifted, PrintedWordsStay) {
    cv::Mat last(1, 3, CV_32F, cv::Scalar(0));
    last.at<float>(2) = 9;
    PrintSkills all_print(PrintTeller({cv::Mat(1, 193, CV_32F, cv::Scalar(0)), last,
                                       cv::Mat(kOffsetClasses, kOffsetBins, CV_32F, cv::Scalar(0)), 0}));
    // Words that tesseract reads are print; what it can make nothing of is ink all the same.
    cv::Mat page(400, 1000, CV_8UC3, cv::Scalar(245, 245, 245));
    cv::putText(page, "Cider press", {60, 200}, cv::FONT_HERSHEY_DUPLEX, 1.6, {40, 40, 40}, 2, cv::LINE_AA);
    Picture picture = whole();
    const LiftedInk ink = lift_ink(page, picture, *reader_, &all_print, {});
    EXPECT_TRUE(ink.strokes.empty());
    EXPECT_TRUE(ink.places.empty());
    EXPECT_FALSE(lift_ink(page, picture, *reader_, nullptr, {}).strokes.empty());
}

TEST_F(Lifted, WhatWasLiftedIsNotLiftedAgain) {
    Picture upper = whole();
    upper.crop = {0, 0, 1, 0.3};
    Picture picture = whole();
    picture.treatment.lifted = lift(upper).places;
    const LiftedInk rest = lift(picture);
    ASSERT_FALSE(rest.strokes.empty());
    for (const Stroke& s : rest.strokes) EXPECT_GT(s.box().top, 80) << "the lower word alone";
    picture.treatment.lifted.insert(picture.treatment.lifted.end(), rest.places.begin(), rest.places.end());
    EXPECT_TRUE(lift(picture).strokes.empty());
}

TEST_F(Lifted, NothingIsLeftToBeReadOfBlurredInkEither) {
    cv::Mat page(500, 560, CV_8UC3, cv::Scalar(150, 215, 225));
    cv::putText(page, "apple", {90, 150}, cv::FONT_HERSHEY_SCRIPT_SIMPLEX, 1.6, kBlue, 4, cv::LINE_AA);
    cv::putText(page, "cider", {90, 300}, cv::FONT_HERSHEY_SCRIPT_SIMPLEX, 1.6, kBlue, 4, cv::LINE_AA);
    cv::GaussianBlur(page, page, {}, 1.6);
    std::vector<uchar> png;
    cv::imencode(".png", page, png);
    Page note;
    note.pictures = {{1, "f", "note", 0, Box::of(0, 0, 76, 68)}};
    const FileSource files = [&](const std::string&) -> Result<std::string> {
        return std::string(png.begin(), png.end());
    };
    EXPECT_EQ(read_page(note, files, *reader_, {}, {}, {}).lines.size(), 2U);
    note.pictures[0].treatment.lifted = lift_ink(page, note.pictures[0], *reader_, nullptr, {}).places;
    const Reading left = read_page(note, files, *reader_, {}, {}, {});
    EXPECT_EQ(words_in(left), "");
}

TEST_F(Lifted, WhatALiftedRingGoesAroundStays) {
    cv::Mat page(700, 1000, CV_8UC3, cv::Scalar(245, 245, 245));
    cv::ellipse(page, {500, 350}, {220, 210}, 0, 0, 360, kBlue, 5, cv::LINE_AA);
    cv::putText(page, "inside", {390, 370}, cv::FONT_HERSHEY_SCRIPT_SIMPLEX, 1.6, kRed, 4, cv::LINE_AA);
    Treatment treatment;
    const InkMask ink = ink_mask([&] {
        cv::Mat grey;
        cv::cvtColor(page, grey, cv::COLOR_BGR2GRAY);
        return grey;
    }());
    const auto ring = std::ranges::max_element(ink.pieces, {}, [](const InkPiece& p) { return p.box.area(); });
    const cv::Rect box = ring->box;
    treatment.lifted = {{box.x / 1000.0, box.y / 700.0, box.br().x / 1000.0, box.br().y / 700.0}};
    const cv::Mat shown = treated(page, treatment);
    EXPECT_GT(shown.at<cv::Vec3b>(140, 500)[2], 200) << "the ring is gone";
    cv::Mat red;
    cv::inRange(shown(cv::Rect(320, 270, 360, 160)), cv::Scalar(0, 0, 100), cv::Scalar(120, 120, 255), red);
    EXPECT_GT(cv::countNonZero(red), 400) << "the word is there";
}

TEST_F(Lifted, NothingComesOfBlankPaperOrWhenItWasCancelled) {
    const cv::Mat blank(500, 400, CV_8UC3, cv::Scalar(240, 240, 240));
    EXPECT_TRUE(lift_ink(blank, whole(), *reader_, nullptr, {}).strokes.empty());
    EXPECT_TRUE(lift_ink({}, whole(), *reader_, nullptr, {}).strokes.empty());
    CancelSource cancel;
    cancel.cancel();
    const LiftedInk none = lift_ink(sheet(), whole(), *reader_, nullptr, {}, {}, cancel.token());
    EXPECT_TRUE(none.strokes.empty());
    EXPECT_TRUE(none.places.empty());
}

}  // namespace
}  // namespace fernleaf
