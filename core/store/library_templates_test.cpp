#include <gtest/gtest.h>

#include "store/temporary_library.h"

namespace fernleaf {
namespace {

TEST(Templates, BeginPagesWithWhatOneHeld) {
    TemporaryLibrary library;
    const PageId page = library.page();
    Stroke stroke = test_stroke(20, 30);
    stroke.start_ms = 1'790'000'000'000;
    Edit edit{"Write", {{stroke}}};
    ASSERT_TRUE(library->commit(page, edit));
    ASSERT_TRUE(library->name_page(page, "Week 12"));
    const auto kept = library->keep_template("  Week  ", page);
    ASSERT_TRUE(kept) << kept.error().message;
    EXPECT_EQ(*library->templates(), (std::vector<PageTemplate>{{*kept, "Week"}}));
    const auto begun = library->template_page(*kept);
    ASSERT_TRUE(begun);
    ASSERT_EQ(begun->page.strokes.size(), 1U);
    EXPECT_EQ(begun->page.strokes[0].start_ms, 0) << "it was not written on that page";
    EXPECT_TRUE(begun->page.info.title.empty());
    const auto added = library->add_copy(*begun, library->load_page(page)->info.notebook, 2);
    ASSERT_TRUE(added);
    EXPECT_EQ(library->load_page(*added)->strokes.size(), 1U);
    EXPECT_EQ(library->days()->front().strokes, 1U) << "of the first page alone";
    // Another of the name takes its place; names are changed, and wanted.
    const auto again = library->keep_template("Week", page);
    ASSERT_TRUE(again);
    EXPECT_EQ(library->templates()->size(), 1U);
    ASSERT_TRUE(library->rename_template(*again, "Seven days"));
    EXPECT_EQ(library->templates()->at(0).name, "Seven days");
    EXPECT_FALSE(library->rename_template(*again, " "));
    EXPECT_FALSE(library->keep_template("", page));
    EXPECT_FALSE(library->keep_template("None", 4711));
    ASSERT_TRUE(library->remove_template(*again));
    EXPECT_FALSE(library->remove_template(*again));
    EXPECT_TRUE(library->templates()->empty());
}

TEST(Templates, KeepThePicturesTheyHold) {
    TemporaryLibrary library;
    const PageId page = library.page();
    Picture picture;
    picture.file = *library->add_file("bytes");
    picture.box = {10, 10, 60, 50};
    Edit edit{"Insert", {{}, {picture}}};
    ASSERT_TRUE(library->commit(page, edit));
    ASSERT_TRUE(library->keep_template("With a picture", page));
    Notebook covered;
    covered.title = "Covered";
    covered.cover_picture = *library->add_file("cover");
    covered.cover_pattern = CoverPattern::rain;
    const NotebookId notebook = *library->add_notebook(covered);
    ASSERT_TRUE(library->bin_notebook(library->load_page(page)->info.notebook));
    ASSERT_TRUE(library->empty_bin());
    EXPECT_TRUE(library->file(picture.file));
    EXPECT_TRUE(library->file(covered.cover_picture));
    EXPECT_EQ(library->notebook(notebook)->cover_pattern, CoverPattern::rain);
    EXPECT_EQ(library->notebook(notebook)->cover_picture, covered.cover_picture);
}

TEST(KeptSearches, AreKeptOnceTheLastFirst) {
    TemporaryLibrary library;
    ASSERT_TRUE(library->keep_search("tag:frost", true));
    ASSERT_TRUE(library->keep_search(" gate has:todo ", true));
    ASSERT_TRUE(library->keep_search("tag:frost", true));
    const auto kept = library->kept_searches();
    ASSERT_TRUE(kept);
    EXPECT_EQ(kept->size(), 2U);
    ASSERT_TRUE(library->keep_search("gate has:todo", false));
    EXPECT_EQ(*library->kept_searches(), std::vector<std::string>{"tag:frost"});
    EXPECT_FALSE(library->keep_search("  ", true));
    EXPECT_FALSE(library->keep_search(std::string(5000, 'x'), true));
}

}  // namespace
}  // namespace fernleaf
