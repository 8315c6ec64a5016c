#include "paper/page_reading.h"

#include <gtest/gtest.h>

#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include "base/text.h"
#include "document/errand.h"
#include "drawing/test_ink.h"
#include "paper/test_pdf.h"
#include "reading/test_reader.h"

namespace fernleaf {
namespace {

// HILL in upright strokes, 10 px to the mm.
void draw_hill(cv::Mat& sheet, cv::Point at, double scale) {
    const auto bar = [&](double x0, double y0, double x1, double y1) {
        const auto place = [&](double x, double y) {
            return cv::Point(at.x + cvRound(x * scale), at.y + cvRound(y * scale));
        };
        cv::line(sheet, place(x0, y0), place(x1, y1), cv::Scalar(40, 30, 20), 4, cv::LINE_AA);
    };
    bar(0, -4, 0, 0), bar(2.4, -4, 2.4, 0), bar(0, -2, 2.4, -2);
    bar(4.2, -4, 4.2, 0);
    bar(6, -4, 6, 0), bar(6, 0, 8, 0);
    bar(9.4, -4, 9.4, 0), bar(9.4, 0, 11.4, 0);
}

class PageReading : public WithReader {
protected:
    PageReading() {
        cv::Mat sheet(600, 1000, CV_8UC3, cv::Scalar(245, 248, 250));
        draw_hill(sheet, {150, 150}, 14);
        draw_hill(sheet, {600, 450}, 14);
        std::vector<uchar> png;
        cv::imencode(".png", sheet, png);
        bytes_.assign(png.begin(), png.end());
    }
    Reading read(const Page& page, const Reading& before = {}) {
        const FileSource files = [this](const std::string&) -> Result<std::string> {
            ++loads_;
            return bytes_;
        };
        return read_page(page, files, *reader_, {}, before, {});
    }
    static Page page_with(const Picture& picture) {
        Page page;
        page.pictures = {picture};
        return page;
    }
    // The words that say hill, from above down.
    static std::vector<Box> hills(const Reading& reading) {
        std::vector<Box> boxes;
        for (const ReadLine& line : reading.lines)
            for (const ReadWord& word : line.words)
                if (fold(word.text) == "hill") boxes.push_back(word.box);
        return boxes;
    }

    // A word read from pixels covers its ink from left to right, and a letter's margin more.
    static void expect_over(const Box& word, double left, double right, double middle) {
        constexpr double kMarginMm = 3;
        EXPECT_LE(word.left, left);
        EXPECT_GT(word.left, left - kMarginMm);
        EXPECT_GE(word.right, right);
        EXPECT_LT(word.right, right + kMarginMm);
        EXPECT_NEAR(word.centre().y, middle, 2.5);
    }

