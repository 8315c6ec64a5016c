#include "paper/picture_drawing.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

#include "drawing/drawing_reading.h"

namespace fernleaf {
namespace {

constexpr double kPxPerMm = 8;

class PictureDrawing : public testing::Test {
protected:
    PictureDrawing() : sheet_(cv::Size(148 * 8, 210 * 8), CV_8UC3, cv::Scalar(240, 244, 246)) {}

    void line(Point a, Point b, cv::Scalar colour = cv::Scalar(60, 40, 30), double width_mm = 0.5) {
        const auto px = [](Point p) { return cv::Point(cvRound(p.x * kPxPerMm), cvRound(p.y * kPxPerMm)); };
        cv::line(sheet_, px(a), px(b), colour, cvRound(width_mm * kPxPerMm), cv::LINE_AA);
    }
    void polygon(const std::vector<Point>& corners) {
        for (size_t i = 0; i < corners.size(); ++i) line(corners[i], corners[(i + 1) % corners.size()]);
    }
    // Upright strokes as of small letters.
    void word(Point at) {
        for (int i = 0; i < 5; ++i) {
            line(at + Point{2.2 * i, 0}, at + Point{2.2 * i, 3});
            line(at + Point{2.2 * i, 1.5}, at + Point{2.2 * i + 1, 2.4});
        }
    }
    std::vector<ReadLine> read(std::vector<ReadLine> lines) {
        const ScannedPage scanned = scan_page(sheet_);
        add_drawings(
            lines, scanned, [](Point px) { return px * (1 / kPxPerMm); }, 77);
        return lines;
    }
    static ReadLine said(const std::vector<std::pair<Point, std::string>>& words, int region) {
        ReadLine out;
        out.region = region;
        for (const auto& [at, text] : words) {
            out.words.push_back({text, 0.9, Box::of(at.x, at.y, 10, 3), {}, {}, false});
            out.box.include(out.words.back().box);
        }
        return out;
    }

    cv::Mat sheet_;
};

TEST_F(PictureDrawing, AFlowIsFiguresAndLinksWithItsWords) {
    polygon({{40, 30}, {90, 30}, {90, 48}, {40, 48}});
    polygon({{65, 70}, {95, 84}, {65, 98}, {35, 84}});
    line({65, 48.4}, {65, 69.6}), line({62, 65}, {65, 69.6}), line({68, 65}, {65, 69.6});
    word({60, 37}), word({60, 82}), word({20, 150}), word({40, 150});
    const auto lines =
        read({said({{{60, 37}, "read"}}, 0), said({{{60, 82}, "cold"}}, 1), said({{{20, 150}, "after"}}, 2)});
    const Reading reading{lines};
    const DrawingReading drawing = read_drawing(reading);
    ASSERT_EQ(drawing.nodes.size(), 2U);
    EXPECT_EQ(drawing.nodes[0].figure->shape.kind, ShapeKind::rectangle);
    EXPECT_EQ(drawing.nodes[1].figure->shape.kind, ShapeKind::diamond);
    EXPECT_EQ(drawing.nodes[0].text(), "read");
    ASSERT_EQ(drawing.links.size(), 1U);
    EXPECT_EQ(drawing.links[0].heads, LinkHeads::to);
    EXPECT_EQ(drawing.links[0].from, 0U);
    for (const ReadLine& l : lines) {
        EXPECT_TRUE(l.kind != RegionKind::drawing || !l.shapes.empty()) << "nothing is left that was not understood";
        for (const ReadShape& shape : l.shapes) EXPECT_TRUE(shape.strokes.empty());
    }
}

TEST_F(PictureDrawing, ATablesWordsGoIntoItsCells) {
    for (const double y : {40.0, 54.0, 68.0, 82.0}) line({20, y}, {120, y});
    for (const double x : {20.0, 70.0, 120.0}) line({x, 40}, {x, 82});
    std::vector<ReadLine> rows;
    for (int r = 0; r < 3; ++r) {
        word({28, 45 + 14.0 * r}), word({80, 45 + 14.0 * r});
        rows.push_back(said({{{28, 45 + 14.0 * r}, "row"}, {{80, 45 + 14.0 * r}, std::to_string(r)}}, 0));
    }
    word({20, 150});
    rows.push_back(said({{{20, 150}, "after"}}, 1));
    const auto lines = read(rows);
    const auto grid = std::ranges::find_if(lines, [](const ReadLine& l) { return l.table.has_value(); });
    ASSERT_NE(grid, lines.end());
    EXPECT_EQ(grid->table->rows, 3);
    EXPECT_EQ(grid->table->columns, 2);
    EXPECT_EQ(grid->input_signature, 77U);
    std::vector<std::string> cells(6);
    for (const ReadLine& l : lines)
        if (l.cell >= 0) {
            EXPECT_EQ(l.region, grid->region);
            cells.at(static_cast<size_t>(l.cell)) = l.text();
        }
    EXPECT_EQ(cells, (std::vector<std::string>{"row", "0", "row", "1", "row", "2"}));
    EXPECT_EQ(lines.back().text(), "after");
    EXPECT_EQ(lines.back().cell, -1);
}

TEST_F(PictureDrawing, PrintedPaleRulesAndWordsAloneAreNoDrawing) {
    for (double y = 20; y < 200; y += 8) line({0, y}, {148, y}, cv::Scalar(214, 206, 196), 0.3);
    word({20, 44}), word({40, 44}), word({20, 60});
    const std::vector<ReadLine> before{said({{{20, 44}, "late"}, {{40, 44}, "frost"}}, 0)};
    const auto lines = read(before);
    ASSERT_EQ(lines.size(), 1U);
    EXPECT_EQ(lines[0].text(), "late frost");
}

}  // namespace
}  // namespace fernleaf
