#include "notebooks/notebook_model.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

using Kind = NotebookModel::Kind;

Hit hit(NotebookId notebook, const std::string& title, PageId page, int number, double certainty) {
    return {page, notebook, title, number, "late frost", certainty, {Box::of(static_cast<double>(page), 20, 12, 5)}};
}

TEST(NotebookModel, TheOpenNotebookShowsItsContents) {
    NotebookSummary closed, open;
    closed.notebook.id = 1, closed.notebook.title = "Frost watch", closed.pages = 4;
    open.notebook.id = 2, open.notebook.title = "Press house", open.pages = 3;
    for (int n = 1; n <= 3; ++n) {
        PageSummary page;
        page.info.id = 10 + n, page.info.number = n;
        page.first_line = n == 1 ? "First pressing" : "";
        page.blank = n == 2;
        open.contents.push_back(page);
    }
    NotebookModel model;
    model.show_notebooks({closed, open}, {}, {}, 12);
    ASSERT_EQ(model.rowCount(), 5);
    EXPECT_EQ(model.data(model.index(0), NotebookModel::count), 4);
    EXPECT_EQ(model.kind_at(model.index(2)), Kind::page);
    EXPECT_EQ(model.data(model.index(2), Qt::DisplayRole).toString(), "First pressing");
    EXPECT_EQ(model.data(model.index(3), Qt::DisplayRole).toString(), "empty page");
    EXPECT_EQ(model.data(model.index(4), Qt::DisplayRole).toString(), "not read yet");
    EXPECT_TRUE(model.data(model.index(3), NotebookModel::open).toBool());
    model.set_open_page(13);
    EXPECT_FALSE(model.data(model.index(3), NotebookModel::open).toBool());
    EXPECT_EQ(model.row_of_page(13).row(), 4);
    EXPECT_FALSE(model.row_of_page(99).isValid());
}

TEST(NotebookModel, HitsStandByNotebookAndPageWithTheirCounts) {
    NotebookModel model;
    model.show_hits({hit(2, "Press house", 21, 1, 0.9), hit(1, "Frost watch", 11, 3, 0.8),
                     hit(2, "Press house", 22, 2, 0.7), hit(2, "Press house", 21, 1, 0.4)});
    std::vector<Kind> kinds;
    for (int i = 0; i < model.rowCount(); ++i) kinds.push_back(model.kind_at(model.index(i)));
    EXPECT_EQ(kinds, (std::vector<Kind>{Kind::found_notebook, Kind::found_page, Kind::hit, Kind::hit, Kind::found_page,
                                        Kind::hit, Kind::found_notebook, Kind::found_page, Kind::hit}));
    EXPECT_EQ(model.data(model.index(0), Qt::DisplayRole).toString(), "Press house") << "the best hit's notebook first";
    EXPECT_EQ(model.data(model.index(0), NotebookModel::count), 3);
    EXPECT_EQ(model.data(model.index(1), NotebookModel::count), 2);
    EXPECT_EQ(model.page_at(model.index(5)), 22);
    EXPECT_EQ(model.boxes_at(model.index(2)).size(), 2U) << "all hits of the page are outlined";
    EXPECT_EQ(model.boxes_at(model.index(5)).size(), 1U);
    model.show_hits({});
    EXPECT_EQ(model.rowCount(), 0);
}

}  // namespace
}  // namespace fernleaf
