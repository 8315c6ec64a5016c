#include "exchange/import.h"

#include <gtest/gtest.h>

#include <fstream>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include "exchange/inkml.h"
#include "store/temporary_library.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

class ImportTest : public testing::Test {
protected:
    void SetUp() override {
        Notebook notebook;
        notebook.title = "Walks";
        notebook_ = *library_->add_notebook(notebook);
    }
    fs::path file(const std::string& name, const std::string& bytes) {
        const fs::path path = library_.directory / name;
        std::ofstream(path, std::ios::binary) << bytes;
        return path;
    }
    Result<std::vector<PageId>> import(const fs::path& path, const FindUpright& upright = {},
                                       const CancelToken& cancel = {}) {
        auto source = read_source(path, PictureUse::sheets, cancel, {}, upright);
        return source ? add_source(*library_.library, notebook_, *std::move(source)) : source.error();
    }
    TemporaryLibrary library_;
    NotebookId notebook_ = 0;
};

TEST_F(ImportTest, InkBecomesAPageOfStrokes) {
    Page page;
    page.strokes = {test_stroke(10, 20), test_stroke(30, 40)};
    const auto pages = import(file("Spaziergang im März.inkml", write_inkml({page, page})));
    ASSERT_TRUE(pages) << pages.error().message;
    ASSERT_EQ(pages->size(), 2U);
    const auto loaded = library_->load_page(pages->at(1));
    ASSERT_TRUE(loaded);
    EXPECT_EQ(loaded->info.number, 2);
    ASSERT_EQ(loaded->strokes.size(), 2U);
    EXPECT_NEAR(loaded->strokes[0].points[1].at.x, 11.23, 0.006);
}

// Two light sheets on a dark table, in a plain bitmap turned PNG.
std::string photograph() {
    cv::Mat pixels(900, 1300, CV_8UC3, cv::Scalar(70, 90, 110));
    for (const std::vector<cv::Point>& sheet : {std::vector<cv::Point>{{100, 150}, {600, 130}, {610, 790}, {110, 800}},
                                                {{720, 110}, {1190, 140}, {1180, 760}, {700, 740}}})
        cv::fillConvexPoly(pixels, sheet, cv::Scalar(235, 240, 240), cv::LINE_AA);
    std::vector<uchar> bytes;
    cv::imencode(".png", pixels, bytes);
    return {bytes.begin(), bytes.end()};
}

TEST_F(ImportTest, EverySheetInAPhotographBecomesAPageOfTheSameFile) {
    const auto pages = import(file("table.png", photograph()));
    ASSERT_TRUE(pages) << pages.error().message;
    ASSERT_EQ(pages->size(), 2U);
    const Page left = *library_->load_page(pages->at(0)), right = *library_->load_page(pages->at(1));
    ASSERT_EQ(left.pictures.size(), 1U);
    EXPECT_EQ(left.pictures[0].file, right.pictures[0].file);
    EXPECT_EQ(*library_->file(left.pictures[0].file), photograph()) << "kept as it came";
    ASSERT_TRUE(left.pictures[0].treatment.outline && right.pictures[0].treatment.outline);
    EXPECT_NEAR(left.pictures[0].treatment.outline->corners[0].x, 100, 4);
    EXPECT_NEAR(right.pictures[0].treatment.outline->corners[0].x, 720, 4);
    EXPECT_EQ(left.info.colour, kWhitePaper);
    EXPECT_EQ(left.pictures[0].box, Box::of(0, 0, left.info.width_mm, left.info.height_mm));
}

TEST_F(ImportTest, SheetsAreSetUprightAsIsTold) {
    std::vector<cv::Size> asked;
    const auto pages = import(file("table.png", photograph()), [&](const cv::Mat& page) {
        asked.push_back(page.size());
        return asked.size() == 1 ? 3 : 0;
    });
    ASSERT_TRUE(pages) << pages.error().message;
    ASSERT_EQ(asked.size(), 2U);
    EXPECT_LT(asked[0].width, asked[0].height) << "each is asked for as it lies";
    const Page left = *library_->load_page(pages->at(0)), right = *library_->load_page(pages->at(1));
    EXPECT_EQ(left.pictures[0].treatment.quarter_turns, 3);
    EXPECT_GT(left.info.width_mm, left.info.height_mm) << "the page is turned with it";
    EXPECT_EQ(right.pictures[0].treatment.quarter_turns, 0);
    EXPECT_LT(right.info.width_mm, right.info.height_mm);
}

