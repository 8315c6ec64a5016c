#include "paper/sheet_picture.h"

#include <gtest/gtest.h>

#include <opencv2/imgcodecs.hpp>

#include "paper/test_photo.h"

namespace fernleaf {
namespace {

const SheetOutline kLaidAslant{{{{180, 120}, {770, 190}, {820, 1010}, {90, 930}}}, {}};

cv::Mat photo_aslant() {
    cv::Mat out = table({900, 1200}, {70, 90, 110});
    lay_sheet(out, kLaidAslant, {190, 215, 225});
    scrawl(out, kLaidAslant);
    return out;
}

std::string png(const cv::Mat& pixels) {
    std::vector<uchar> bytes;
    cv::imencode(".png", pixels, bytes);
    return {bytes.begin(), bytes.end()};
}

TEST(SheetPicture, SuggestsOneCleanPageForASheet) {
    const auto pages = suggested(photo_aslant());
    ASSERT_EQ(pages.size(), 1U);
    ASSERT_TRUE(pages[0].treatment.outline);
    EXPECT_LT(distance(pages[0].treatment.outline->corners[0], kLaidAslant.corners[0]), 3);
    EXPECT_EQ(pages[0].treatment.look, Look::clean);
    EXPECT_GT(pages[0].height_mm, pages[0].width_mm);
    const cv::Mat page = treated(photo_aslant(), pages[0].treatment);
    const cv::Scalar corner = cv::mean(page(cv::Rect(8, 8, 20, 20)));
    for (int c = 0; c < 3; ++c) EXPECT_GT(corner[c], 240);
}

TEST(SheetPicture, AWholeScanIsLeftAsItIs) {
    cv::Mat scan = table({850, 1200}, {235, 240, 240});
    scrawl(scan, {{{{0, 0}, {850, 0}, {850, 1200}, {0, 1200}}}, {}});
    const auto pages = suggested(scan);
    ASSERT_EQ(pages.size(), 1U);
    EXPECT_TRUE(pages[0].treatment.untouched());
    EXPECT_DOUBLE_EQ(pages[0].width_mm, 210);
    EXPECT_DOUBLE_EQ(pages[0].height_mm, 297);
}

TEST(SheetPicture, SheetsComeInReadingOrder) {
    cv::Mat two = table({1300, 900}, {70, 90, 110});
    const SheetOutline right{{{{720, 110}, {1190, 140}, {1180, 760}, {700, 740}}}, {}};
    const SheetOutline left{{{{100, 150}, {600, 130}, {610, 790}, {110, 800}}}, {}};
    lay_sheet(two, right);
    lay_sheet(two, left);
    const auto pages = suggested(two);
    ASSERT_EQ(pages.size(), 2U);
    EXPECT_LT(pages[0].treatment.outline->corners[0].x, pages[1].treatment.outline->corners[0].x);
}

TEST(SheetPicture, DarkGroundBesideACleanPageIsPaperAndAStrokeToItsBorderStays) {
    cv::Mat picture(1000, 800, CV_8UC3, cv::Scalar(90, 40, 30));
    picture(cv::Rect(101, 101, 598, 798)).setTo(cv::Scalar(235, 240, 240));
    cv::line(picture, {300, 101}, {310, 200}, {60, 30, 20}, 5);
    Treatment treatment;
    treatment.look = Look::clean;
    treatment.outline = SheetOutline{{{{100, 100}, {700, 100}, {700, 900}, {100, 900}}}, {}};
    const cv::Mat page = treated(picture, treatment);
    EXPECT_LT(page.at<cv::Vec3b>(0, 200)[2], 90) << "the stroke's end";
    for (int x = 220; x < 590; ++x) ASSERT_EQ(page.at<cv::Vec3b>(0, x), cv::Vec3b::all(255)) << x;
    for (int y = 0; y < 790; ++y) ASSERT_EQ(page.at<cv::Vec3b>(y, 0), cv::Vec3b::all(255)) << y;
}

TEST(SheetPicture, TurnsByQuartersAndALittle) {
    cv::Mat page(300, 200, CV_8UC3, cv::Scalar::all(250));
    cv::circle(page, {20, 20}, 6, {0, 0, 0}, cv::FILLED);
    const auto dot = [](const cv::Mat& pixels) {
        cv::Mat grey;
        cv::cvtColor(pixels, grey, cv::COLOR_BGR2GRAY);
        cv::blur(grey, grey, {7, 7});
        cv::Point at;
        cv::minMaxLoc(grey, nullptr, nullptr, &at);
        return at;
    };
    Treatment once;
    once.quarter_turns = 1;
    const cv::Mat turned = treated(page, once);
    EXPECT_EQ(turned.size(), cv::Size(300, 200));
    EXPECT_NEAR(dot(turned).x, 279, 3);
    EXPECT_NEAR(dot(turned).y, 20, 3);
    Treatment little;
    little.turn_deg = 5;  // clockwise: what is at the top left goes right and up
    const cv::Point at = dot(treated(page, little));
    EXPECT_GT(at.x, 24);
    EXPECT_LT(at.y, 17);
}

TEST(SheetPicture, RulesAndHolesArePaintedOverInEveryLook) {
    cv::Mat page(1200, 850, CV_8UC3, cv::Scalar(225, 235, 238));
    for (int y = 60; y < 1200; y += 40) cv::line(page, {0, y}, {850, y}, {200, 180, 150}, 2);
    for (const int y : {400, 800}) cv::circle(page, {40, y}, 13, {50, 50, 50}, cv::FILLED);
    cv::line(page, {300, 240}, {330, 315}, {120, 40, 20}, 4, cv::LINE_AA);  // crosses two rules
    for (const Look look : {Look::original, Look::clean, Look::grey, Look::black_white}) {
        Treatment treatment;
        treatment.look = look;
        treatment.without_rules = true;
        const cv::Mat out = treated(page, treatment);
        EXPECT_GT(cv::mean(out(cv::Rect(500, 298, 200, 4)))[2], 215) << static_cast<int>(look);
        EXPECT_GT(cv::mean(out(cv::Rect(30, 390, 20, 20)))[2], 200) << static_cast<int>(look);
        EXPECT_LT(out.at<cv::Vec3b>(300, 324)[2], 140) << "the stroke on the rule stays";
    }
}

TEST(SheetPicture, WhatIsReadIsStraightButNotCleaned) {
    Picture picture;
    picture.treatment = suggested(photo_aslant())[0].treatment;
    const auto shown = picture_pixels(png(photo_aslant()), picture),
               read = picture_to_read(png(photo_aslant()), picture);
    ASSERT_TRUE(shown && read);
    EXPECT_EQ(shown->size(), read->size());
    EXPECT_GT(cv::mean(*shown)[0], cv::mean(*read)[0] + 20);
    picture.treatment = {};
    EXPECT_EQ(picture_pixels(png(photo_aslant()), picture)->size(), cv::Size(900, 1200));
    EXPECT_FALSE(picture_pixels("no picture", picture));
}

TEST(SheetPicture, PartsOfAPictureBecomeOneSheetAboutThemAll) {
    Treatment left, right;
    left.outline = SheetOutline{{{{100, 100}, {400, 110}, {395, 600}, {105, 590}}}, {}};
    right.outline = SheetOutline{{{{420, 112}, {720, 120}, {715, 610}, {425, 600}}}, {}};
    left.look = Look::grey, left.quarter_turns = 1;
    const Treatment one = about_all({left, right});
    EXPECT_EQ(one.look, Look::grey);
    EXPECT_EQ(one.quarter_turns, 1);
    ASSERT_TRUE(one.outline && is_valid(*one.outline));
    EXPECT_LT(one.outline->corners[0].x, 110) << "the first corner is the one at the top left";
    EXPECT_LT(one.outline->corners[0].y, 110);
    EXPECT_GT(one.outline->corners[2].x, 710);
    EXPECT_GT(one.outline->corners[2].y, 600);
    EXPECT_FALSE(about_all({left, {}}).outline) << "the whole picture is about all";
}

}  // namespace
}  // namespace fernleaf
