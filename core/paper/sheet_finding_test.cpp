#include "paper/sheet_finding.h"

#include <gtest/gtest.h>

#include "paper/quadrilateral.h"
#include "paper/sheet_patches.h"
#include "paper/test_photo.h"

namespace fernleaf {
namespace {

const SheetOutline kAslant{{{{180, 120}, {770, 190}, {820, 1010}, {90, 930}}}, {}};

void expect_near(const SheetOutline& found, const SheetOutline& meant, double px) {
    for (size_t i = 0; i < 4; ++i) EXPECT_LT(distance(found.corners[i], meant.corners[i]), px) << "corner " << i;
}

// On a table of a colour.
void expect_found(cv::Scalar ground, double px) {
    cv::Mat photo = table({900, 1200}, ground);
    lay_sheet(photo, kAslant);
    scrawl(photo, kAslant);
    const auto found = find_sheets(photo, 1);
    ASSERT_EQ(found.size(), 1U);
    expect_near(found[0].outline, kAslant, px);
    EXPECT_TRUE(found[0].outline.straight());
    EXPECT_GT(found[0].certainty, 0.8);
}

TEST(SheetFinding, FindsASheetSeenAslantToThePixel) { expect_found({70, 90, 110}, 2.5); }

TEST(SheetFinding, FindsASheetThatIsHardlyBrighterThanTheTable) { expect_found({214, 218, 220}, 4); }

TEST(SheetFinding, FollowsASideThatCurls) {
    SheetOutline curled = kAslant;
    curled.bows[0] = {-0.12, 0.03};
    curled.bows[2] = {0.12, -0.03};
    cv::Mat photo = table({900, 1200}, {70, 90, 110});
    lay_sheet(photo, curled);
    const auto found = find_sheets(photo, 1);
    ASSERT_EQ(found.size(), 1U);
    EXPECT_FALSE(found[0].outline.straight());
    for (const double t : {0.2, 0.5, 0.8})
        EXPECT_LT(distance(found[0].outline.on_side(0, t), curled.on_side(0, t)), 5) << t;
}

TEST(SheetFinding, ACornerOutsideThePictureIsWhereTheSidesMeet) {
    SheetOutline beyond = kAslant;
    beyond.corners[1] = {940, 60};
    cv::Mat photo = table({900, 1200}, {70, 90, 110});
    lay_sheet(photo, beyond);
    const auto found = find_sheets(photo, 1);
    ASSERT_EQ(found.size(), 1U);
    EXPECT_LT(distance(found[0].outline.corners[1], beyond.corners[1]), 8);
    EXPECT_LT(distance(found[0].outline.corners[3], beyond.corners[3]), 4);
}

TEST(SheetFinding, SeveralNotesAreToldApart) {
    cv::Mat photo = table({1200, 900}, {70, 90, 110});
    const std::vector<SheetOutline> notes{{{{{100, 120}, {400, 100}, {420, 400}, {110, 410}}}, {}},
                                          {{{{520, 110}, {820, 140}, {800, 440}, {500, 420}}}, {}},
                                          {{{{300, 500}, {640, 510}, {630, 840}, {290, 830}}}, {}}};
    const cv::Scalar colours[] = {{120, 230, 240}, {200, 240, 190}, {235, 240, 240}};
    for (size_t i = 0; i < notes.size(); ++i) lay_sheet(photo, notes[i], colours[i]);
    const auto found = find_sheets(photo, 10);
    ASSERT_EQ(found.size(), 3U);
    for (const SheetOutline& note : notes) {
        const auto is = [&](const FoundSheet& f) { return distance(f.outline.corners[0], note.corners[0]) < 4; };
        EXPECT_EQ(std::ranges::count_if(found, is), 1);
    }
    EXPECT_EQ(find_sheets(photo, 1).size(), 1U);
}

TEST(SheetFinding, AScanThatIsAllPaperIsLeftWhole) {
    cv::Mat scan = table({850, 1200}, {235, 240, 240});
    scrawl(scan, {{{{0, 0}, {850, 0}, {850, 1200}, {0, 1200}}}, {}});
    EXPECT_TRUE(find_sheets(scan, 1).empty());
    for (int y = 100; y < 1150; y += 50) cv::line(scan, {0, y}, {850, y}, {200, 180, 170}, 2);
    EXPECT_TRUE(find_sheets(scan, 1).empty()) << "rules are no border";
    cv::rectangle(scan, cv::Rect(120, 200, 600, 700), {60, 60, 60}, 2);
    EXPECT_TRUE(find_sheets(scan, 1).empty()) << "a frame drawn on the sheet is none";
}

TEST(SheetFinding, AShadowAcrossAPageThatFillsThePictureIsNoSheet) {
    for (const double slope : {0.0, 0.12, -0.2}) {
        cv::Mat page = table({850, 1200}, {225, 238, 240});
        scrawl(page, {{{{0, 0}, {850, 0}, {850, 1200}, {0, 1200}}}, {}});
        for (int y = 0; y < page.rows; ++y)
            for (int x = 0; x < page.cols; ++x) {
                const double edge = 1 / (1 + std::exp((y - 420 - slope * x) / 3));
                page.at<cv::Vec3b>(y, x) *= 0.55 + 0.45 * edge;
            }
        EXPECT_TRUE(find_sheets(page, 1).empty()) << slope;
    }
}

TEST(SheetFinding, ASoftShadowIsNoSheetWhereATableIsAsBrightAsTheSheet) {
    cv::Mat photo = table({900, 1200}, {188, 192, 196}), light(photo.size(), CV_32F, cv::Scalar(1));
    lay_sheet(photo, kAslant, {218, 222, 224});
    scrawl(photo, kAslant);
    const std::vector<cv::Point> shadow{{-50, 60}, {620, 20}, {900, 560}, {420, 1080}, {-50, 1100}};
    cv::fillConvexPoly(light, shadow, 0.6);
    cv::GaussianBlur(light, light, {}, 8);
    for (int y = 0; y < photo.rows; ++y)
        for (int x = 0; x < photo.cols; ++x) photo.at<cv::Vec3b>(y, x) *= light.at<float>(y, x);
    const auto found = find_sheets(photo, 4);
    ASSERT_EQ(found.size(), 1U);
    expect_near(found[0].outline, kAslant, 6);
}

// With checks of a colour and darker ones, and a coarse weave.
cv::Mat cloth(cv::Scalar colour, cv::Scalar lighter) {
    cv::Mat out(1200, 900, CV_8UC3), grain(out.size(), CV_8UC3);
    for (int y = 0; y < out.rows; y += 110)
        for (int x = 0; x < out.cols; x += 110)
            cv::rectangle(out, cv::Rect(x, y, 110, 110), colour + lighter * (x / 110 % 2 + y / 110 % 2), cv::FILLED);
    cv::RNG rng(3);
    rng.fill(grain, cv::RNG::NORMAL, 0, 5);
    out += grain;
    return out;
}

void shade(cv::Mat& photo, const cv::Rect& where) {
    cv::Mat there = photo(where);
    there *= 0.5;
}

TEST(SheetFinding, ASheetThatCurlsIsFoundOnCheckedClothPartlyInTheShade) {
    cv::Mat photo = cloth({110, 90, 20}, {55, 50, 12});
    shade(photo, {0, 660, 330, 540});
    SheetOutline curled = kAslant;
    curled.bows[1] = {0.07, 0.01};
    lay_sheet(photo, curled, {170, 215, 225});
    const auto found = find_sheets(photo, 1);
    ASSERT_EQ(found.size(), 1U);
    expect_near(found[0].outline, curled, 20);
}

TEST(SheetFinding, SquaresOnASheetMakeItNoClothAndAShadeNoneSmoother) {
    cv::Mat photo = cloth({48, 60, 60}, {35, 35, 35});
    shade(photo, {0, 700, 900, 500});
    lay_sheet(photo, kAslant, {215, 222, 222});
    const auto& c = kAslant.corners;
    for (double t = 0.03; t < 1; t += 0.03) {
        const auto at = [](Point p) { return cv::Point(static_cast<int>(p.x), static_cast<int>(p.y)); };
        cv::line(photo, at(c[0] * (1 - t) + c[1] * t), at(c[3] * (1 - t) + c[2] * t), {200, 180, 160}, 1, cv::LINE_AA);
        cv::line(photo, at(c[0] * (1 - t) + c[3] * t), at(c[1] * (1 - t) + c[2] * t), {200, 180, 160}, 1, cv::LINE_AA);
    }
    const auto found = find_sheets(photo, 4);
    ASSERT_EQ(found.size(), 1U);
    expect_near(found[0].outline, kAslant, 6);
}

// Many colours and edges in all ways, as leaves, gravel or a painting have them.
cv::Mat busy(cv::Size size) {
    cv::Mat out(size, CV_8UC3, cv::Scalar(60, 80, 60));
    cv::RNG rng(11);
    for (int i = 0; i < 2600; ++i) {
        const cv::Point at(rng.uniform(0, size.width), rng.uniform(0, size.height));
        cv::ellipse(out, at, {rng.uniform(6, 34), rng.uniform(3, 12)}, rng.uniform(0, 180), 0, 360,
                    cv::Scalar(rng.uniform(10, 200), rng.uniform(10, 200), rng.uniform(10, 200)), cv::FILLED,
                    cv::LINE_AA);
    }
    cv::GaussianBlur(out, out, {}, 1);
    return out;
}

TEST(SheetFinding, SmallNotesAreFoundOnABusyGround) {
    cv::Mat photo = busy({900, 1200});
    const std::vector<SheetOutline> notes{{{{{90, 200}, {240, 190}, {250, 370}, {95, 380}}}, {}},
                                          {{{{600, 120}, {760, 150}, {735, 330}, {575, 300}}}, {}},
                                          {{{{330, 800}, {510, 790}, {520, 960}, {335, 975}}}, {}}};
    for (const SheetOutline& note : notes) lay_sheet(photo, note);
    const auto found = find_sheets(photo, 10);
    ASSERT_EQ(found.size(), 3U);
    for (const SheetOutline& note : notes) {
        const auto is = [&](const FoundSheet& f) { return distance(f.outline.corners[0], note.corners[0]) < 6; };
        EXPECT_EQ(std::ranges::count_if(found, is), 1);
    }
}

TEST(SheetFinding, AWindowFramesShadowPartsNoSheet) {
    cv::Mat photo = table({900, 1200}, {70, 90, 110}), light(photo.size(), CV_32F, cv::Scalar(1));
    lay_sheet(photo, kAslant);
    scrawl(photo, kAslant);
    for (const int y : {320, 620, 880}) cv::line(light, {0, y}, {900, y + 140}, cv::Scalar(0.55), 60);
    for (const int x : {260, 600}) cv::line(light, {x, 0}, {x + 90, 1200}, cv::Scalar(0.55), 60);
    cv::GaussianBlur(light, light, {}, 2);
    for (int y = 0; y < photo.rows; ++y)
        for (int x = 0; x < photo.cols; ++x) photo.at<cv::Vec3b>(y, x) *= light.at<float>(y, x);
    const auto found = find_sheets(photo, 4);
    ASSERT_EQ(found.size(), 1U);
    expect_near(found[0].outline, kAslant, 8);
}

TEST(SheetFinding, ABlurredFrameOfAnotherHueIsNoShadow) {
    cv::Mat photo = table({900, 1200}, {30, 30, 130});
    SheetOutline board = kAslant;
    lay_sheet(photo, board, {150, 120, 150});
    const Point middle = (board.corners[0] + board.corners[2]) * 0.5;
    for (Point& corner : board.corners) corner = corner + (middle - corner) * 0.045;
    lay_sheet(photo, board, {244, 244, 240});
    cv::GaussianBlur(photo, photo, {}, 5);
    const auto found = find_sheets(photo, 1);
    ASSERT_EQ(found.size(), 1U);
    // The board, with its frame or within it.
    EXPECT_GT(area(found[0].outline.corners), 0.95 * area(board.corners));
    EXPECT_LT(area(found[0].outline.corners), 1.05 * area(kAslant.corners));
}

TEST(SheetFinding, SheetsAsSmoothAsOneAnotherAreNoGround) {
    cv::Mat photo = table({1200, 900}, {38, 48, 30});
    const std::vector<SheetOutline> sheets{{{{{60, 80}, {560, 60}, {570, 800}, {70, 820}}}, {}},
                                           {{{{640, 90}, {880, 100}, {870, 420}, {630, 410}}}, {}},
                                           {{{{900, 480}, {1140, 470}, {1150, 820}, {910, 830}}}, {}}};
    for (const SheetOutline& sheet : sheets) lay_sheet(photo, sheet, {120, 215, 235});
    // The first has squares, which make it rougher than the others.
    const auto& c = sheets[0].corners;
    for (double t = 0.02; t < 1; t += 0.02) {
        const auto at = [](Point p) { return cv::Point(static_cast<int>(p.x), static_cast<int>(p.y)); };
        cv::line(photo, at(c[0] * (1 - t) + c[1] * t), at(c[3] * (1 - t) + c[2] * t), {100, 170, 190}, 2, cv::LINE_AA);
        cv::line(photo, at(c[0] * (1 - t) + c[3] * t), at(c[1] * (1 - t) + c[2] * t), {100, 170, 190}, 2, cv::LINE_AA);
    }
    EXPECT_EQ(find_sheets(photo, 8).size(), 3U);
}

TEST(SheetFinding, TakesTinyAndEmptyPictures) {
    EXPECT_TRUE(find_sheets(cv::Mat(), 1).empty());
    EXPECT_TRUE(find_sheets(cv::Mat(1, 4000, CV_8UC3, cv::Scalar::all(9)), 1).empty());
    EXPECT_TRUE(find_sheets(cv::Mat(200, 200, CV_8UC3, cv::Scalar::all(255)), 5).empty());
}

// A wall of pale panels, whose edges are more and longer than a small sheet's.
cv::Mat wall_of_panels() {
    cv::Mat photo = table({900, 1200}, {70, 90, 110});
    for (int row = 0; row < 15; ++row)
        for (int column = 0; column < 11; ++column) {
            const int x = 8 + column * 82 + (row % 3) * 2, y = 6 + row * 80;
            const std::vector<cv::Point> panel{
                {x, y}, {x + 72 + column % 4, y + 3}, {x + 74, y + 70}, {x + 2, y + 66 + row % 5}};
            cv::fillConvexPoly(photo, panel, cv::Scalar(200, 208, 212), cv::LINE_AA);
        }
    return photo;
}

TEST(SheetFinding, ASmallWrittenSheetIsFoundAmongThePanelsOfAWall) {
    cv::Mat photo = wall_of_panels();
    const SheetOutline sheet{{{{350, 500}, {530, 520}, {510, 780}, {330, 760}}}, {}};
    lay_sheet(photo, sheet);
    scrawl(photo, sheet);
    const auto found = find_sheets(photo, 1);
    ASSERT_EQ(found.size(), 1U);
    expect_near(found[0].outline, sheet, 6);
}

TEST(SheetFinding, AHardShadowAcrossWhatIsWrittenCutsNothingOff) {
    cv::Mat photo = table({900, 1200}, {70, 90, 110});
    lay_sheet(photo, kAslant);
    scrawl(photo, kAslant);
    // Light that falls through a door: all beyond a line is darker, and a little bluer.
    const std::vector<cv::Point> shadow{{-10, 700}, {910, 300}, {910, 1210}, {-10, 1210}};
    cv::Mat mask(photo.size(), CV_8U, cv::Scalar(0)), dark;
    cv::fillConvexPoly(mask, shadow, cv::Scalar(255));
    cv::multiply(photo, cv::Scalar(0.72, 0.66, 0.64), dark);
    dark.copyTo(photo, mask);
    const auto found = find_sheets(photo, 1);
    ASSERT_EQ(found.size(), 1U);
    expect_near(found[0].outline, kAslant, 6);
}

TEST(SheetFinding, WhatIsWrittenOnWhiteUponWhiteIsNotLostBesideASheet) {
    cv::Mat photo = table({1300, 900}, {236, 240, 241});
    const SheetOutline card{{{{60, 120}, {460, 120}, {460, 700}, {60, 700}}}, {}};
    lay_sheet(photo, card, {150, 170, 230});
    scrawl(photo, card);
    const SheetOutline unseen{{{{620, 140}, {1180, 200}, {1140, 820}, {580, 760}}}, {}};
    scrawl(photo, unseen);
    const auto found = find_sheets(photo, 4);
    ASSERT_EQ(found.size(), 2U);
    expect_near(found[0].outline, card, 4);
    const auto& at = found[1].outline.corners;
    for (const double u : {0.15, 0.8})
        for (const double v : {0.16, 0.88}) {
            const auto& c = unseen.corners;
            const Point p = (c[0] * (1 - u) + c[1] * u) * (1 - v) + (c[3] * (1 - u) + c[2] * u) * v;
            EXPECT_TRUE(lies_in(at, p)) << u << " " << v;
        }
    EXPECT_LT(found[1].certainty, 0.5);
    // Grain in the dark is no writing.
    cv::Mat dark = table({1300, 900}, {60, 62, 64});
    lay_sheet(dark, kAslant);
    scrawl(dark, kAslant);
    cv::RNG rng(3);
    for (int i = 0; i < 300; ++i)
        cv::circle(dark, {rng.uniform(900, 1250), rng.uniform(100, 600)}, 2, cv::Scalar(20, 22, 24), -1);
    EXPECT_EQ(find_sheets(dark, 4).size(), 1U);
}

}  // namespace
}  // namespace fernleaf