TEST_F(ImportTest, APictureThatIsToBeShownAsItIsIsNotCut) {
    const auto source = read_source(file("table.png", photograph()), PictureUse::as_they_are);
    ASSERT_TRUE(source) << source.error().message;
    ASSERT_EQ(source->pages.size(), 1U);
    EXPECT_TRUE(source->pages[0].content.pictures[0].treatment.untouched());
    EXPECT_EQ(source->pixels[0].width, 1300);
    EXPECT_NEAR(source->pages[0].info.width_mm / source->pages[0].info.height_mm, 1300.0 / 900, 1e-6);
}

TEST_F(ImportTest, APdfBecomesAPageForEachOfItsPages) {
    const fs::path pdf = fs::path(FERNLEAF_SOURCE_DIR) / "tests" / "sources" / "two-sheets.pdf";
    const auto pages = import(pdf);
    ASSERT_TRUE(pages) << pages.error().message;
    ASSERT_EQ(pages->size(), 2U);
    const auto second = library_->load_page(pages->at(1));
    EXPECT_NEAR(second->info.width_mm, 148, 0.5);
    ASSERT_EQ(second->pictures.size(), 1U);
    EXPECT_EQ(second->pictures[0].frame, 1);
    EXPECT_EQ(second->pictures[0].name, "two-sheets.pdf");
    EXPECT_TRUE(library_->check()->empty());
}

TEST_F(ImportTest, OnlyPagesOfAPdfAreDrawnFinerOrCoarser) {
    auto pdf = read_source(fs::path(FERNLEAF_SOURCE_DIR) / "tests" / "sources" / "two-sheets.pdf", PictureUse::sheets);
    ASSERT_TRUE(pdf) << pdf.error().message;
    const int usual = pdf->pixels[1].width;
    set_resolution(*pdf, 400);
    for (const FilledPage& page : pdf->pages) EXPECT_EQ(page.content.pictures[0].treatment.dpi, 400);
    EXPECT_EQ(pdf->pixels[1].width, 2 * usual);
    SourceFile photo;
    photo.picture_bytes = "\xff\xd8\xff\xe0";
    photo.pages.resize(1);
    photo.pages[0].content.pictures.resize(1);
    photo.pixels = {{640, 480}};
    set_resolution(photo, 400);
    EXPECT_EQ(photo.pages[0].content.pictures[0].treatment.dpi, 0);
    EXPECT_EQ(photo.pixels[0].width, 640);
}

TEST_F(ImportTest, WhatCanNotBeReadIsNamedAndChangesNothing) {
    const fs::path broken = fs::path(FERNLEAF_SOURCE_DIR) / "tests" / "broken";
    std::vector<fs::path> files = {library_.directory / "no such file.png", library_.directory,
                                   file("notes.txt", "words"), file("nothing.png", "")};
    for (const char* folder : {"inkml", "pictures"})
        for (const auto& entry : fs::directory_iterator(broken / folder)) files.push_back(entry.path());
    for (const fs::path& path : files) {
        const auto pages = import(path);
        ASSERT_FALSE(pages) << path;
        EXPECT_TRUE(pages.error().message.starts_with(path.filename().string() + ": ")) << pages.error().message;
    }
    EXPECT_TRUE(library_->pages(notebook_)->empty());
    EXPECT_TRUE(fs::is_empty(library_.directory / "files"));
}

TEST_F(ImportTest, CancelledItChangesNothing) {
    CancelSource cancel;
    cancel.cancel();
    EXPECT_FALSE(import(file("a.png", photograph()), {}, cancel.token()));
    EXPECT_TRUE(library_->pages(notebook_)->empty());
}

}  // namespace
}  // namespace fernleaf
