#include "notebooks/notebook_model.h"

#include <gtest/gtest.h>

#include <QMimeData>
#include <memory>

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

NotebookSummary summary(NotebookId id, const char* title, FolderId folder, bool archived = false) {
    NotebookSummary out;
    out.notebook.id = id, out.notebook.title = title, out.notebook.folder = folder, out.notebook.archived = archived;
    return out;
}

QStringList rows_of(const NotebookModel& model) {
    QStringList out;
    for (int i = 0; i < model.rowCount(); ++i)
        out << QString(2 * model.data(model.index(i), NotebookModel::indent).toInt(), ' ') +
                   model.data(model.index(i), Qt::DisplayRole).toString();
    return out;
}

TEST(NotebookModel, FoldersHoldTheirNotebooksAndFolders) {
    const std::vector<Folder> folders{{1, "Hill", kNoFolder}, {2, "Weather", 1}, {3, "Letters", kNoFolder}};
    const std::vector<NotebookSummary> notebooks{summary(1, "Frost watch", 2), summary(2, "Grafting", 1),
                                                 summary(3, "Old press", 1, true), summary(4, "Walks", kNoFolder)};
    NotebookModel model;
    model.show_notebooks(notebooks, folders, {}, 0);
    EXPECT_EQ(rows_of(model), (QStringList{"Hill", "  Weather", "    Frost watch", "  Grafting", "Letters", "Walks",
                                           "Archive", "  Old press"}));
    model.show_notebooks(notebooks, folders, {1, NotebookModel::kArchive}, 0);
    EXPECT_EQ(rows_of(model), (QStringList{"Hill", "Letters", "Walks", "Archive"}));
    EXPECT_EQ(model.data(model.index(0), NotebookModel::count), 1) << "notebooks of its own";
    EXPECT_FALSE(model.data(model.index(0), NotebookModel::open).toBool());
}

struct Drop {
    NotebookId notebook = 0;
    FolderId moved = 0, into = 0;
    size_t place = 0;
    friend bool operator==(const Drop&, const Drop&) = default;
};

TEST(NotebookModel, WhatIsDroppedGoesBeforeTheRowBelow) {
    const std::vector<Folder> folders{{1, "Hill", kNoFolder}};
    NotebookModel model;
    model.show_notebooks({summary(1, "Frost watch", 1), summary(2, "Grafting", 1), summary(3, "Walks", kNoFolder),
                          summary(4, "Yields", kNoFolder)},
                         folders, {}, 0);
    std::vector<Drop> drops;
    QObject::connect(&model, &NotebookModel::dropped, &model,
                     [&](NotebookId notebook, FolderId moved, FolderId into, size_t place) {
                         drops.push_back({notebook, moved, into, place});
                     });
    const auto drag = [&](int row) { return std::unique_ptr<QMimeData>(model.mimeData({model.index(row)})); };
    model.dropMimeData(drag(4).get(), Qt::MoveAction, 2, 0, {});                // Yields before Grafting
    model.dropMimeData(drag(1).get(), Qt::MoveAction, 4, 0, {});                // Frost watch before Yields
    model.dropMimeData(drag(3).get(), Qt::MoveAction, -1, -1, model.index(0));  // Walks onto Hill
    model.dropMimeData(drag(1).get(), Qt::MoveAction, 5, 0, {});                // Frost watch below all
    EXPECT_EQ(drops, (std::vector<Drop>{
                         {4, 0, 1, 1}, {1, 0, kNoFolder, 1}, {3, 0, 1, SIZE_MAX}, {1, 0, kNoFolder, SIZE_MAX}}));
    EXPECT_TRUE(model.flags(model.index(0)) & Qt::ItemIsDropEnabled);
    EXPECT_FALSE(model.flags(model.index(1)) & Qt::ItemIsDropEnabled);
}

TEST(NotebookModel, PagesAreCalledByTheirTitleFirst) {
    NotebookSummary open = summary(1, "Frost watch", kNoFolder);
    PageSummary page;
    page.info.id = 11, page.info.number = 1, page.info.title = "Night of the 16th", page.info.favourite = true;
    page.first_line = "22:30 clear sky";
    open.contents = {page};
    NotebookModel model;
    model.show_notebooks({open}, {}, {}, 11);
    EXPECT_EQ(rows_of(model), (QStringList{"Frost watch", "Night of the 16th"}));
    EXPECT_TRUE(model.data(model.index(1), NotebookModel::favourite).toBool());
}

TEST(NotebookModel, PagesThatWereNotLookedForByWordsHaveNoCertainty) {
    Hit page = hit(1, "Frost watch", 11, 3, 1);
    page.boxes.clear();
    NotebookModel model;
    model.show_hits({page});
    EXPECT_LT(model.data(model.index(2), NotebookModel::certainty).toDouble(), 0);
    EXPECT_TRUE(model.boxes_at(model.index(2)).empty());
}

}  // namespace
}  // namespace fernleaf
