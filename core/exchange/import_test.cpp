#include "exchange/import.h"

#include <gtest/gtest.h>

#include <fstream>

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
    TemporaryLibrary library_;
    NotebookId notebook_ = 0;
};

TEST_F(ImportTest, InkBecomesAPageOfStrokes) {
    Page page;
    page.strokes = {test_stroke(10, 20), test_stroke(30, 40)};
    const auto pages =
        import_file(*library_.library, notebook_, file("Spaziergang im März.inkml", write_inkml({page, page})));
    ASSERT_TRUE(pages) << pages.error().message;
    ASSERT_EQ(pages->size(), 2U);
    const auto loaded = library_->load_page(pages->at(1));
    ASSERT_TRUE(loaded);
    EXPECT_EQ(loaded->info.number, 2);
    ASSERT_EQ(loaded->strokes.size(), 2U);
    EXPECT_NEAR(loaded->strokes[0].points[1].at.x, 11.23, 0.006);
}

TEST_F(ImportTest, APdfBecomesAPageForEachOfItsPages) {
    const fs::path pdf = fs::path(FERNLEAF_SOURCE_DIR) / "tests" / "sources" / "two-sheets.pdf";
    const auto pages = import_file(*library_.library, notebook_, pdf);
    ASSERT_TRUE(pages) << pages.error().message;
    ASSERT_EQ(pages->size(), 2U);
    const auto second = library_->load_page(pages->at(1));
    EXPECT_NEAR(second->info.width_mm, 148, 0.5);
    ASSERT_EQ(second->pictures.size(), 1U);
    EXPECT_EQ(second->pictures[0].frame, 1);
    EXPECT_EQ(second->pictures[0].name, "two-sheets.pdf");
    EXPECT_TRUE(library_->check()->empty());
}

TEST_F(ImportTest, WhatCanNotBeReadIsNamedAndChangesNothing) {
    const fs::path broken = fs::path(FERNLEAF_SOURCE_DIR) / "tests" / "broken";
    std::vector<fs::path> files = {library_.directory / "no such file.png", library_.directory,
                                   file("notes.txt", "words"), file("nothing.png", "")};
    for (const char* folder : {"inkml", "pictures"})
        for (const auto& entry : fs::directory_iterator(broken / folder)) files.push_back(entry.path());
    for (const fs::path& path : files) {
        const auto pages = import_file(*library_.library, notebook_, path);
        ASSERT_FALSE(pages) << path;
        EXPECT_TRUE(pages.error().message.starts_with(path.filename().string() + ": ")) << pages.error().message;
    }
    EXPECT_TRUE(library_->pages(notebook_)->empty());
    EXPECT_TRUE(fs::is_empty(library_.directory / "files"));
}

TEST_F(ImportTest, CancelledItChangesNothing) {
    CancelSource cancel;
    cancel.cancel();
    Page page;
    page.strokes = {test_stroke(10, 20)};
    EXPECT_FALSE(import_file(*library_.library, notebook_, file("a.inkml", write_inkml({page})), cancel.token()));
    EXPECT_TRUE(library_->pages(notebook_)->empty());
}

}  // namespace
}  // namespace fernleaf