    std::string bytes_;
    int loads_ = 0;
};

TEST_F(PageReading, WordsInAPictureStandWhereThePictureShowsThem) {
    const auto boxes = hills(read(page_with({1, "f", "a.png", 0, Box::of(20, 30, 100, 60)})));
    ASSERT_EQ(boxes.size(), 2U);
    expect_over(boxes[0], 20 + 15, 20 + 30.9, 30 + 12.2);
    expect_over(boxes[1], 20 + 60, 20 + 75.9, 30 + 42.2);
}

TEST_F(PageReading, BoxesStandInTheirLinesTickedOrNot) {
    cv::Mat sheet(600, 1000, CV_8UC3, cv::Scalar(245, 248, 250));
    draw_hill(sheet, {260, 150}, 14), draw_hill(sheet, {260, 450}, 14);
    for (const int y : {98, 398}) cv::rectangle(sheet, cv::Rect(140, y, 50, 50), cv::Scalar(40, 40, 40), 4);
    cv::line(sheet, {150, 420}, {164, 438}, cv::Scalar(40, 30, 20), 4, cv::LINE_AA);
    cv::line(sheet, {164, 438}, {196, 382}, cv::Scalar(40, 30, 20), 4, cv::LINE_AA);
    std::vector<uchar> png;
    cv::imencode(".png", sheet, png);
    bytes_.assign(png.begin(), png.end());
    const Reading reading = read(page_with({1, "f", "a.png", 0, Box::of(0, 0, 100, 60)}));
    ASSERT_EQ(reading.lines.size(), 2U);
    EXPECT_EQ(fold(reading.lines[0].text()), fold("☐ Hill"));
    EXPECT_EQ(fold(reading.lines[1].text()), fold("☑ Hill"));
    EXPECT_LT(reading.lines[1].words[0].box.right, reading.lines[1].words[1].box.left + 2);
}

TEST_F(PageReading, OfACroppedPictureOnlyWhatIsShownIsRead) {
    Picture right{1, "f", "a.png", 0, Box::of(0, 0, 50, 60)};
    right.crop = {0.5, 0, 1, 1};
    const auto boxes = hills(read(page_with(right)));
    ASSERT_EQ(boxes.size(), 1U);
    expect_over(boxes[0], 10, 25.9, 42.2);
}

TEST_F(PageReading, OfATurnedPictureWordsTurnAlong) {
    Picture turned_round{1, "f", "a.png", 0, Box::of(0, 0, 100, 60)};
    turned_round.angle = 180;
    const auto boxes = hills(read(page_with(turned_round)));
    ASSERT_EQ(boxes.size(), 2U);
    expect_over(boxes[0], 100 - 30.9, 100 - 15, 60 - 12.2);  // the first word is now below, at the right
}

TEST_F(PageReading, APictureThatDidNotChangeIsNotReadAgain) {
    Page page = page_with({1, "f", "a.png", 0, Box::of(0, 0, 100, 60)});
    const Reading first = read(page);
    EXPECT_EQ(loads_, 1);
    const Reading again = read(page, first);
    EXPECT_EQ(loads_, 1);
    EXPECT_EQ(hills(again), hills(first));
    page.pictures[0].box = Box::of(10, 0, 100, 60);
    const Reading moved = read(page, first);
    EXPECT_EQ(loads_, 2) << "its words stand elsewhere";
    EXPECT_NEAR(hills(moved)[0].left, hills(first)[0].left + 10, 0.1);
}

TEST_F(PageReading, APictureWithoutWordsIsNotReadAgain) {
    const cv::Mat white(300, 400, CV_8UC3, cv::Scalar::all(255));
    std::vector<uchar> png;
    cv::imencode(".png", white, png);
    bytes_ = {png.begin(), png.end()};
    const Page page = page_with({1, "f", "a.png", 0, Box::of(0, 0, 100, 60)});
    const Reading first = read(page);
    EXPECT_EQ(loads_, 1);
    ASSERT_EQ(first.lines.size(), 1U);
    EXPECT_EQ(first.lines[0].kind, RegionKind::picture);
    EXPECT_TRUE(first.lines[0].words.empty());
    const Reading again = read(page, first);
    EXPECT_EQ(loads_, 1);
    EXPECT_EQ(again.lines.size(), 1U);
}

TEST_F(PageReading, ACancelledReadingOfAPictureIsNotTakenForAWholeOne) {
    const Page page = page_with({1, "f", "a.png", 0, Box::of(0, 0, 100, 60)});
    CancelSource cancel;
    const FileSource files = [&](const std::string&) -> Result<std::string> { return bytes_; };
    // Cancelled in the midst of it.
    const Reading part = read_page(page, files, *reader_, {}, {}, {}, cancel.token(), [&](double) { cancel.cancel(); });
    const Reading whole = read_page(page, files, *reader_, {}, part, {});
    EXPECT_EQ(hills(whole).size(), hills(read_page(page, files, *reader_, {}, {}, {})).size());
    EXPECT_FALSE(hills(whole).empty());
}

TEST_F(PageReading, TypedWordsAreThereOnceHoweverOftenThePageIsRead) {
    Page page = page_with({1, "f", "a.png", 0, Box::of(0, 0, 100, 60)});
    TextBlock text;
    text.id = 9;
    text.words = {{"frost", Box::of(10, 100, 15, 5), 0}, {"tonight", Box::of(28, 100, 20, 5), 0}};
    page.texts = {text};
    Reading reading = read(page);
    for (int i = 0; i < 3; ++i) reading = read(page, reading);
    int typed = 0;
    for (const ReadLine& line : reading.lines)
        for (const ReadWord& word : line.words) typed += word.block == 9;
    EXPECT_EQ(typed, 2);
    EXPECT_EQ(reading.lines.back().text(), "frost tonight");
    page.texts.clear();
    for (const ReadLine& line : read(page, reading).lines)
        for (const ReadWord& word : line.words) EXPECT_EQ(word.block, 0);
}

TEST_F(PageReading, APictureWhoseFileIsMissingIsLeftOut) {
    const Page page = page_with({1, "f", "a.png", 0, Box::of(0, 0, 100, 60)});
    const FileSource none = [](const std::string&) -> Result<std::string> { return Error{"missing"}; };
    EXPECT_TRUE(read_page(page, none, *reader_, {}, {}, {}).lines.empty());
    const FileSource junk = [](const std::string&) -> Result<std::string> { return std::string("no picture"); };
    EXPECT_TRUE(read_page(page, junk, *reader_, {}, {}, {}).lines.empty());
}

TEST_F(PageReading, CancelledItKeepsWhatItHas) {
    CancelSource cancel;
    cancel.cancel();
    const Page page = page_with({1, "f", "a.png", 0, Box::of(0, 0, 100, 60)});
    const FileSource files = [this](const std::string&) -> Result<std::string> { return bytes_; };
    EXPECT_TRUE(read_page(page, files, *reader_, {}, {}, {}, cancel.token()).lines.empty());
}

// A form: two printed labels, HILL drawn beside the first and, by itself, below both.
std::string printed_form() {
    const auto hill = [](double x, double y) {
        const auto bar = [&](double x0, double y0, double x1, double y1) {
            char out[80];
            std::snprintf(out, sizeof out, "%.1f %.1f m %.1f %.1f l S ", x + 4 * x0, y - 4 * y0, x + 4 * x1,
                          y - 4 * y1);
            return std::string(out);
        };
        return "2 w " + bar(0, -4, 0, 0) + bar(2.4, -4, 2.4, 0) + bar(0, -2, 2.4, -2) + bar(4.2, -4, 4.2, 0) +
               bar(6, -4, 6, 0) + bar(6, 0, 8, 0) + bar(9.4, -4, 9.4, 0) + bar(9.4, 0, 11.4, 0);
    };
    return pdf_of({"BT /F 14 Tf 40 240 Td (Name of orchard:) Tj ET BT /F 14 Tf 40 150 Td (Remarks:) Tj ET " +
                   hill(190, 240) + hill(60, 60)});
}

TEST_F(PageReading, TextOfAPdfStaysItsTextAndWritingIsReadBesideIt) {
    bytes_ = printed_form();
    Page page = page_with({1, "f", "form.pdf", 0, Box::of(0, 0, 400 / 72.0 * 25.4, 300 / 72.0 * 25.4)});
    const Reading reading = read(page);
    ASSERT_EQ(reading.lines.size(), 3U);
    EXPECT_EQ(fold(reading.lines[0].text()), "name of orchard: hill") << "what was filled in joins its line";
    EXPECT_EQ(reading.lines[1].text(), "Remarks:");
    EXPECT_EQ(fold(reading.lines[2].text()), "hill");
    EXPECT_EQ(reading.lines[0].words[0].certainty, 1);
    EXPECT_NEAR(reading.lines[0].words[0].box.left, 40 / 72.0 * 25.4, 0.5);
    // Nothing is read twice, and the same comes of what was read before.
    loads_ = 0;
    const Reading again = read(page, reading);
    EXPECT_EQ(loads_, 0);
    ASSERT_EQ(again.lines.size(), 3U);
    EXPECT_EQ(again.lines[0].text(), reading.lines[0].text());
    // Only what the crop shows.
    page.pictures[0].crop = {0, 0.4, 1, 1};
    page.pictures[0].box.top = 0.4 * page.pictures[0].box.bottom;
    const Reading lower = read(page);
    ASSERT_EQ(lower.lines.size(), 2U);
    EXPECT_EQ(lower.lines[0].text(), "Remarks:");
    EXPECT_NEAR(lower.lines[0].box.left, 40 / 72.0 * 25.4, 0.5);
    EXPECT_NEAR(lower.lines[0].box.bottom, (300 - 150) / 72.0 * 25.4, 2);
}

// The word HILL in strokes.
void write_hill(std::vector<Stroke>& out, Point at) {
    const auto bar = [&](double x0, double y0, double x1, double y1) {
        out.push_back(drawn({at + Point{x0, y0}, at + Point{x1, y1}}));
    };
    bar(0, -4, 0, 0), bar(2.4, -4, 2.4, 0), bar(0, -2, 2.4, -2);
    bar(4.2, -4, 4.2, 0);
    bar(6, -4, 6, 0), bar(6, 0, 8, 0);
    bar(9.4, -4, 9.4, 0), bar(9.4, 0, 11.4, 0);
}

void number(std::vector<Stroke>& strokes) {
    for (size_t i = 0; i < strokes.size(); ++i) strokes[i].id = static_cast<StrokeId>(i + 1);
}

// Two boxes with a word in each and an arrow between them.
std::vector<Stroke> flow() {
    std::vector<Stroke> out{drawn({{20, 20}, {60, 20}, {60, 36}, {20, 36}, {20, 20.5}}),
                            drawn({{20, 70}, {60, 70}, {60, 86}, {20, 86}, {20, 70.5}}), drawn({{40, 37}, {40, 69}}),
                            drawn({{37, 64}, {40, 69}, {43, 64}})};
    for (const double y : {30.0, 80.0}) write_hill(out, {30, y});
    number(out);
    return out;
}

TEST_F(PageReading, WhatIsDrawnIsARegionOfShapesAndItsWordsAreRead) {
    Page page;
    page.strokes = flow();
    const Reading reading = read(page);
    EXPECT_EQ(hills(reading).size(), 2U);
    const auto drawing = std::ranges::find(reading.lines, RegionKind::drawing, &ReadLine::kind);
    ASSERT_NE(drawing, reading.lines.end());
    ASSERT_EQ(drawing->shapes.size(), 3U);
    size_t arrows = 0;
    for (const ReadShape& shape : drawing->shapes) {
        const ShapeKind kind = shape.best().shape.kind;
        arrows += kind == ShapeKind::arrow && shape.strokes == std::vector<StrokeId>{3, 4};
        EXPECT_TRUE(kind == ShapeKind::arrow || kind == ShapeKind::rectangle) << name_of(kind);
    }
    EXPECT_EQ(arrows, 1U);
    EXPECT_NEAR(drawing->box.top, 20, 0.5);
    EXPECT_NEAR(drawing->box.bottom, 86, 0.5);
}

TEST_F(PageReading, WhatAPersonSaysOfInkHoldsOverWhatItLooksLike) {
    Page page;
    page.strokes = flow();
    const FileSource none = [](const std::string&) -> Result<std::string> { return Error{"none"}; };
    Correction text;
    text.strokes = {1};
    const Reading reading = read_page(page, none, *reader_, {}, {}, {text});
    for (const ReadLine& line : reading.lines)
        for (const ReadShape& shape : line.shapes)
            EXPECT_EQ(std::ranges::find(shape.strokes, StrokeId{1}), shape.strokes.end());
    Page small;
    small.strokes = {drawn({{20, 20}, {25, 20}, {25, 24}, {20, 24}, {20, 20.2}})};
    small.strokes[0].id = 9;
    Correction drawing{{9}, {}, "", InkClass::drawing};
    const Reading said = read_page(small, none, *reader_, {}, {}, {drawing});
    ASSERT_EQ(said.lines.size(), 1U);
    EXPECT_EQ(said.lines[0].shapes.size(), 1U);
    EXPECT_TRUE(said.lines[0].ink.empty());
    const Reading left = read_page(small, none, *reader_, {}, {}, {{{9}, {}, "", InkClass::shape}});
    ASSERT_EQ(left.lines.size(), 1U);
    EXPECT_TRUE(left.lines[0].shapes.empty());
    EXPECT_EQ(left.lines[0].ink, (std::vector<StrokeId>{9}));
}

// Two columns and rows in a frame, a word in all cells but the last; beside it a line of words.
std::vector<Stroke> table() {
    std::vector<Stroke> out{drawn({{20, 20}, {100, 20}, {100, 48}, {20, 48}, {20, 20.5}}), drawn({{20, 34}, {100, 34}}),
                            drawn({{60, 20}, {60, 48}})};
    for (const Point at : {Point{26, 30}, Point{66, 30}, Point{26, 44}, Point{26, 80}}) write_hill(out, at);
    number(out);
    return out;
}

TEST_F(PageReading, ATableIsReadCellByCell) {
    Page page;
    page.strokes = table();
    const Reading reading = read(page);
    const auto grid = std::ranges::find(reading.lines, RegionKind::table, &ReadLine::kind);
    ASSERT_NE(grid, reading.lines.end());
    ASSERT_TRUE(grid->table);
    EXPECT_EQ(grid->table->cells.size(), 4U);
    EXPECT_EQ(grid->table->rules, (std::vector<StrokeId>{1, 2, 3}));
    std::vector<int> cells;
    for (const ReadLine& line : reading.lines)
        if (line.cell >= 0) {
            cells.push_back(line.cell);
            EXPECT_EQ(line.region, grid->region);
            EXPECT_EQ(fold(line.text()), "hill");
        }
    EXPECT_EQ(cells, (std::vector<int>{0, 1, 2}));
    EXPECT_EQ(hills(reading).size(), 4U);
    // Read again, nothing is lost; without its rules it is lines of words.
    EXPECT_EQ(hills(read(page, reading)).size(), 4U);
    page.strokes.erase(page.strokes.begin(), page.strokes.begin() + 3);
    const Reading lines = read(page, reading);
    EXPECT_EQ(hills(lines).size(), 4U);
    EXPECT_TRUE(std::ranges::all_of(lines.lines, [](const ReadLine& line) { return line.cell < 0 && !line.table; }));
}

TEST_F(PageReading, WhatAPersonSaysOfATableHolds) {
    Page page;
    page.strokes = table();
    const FileSource none = [](const std::string&) -> Result<std::string> { return Error{"none"}; };
    const auto tables = [&](const Correction& said) {
        const Reading reading = read_page(page, none, *reader_, {}, {}, {said});
        return std::ranges::count_if(reading.lines, [](const ReadLine& line) { return line.table.has_value(); });
    };
    Correction word{{4, 5, 6, 7, 8, 9, 10, 11}, {}, "dale"};
    EXPECT_EQ(tables(word), 1) << "a word corrected in a cell stays there";
    Correction drawing{{}, {}, "", InkClass::drawing};
    for (const Stroke& s : page.strokes) drawing.strokes.push_back(s.id);
    EXPECT_EQ(tables(drawing), 0);
    // Without rules, rows and columns are told by gaps.
    page.strokes.erase(page.strokes.begin(), page.strokes.begin() + 3);
    Correction rows{{}, {}, "", InkClass::table};
    for (const Stroke& s : page.strokes) rows.strokes.push_back(s.id);
    const Reading reading = read_page(page, none, *reader_, {}, {}, {rows});
    ASSERT_TRUE(reading.lines.at(0).table);
    EXPECT_EQ(reading.lines[0].table->rows, 3);
    EXPECT_EQ(reading.lines[0].table->columns, 2);
    EXPECT_EQ(hills(reading).size(), 4U);
}

// HILL in ink, from the left end of its foot.
std::vector<Stroke> hill_in_ink(double x, double y, StrokeId first) {
    std::vector<Stroke> out;
    const auto path = [&](const std::vector<Point>& points) {
        Stroke stroke;
        stroke.id = first++;
        for (const Point& p : points) stroke.points.push_back({p});
        out.push_back(std::move(stroke));
    };
    path({{x, y - 6}, {x, y}}), path({{x + 3.6, y - 6}, {x + 3.6, y}}), path({{x, y - 3}, {x + 3.6, y - 3}});
    path({{x + 6.3, y - 6}, {x + 6.3, y}});
    path({{x + 9, y - 6}, {x + 9, y}, {x + 12, y}});
    path({{x + 14.1, y - 6}, {x + 14.1, y}, {x + 17.1, y}});
    return out;
}

Stroke box_in_ink(double x, double y, StrokeId id) {
    Stroke out;
    out.id = id;
    for (const Point p : {Point{x, y}, {x + 5, y}, {x + 5, y + 5}, {x, y + 5}, {x, y}}) out.points.push_back({p});
    return out;
}

TEST_F(PageReading, BoxesInInkStandBeforeTheirLines) {
    Page page;
    page.strokes = hill_in_ink(30, 40, 1);
    for (Stroke& s : hill_in_ink(30, 60, 20)) page.strokes.push_back(std::move(s));
    page.strokes.push_back(box_in_ink(20, 34.5, 50));
    page.strokes.push_back(box_in_ink(20, 54.5, 51));
    Stroke tick;
    tick.id = 52;
    for (const Point p : {Point{21, 57}, {22.5, 59}, {25.5, 53.5}}) tick.points.push_back({p});
    page.strokes.push_back(tick);
    const Reading reading = read(page);
    ASSERT_EQ(reading.lines.size(), 2U);
    EXPECT_EQ(fold(reading.lines[0].text()), fold("☐ Hill"));
    EXPECT_EQ(fold(reading.lines[1].text()), fold("☑ Hill"));
    EXPECT_EQ(to_tick(reading.lines[0]), false);
    EXPECT_EQ(to_tick(reading.lines[1]), true);
    EXPECT_EQ(reading.lines[1].words[0].strokes, (std::vector<StrokeId>{51, 52}));
    // Read again with what was read before, each box stands there once.
    const Reading again = read(page, reading);
    ASSERT_EQ(again.lines.size(), 2U);
    EXPECT_EQ(again.lines[0].words.size(), reading.lines[0].words.size());
    EXPECT_EQ(again.lines[1].text(), reading.lines[1].text());
    // What a person said of one holds.
    const FileSource none = [](const std::string&) -> Result<std::string> { return Error{"none"}; };
    const Reading said = read_page(page, none, *reader_, {}, {}, {{{50}, page.strokes[12].box(), kTickedBox}});
    EXPECT_EQ(to_tick(said.lines[0]), true);
}

TEST_F(PageReading, TicksOfErrandsAreNoWords) {
    Page page;
    page.info.errands = true;
    page.strokes = hill_in_ink(30, 40, 1);
    for (const ErrandBox& e : errand_boxes(page.info)) {
        Stroke tick;
        tick.id = 60 + static_cast<int>(e.errand);
        for (int i = 0; i <= 4; ++i) tick.points.push_back({{e.box.left + i, e.box.top + 4.0 - i}});
        page.strokes.push_back(tick);
    }
    ASSERT_EQ(read(page).lines.size(), 1U);
    page.info.errands = false;
    EXPECT_GT(read(page).lines.size(), 1U) << "elsewhere they are ink as any other";
}

}  // namespace
}  // namespace fernleaf
