#include "exchange/unipen.h"

#include <gtest/gtest.h>

#include <fstream>
#include <random>

#include "exchange/import.h"
#include "sound/test_sound.h"
#include "store/temporary_library.h"

namespace fernleaf {
namespace {

constexpr char kTwoStrokes[] =
    ".VERSION 1.0\n.DATA_SOURCE Hallow Hill\n.COORD X Y T P\n.X_POINTS_PER_INCH 254\n.POINTS_PER_SECOND 100\n"
    ".COMMENT a line that\ngoes on 12 13 14 15\n.SEGMENT WORD 0-1 ? \"row\"\n"
    ".PEN_DOWN\n100 500 10 50\n150 450 20 100\n.PEN_UP\n1 1 30 0\n.DT 100\n.PEN_DOWN\n300 500 40 25\n300 300 60 "
    "25\n.PEN_UP\n";

TEST(Unipen, StrokesComeInMillimetresWithTimesAndPressure) {
    const auto sheets = read_unipen(kTwoStrokes);
    ASSERT_TRUE(sheets) << sheets.error().message;
    ASSERT_EQ(sheets->size(), 1U);
    const std::vector<Stroke>& strokes = (*sheets)[0].strokes;
    ASSERT_EQ(strokes.size(), 2U);
    ASSERT_EQ(strokes[0].points.size(), 2U);
    EXPECT_NEAR(distance(strokes[0].points[0].at, {10, 10}), 0, 1e-9);
    EXPECT_NEAR(distance(strokes[0].points[1].at, {15, 15}), 0, 1e-9) << "y grows upwards in the file";
    EXPECT_EQ(strokes[0].points[1].time_ms, 10U);
    EXPECT_FLOAT_EQ(strokes[0].points[1].pressure, 1);
    EXPECT_FLOAT_EQ(strokes[1].points[0].pressure, 0.25F);
    EXPECT_NEAR(strokes[1].box().height(), 20, 1e-9);
    EXPECT_EQ((*sheets)[0].width_mm, 148);
}

TEST(Unipen, BoxesAreSheetsAndWithoutResolutionItIsHandSize) {
    std::string file = ".VERSION 1.0\n.COORD X Y\n";
    for (int box = 0; box < 3; ++box) {
        file += ".START_BOX\n";
        for (int i = 0; i < 10; ++i)
            file +=
                ".PEN_DOWN\n" + std::to_string(400 * i) + " 0\n" + std::to_string(400 * i + 100) + " 600\n.PEN_UP\n";
    }
    const auto sheets = read_unipen(file);
    ASSERT_TRUE(sheets);
    ASSERT_EQ(sheets->size(), 3U);
    const double height = (*sheets)[1].strokes[4].box().height();
    EXPECT_GT(height, 1.5);
    EXPECT_LT(height, 7);
    EXPECT_EQ((*sheets)[0].strokes[0].points[1].time_ms, 10U) << "a hundred points a second, where it is not said";
}

TEST(Unipen, BadFilesAreOneError) {
    for (const char* bad :
         {".COORD X Y\n", ".COORD X T\n.PEN_DOWN\n1 2\n", ".COORD X Y\n.PEN_DOWN\n1 nan\n.PEN_UP\n",
          ".COORD X Y\n.PEN_DOWN\n1\n", ".COORD X Y\n.X_POINTS_PER_MM 0\n",
          ".COORD X Y\n.X_POINTS_PER_MM 1\n.PEN_DOWN\n0 0\n99999999 0\n", ".COORD X Y\n.PEN_DOWN\n1e300 0\n"})
        EXPECT_FALSE(read_unipen(bad)) << bad;
    std::mt19937 random(9);
    for (int i = 0; i < 2000; ++i) {
        std::string damaged = kTwoStrokes;
        for (int k = 0; k < 1 + i % 5; ++k) damaged[random() % damaged.size()] = static_cast<char>(random());
        const auto sheets = read_unipen(damaged);
        if (!sheets) continue;
        for (const InkSheet& sheet : *sheets)
            for (const Stroke& s : sheet.strokes) ASSERT_TRUE(is_valid(s));
    }
}

TEST(Unipen, ColumnsMayStandInAnyOrderAndOthersArePassedOver) {
    const auto sheets =
        read_unipen(".COORD T RHO Y X\n.X_POINTS_PER_MM 10\n.PEN_DOWN\n5 45 100 200\n25 45 80 300\n.PEN_UP\n");
    ASSERT_TRUE(sheets) << sheets.error().message;
    const Stroke& s = (*sheets)[0].strokes[0];
    EXPECT_NEAR(distance(s.points[1].at - s.points[0].at, {10, 2}), 0, 1e-9);
    EXPECT_EQ(s.points[1].time_ms, 20U);
    EXPECT_FLOAT_EQ(s.points[0].pressure, 0.5F) << "where the file tells none";
}

TEST(Unipen, TimesThatGoBackAndStrokesThatAreNotLiftedDoNoHarm) {
    const auto sheets = read_unipen(
        ".COORD X Y T\n.X_POINTS_PER_MM 10\n.PEN_DOWN\n0 0 900\n10 0 100\n20 0 950\n.PEN_DOWN\n30 0 0\n40 0 5\n");
    ASSERT_TRUE(sheets);
    const std::vector<Stroke>& strokes = (*sheets)[0].strokes;
    ASSERT_EQ(strokes.size(), 2U);
    EXPECT_EQ(strokes[0].points[1].time_ms, 0U);
    EXPECT_EQ(strokes[0].points[2].time_ms, 50U);
    EXPECT_EQ(strokes[1].points.size(), 2U);
}

TEST(Unipen, IsToldFromOtherFiles) {
    EXPECT_TRUE(looks_like_unipen(kTwoStrokes));
    EXPECT_TRUE(looks_like_unipen("\n\n.COMMENT made by hand\n.COORD X Y\n"));
    EXPECT_FALSE(looks_like_unipen(""));
    EXPECT_FALSE(looks_like_unipen("   \n"));
    EXPECT_FALSE(looks_like_unipen(".gitignore\nbuild/\n"));
    EXPECT_FALSE(looks_like_unipen("See .COORD for what columns mean"));
}

TEST(Unipen, IsImportedAsInk) {
    const SoundDirectory directory;
    std::ofstream(directory / "row.dat") << kTwoStrokes;
    auto source = read_source(directory / "row.dat", PictureUse::sheets);
    ASSERT_TRUE(source) << source.error().message;
    TemporaryLibrary library;
    const PageId page = library.page();
    const auto pages = add_source(*library.library, library->load_page(page)->info.notebook, *std::move(source));
    ASSERT_TRUE(pages);
    EXPECT_EQ(library->load_page(pages->front())->strokes.size(), 2U);
}

}  // namespace
}  // namespace fernleaf
