#include "exchange/inkml.h"

#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
#include <iterator>

namespace fernleaf {
namespace {

Result<std::vector<InkSheet>> read(const std::string& inside) {
    return read_inkml("<?xml version=\"1.0\"?><ink xmlns=\"http://www.w3.org/2003/InkML\">" + inside + "</ink>");
}

constexpr char kMillimetres[] =
    "<definitions><traceFormat xml:id=\"f\"><channel name=\"X\" units=\"mm\"/><channel name=\"Y\" "
    "units=\"mm\"/></traceFormat>"
    "<context xml:id=\"c\" traceFormatRef=\"#f\"/></definitions>";

std::vector<Point> places(const Stroke& stroke) {
    std::vector<Point> out;
    for (const InkPoint& p : stroke.points) out.push_back(p.at);
    return out;
}

TEST(Inkml, ReadsExplicitValuesWithTheirUnit) {
    const auto sheets =
        read(std::string(kMillimetres) + "<trace contextRef=\"#c\">10 20, 11.5 21, 1.2e1 -22e-1</trace>");
    ASSERT_TRUE(sheets) << sheets.error().message;
    ASSERT_EQ(sheets->size(), 1U);
    // The ink reaches above the sheet, so it is moved down onto it.
    const auto at = places(sheets->at(0).strokes.at(0));
    EXPECT_NEAR(at[2].x - at[0].x, 2, 1e-9);
    EXPECT_NEAR(at[2].y - at[0].y, -22.2, 1e-9);
    EXPECT_GE(at[2].y, 0);
    EXPECT_EQ(sheets->at(0).width_mm, 148);
}

TEST(Inkml, FollowsFirstAndSecondDifferences) {
    // The specification's example: values, then velocities, then accelerations.
    const auto sheets =
        read(std::string(kMillimetres) + "<trace contextRef=\"#c\">11 12,'2'3,4 5,\"1\"-1,!30!40,*5</trace>");
    ASSERT_TRUE(sheets) << sheets.error().message;
    EXPECT_EQ(places(sheets->at(0).strokes[0]),
              (std::vector<Point>{{11, 12}, {13, 15}, {17, 20}, {22, 24}, {30, 40}, {30, 5}}));
}

TEST(Inkml, SignsSeparateValuesAsTheStandardAllows) {
    const auto sheets = read(std::string(kMillimetres) + "<trace contextRef=\"#c\">20 30,'1'-2,-3+4</trace>");
    ASSERT_TRUE(sheets) << sheets.error().message;
    EXPECT_EQ(places(sheets->at(0).strokes[0]), (std::vector<Point>{{20, 30}, {21, 28}, {18, 32}}));
}

TEST(Inkml, ReadsForceTimeTiltAndSkipsOtherChannels) {
    const auto sheets = read(
        "<context><traceFormat><channel name=\"X\" units=\"cm\"/><channel name=\"Y\" units=\"cm\"/><channel name=\"B\" "
        "type=\"boolean\"/>"
        "<channel name=\"F\" min=\"0\" max=\"200\"/><channel name=\"T\" units=\"s\"/><channel name=\"OTx\" "
        "units=\"deg\"/>"
        "<intermittentChannels><channel name=\"C\"/></intermittentChannels></traceFormat></context>"
        "<traceGroup><traceGroup><trace>1 2 T 50 7.5 30, 1.1 2 F 100 7.51 31 9</trace></traceGroup></traceGroup>"
        "<trace type=\"penUp\">5 5 F 0 8 0</trace>");
    ASSERT_TRUE(sheets) << sheets.error().message;
    ASSERT_EQ(sheets->at(0).strokes.size(), 1U);
    const Stroke& s = sheets->at(0).strokes[0];
    EXPECT_EQ(s.points[0].at, (Point{10, 20}));
    EXPECT_FLOAT_EQ(s.points[0].pressure, 0.25F);
    EXPECT_FLOAT_EQ(s.points[1].pressure, 0.5F);
    EXPECT_EQ(s.points[0].time_ms, 0U);
    EXPECT_EQ(s.points[1].time_ms, 10U);
    EXPECT_FLOAT_EQ(s.points[1].tilt_x, 31);
}

TEST(Inkml, ATraceFormatBesideTheTracesHoldsForThem) {
    const auto sheets = read(
        "<traceFormat><channel name=\"T\"/><channel name=\"Y\" units=\"mm\"/><channel name=\"X\" "
        "units=\"mm\"/></traceFormat>"
        "<trace>5 20 10,9 21 11</trace>");
    ASSERT_TRUE(sheets) << sheets.error().message;
    EXPECT_EQ(places(sheets->at(0).strokes[0]), (std::vector<Point>{{10, 20}, {11, 21}}));
}

TEST(Inkml, DeviceUnitsUseTheResolutionOfTheSource) {
    const auto sheets = read(
        "<definitions><inkSource xml:id=\"s\"><traceFormat><channel name=\"X\" type=\"integer\"/><channel name=\"Y\" "
        "type=\"integer\"/></traceFormat>"
        "<channelProperties><channelProperty channel=\"X\" name=\"resolution\" value=\"100\" units=\"1/mm\"/>"
        "<channelProperty channel=\"Y\" name=\"resolution\" value=\"1000\" "
        "units=\"1/cm\"/></channelProperties></inkSource>"
        "<context xml:id=\"c\" inkSourceRef=\"#s\"/></definitions><trace contextRef=\"#c\">1000 2000, 1500 "
        "2500</trace>");
    ASSERT_TRUE(sheets) << sheets.error().message;
    EXPECT_EQ(places(sheets->at(0).strokes[0]), (std::vector<Point>{{10, 20}, {15, 25}}));
}

TEST(Inkml, WithoutUnitsWritingComesOutAtHandSize) {
    for (const double scale : {1.0, 100.0, 96 / 25.4, 5080 / 25.4, 31.0}) {
        std::string traces;
        for (int i = 0; i < 12; ++i) {
            const auto at = [&](double x, double y) {
                return std::to_string(x * scale) + " " + std::to_string(y * scale);
            };
            traces += "<trace>" + at(20 + 4 * i, 40) + "," + at(21 + 4 * i, 43) + "</trace>";
        }
        const auto sheets = read(traces);
        ASSERT_TRUE(sheets) << sheets.error().message;
        const double height = sheets->at(0).strokes[0].box().height();
        EXPECT_GT(height, 1.5) << scale;
        EXPECT_LT(height, 6) << scale;
    }
}

TEST(Inkml, WritesWhatItReads) {
    Page first, second;
    first.info.width_mm = 210, first.info.height_mm = 297;
    Stroke s;
    s.pen = {0xA03020, 0.7F};
    s.start_ms = 1'770'000'000'123;
    s.points = {
        {{10.25, 20.5}, 0.5F, 12, -30, 0}, {{11.01, 22.75}, 0.75F, 13, -31, 8}, {{11.01, 22.75}, 1, 13, -31, 17}};
    first.strokes = {s};
    s.start_ms += 1500;
    s.pen.colour = 0x1E2A44;
    first.strokes.push_back(s);
    s.start_ms = 0;
    second.strokes = {s};
    const auto sheets = read_inkml(write_inkml({first, second}));
    ASSERT_TRUE(sheets) << sheets.error().message;
    ASSERT_EQ(sheets->size(), 2U);
    EXPECT_EQ(sheets->at(0).strokes, first.strokes);
    EXPECT_EQ(sheets->at(0).width_mm, 210);
    EXPECT_EQ(sheets->at(1).strokes, second.strokes);
    EXPECT_EQ(sheets->at(1).height_mm, 210);
}

TEST(Inkml, PensOfEveryKindComeBack) {
    Page page;
    for (const Pen& pen : {Pen{0x2E6B4F, 0.6F, PenKind::fountain}, Pen{0x4A5560, 0.4F, PenKind::pencil},
                           Pen{0xEBCB6B, 4, PenKind::highlighter, Tip::chisel, 0.6F, false},
                           Pen{0x1E2A44, 0.5F, PenKind::ballpoint, Tip::round, 1, false}}) {
        Stroke& stroke = page.strokes.emplace_back();
        stroke.pen = pen;
        stroke.points = {{{1, 1}}, {{2, 2}}};
    }
    const auto sheets = read_inkml(write_inkml({page}));
    ASSERT_TRUE(sheets) << sheets.error().message;
    ASSERT_EQ(sheets->at(0).strokes.size(), page.strokes.size());
    for (size_t i = 0; i < page.strokes.size(); ++i) {
        EXPECT_NEAR(sheets->at(0).strokes[i].pen.opacity, page.strokes[i].pen.opacity, 1.0 / 255);
        Pen pen = sheets->at(0).strokes[i].pen;
        pen.opacity = page.strokes[i].pen.opacity;
        EXPECT_EQ(pen, page.strokes[i].pen) << i;
    }
}

TEST(Inkml, SaysWhyItRefuses) {
    const auto reason = [](const std::string& inside) { return read(inside).error().message; };
    EXPECT_NE(reason("<definitions><context xml:id=\"c\"><canvasTransform><mapping "
                     "type=\"affine\"/></canvasTransform></context></definitions>"
                     "<trace contextRef=\"#c\">1 2</trace>")
                  .find("mapping"),
              std::string::npos);
    EXPECT_NE(reason("<trace contextRef=\"other.inkml#c\">1 2</trace>").find("another file"), std::string::npos);
    EXPECT_NE(reason("<trace continuation=\"begin\" xml:id=\"a\">1 2</trace>").find("continues"), std::string::npos);
    EXPECT_NE(reason("<definitions><context xml:id=\"a\" contextRef=\"#b\"/><context xml:id=\"b\" "
                     "contextRef=\"#a\"/></definitions>"
                     "<trace contextRef=\"#a\">1 2</trace>")
                  .find("circle"),
              std::string::npos);
    EXPECT_NE(reason("<trace>'1 2</trace>").find("difference"), std::string::npos);
}

TEST(Inkml, EveryBrokenFileGivesAnErrorWithAReason) {
    const auto folder = std::filesystem::path(FERNLEAF_SOURCE_DIR) / "tests" / "broken" / "inkml";
    int count = 0;
    for (const auto& entry : std::filesystem::directory_iterator(folder)) {
        std::ifstream in(entry.path(), std::ios::binary);
        const auto sheets = read_inkml(std::string(std::istreambuf_iterator<char>(in), {}));
        ASSERT_FALSE(sheets) << entry.path();
        EXPECT_GT(sheets.error().message.size(), 30U) << entry.path();
        ++count;
    }
    EXPECT_GE(count, 14);
}

TEST(Inkml, MorePointsThanAnyPageHoldsAreRefused) {
    std::string trace = "<trace>";
    for (size_t i = 0; i <= kMostInkPoints; ++i) trace += "1 2,";
    const auto sheets = read(trace + "3 4</trace>");
    ASSERT_FALSE(sheets);
    EXPECT_NE(sheets.error().message.find("million points"), std::string::npos);
}

TEST(Inkml, TellsThePageOfAddressedPaper) {
    const auto with = [](const char* note) {
        return std::string(
                   "<ink xmlns='http://www.w3.org/2003/InkML'><definitions><canvas xml:id='c'>"
                   "<annotation type='page address'>") +
               note +
               "</annotation></canvas><context xml:id='p' canvasRef='#c'/></definitions>"
               "<traceGroup contextRef='#p'><trace>10 10, 20 20</trace></traceGroup></ink>";
    };
    const auto sheets = read_inkml(with("2 5 17"));
    ASSERT_TRUE(sheets) << sheets.error().message;
    EXPECT_EQ(sheets->front().address, (PageAddress{2, 5, 17}));
    for (const char* note : {"", "2 5", "a b c", "2 5 99999", "-1 5 1"}) {
        const auto none = read_inkml(with(note));
        ASSERT_TRUE(none);
        EXPECT_FALSE(none->front().address) << note;
    }
}

}  // namespace
}  // namespace fernleaf
