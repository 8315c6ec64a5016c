#include "desk/library_model.h"

#include "desk/parts_fixture.h"

namespace fernleaf {
namespace {

class Model : public Parts {
protected:
    LibraryModel& model() { return session_->model(); }
    size_t pages() { return session_->library().pages(notebook_)->size(); }
};

TEST_F(Model, ListsNotebooksWithTheContentsOfTheOpenOne) {
    start(2);
    QSignalSpy changed(&model(), &LibraryModel::notebooks_changed);
    Notebook other;
    other.title = "Frost watch";
    model().add_notebook(other);
    session_->wait_idle();
    ASSERT_GE(changed.count(), 1);
    const auto notebooks = changed.last()[0].value<std::vector<NotebookSummary>>();
    ASSERT_EQ(notebooks.size(), 2U);
    EXPECT_EQ(notebooks[0].pages, 2U);
    EXPECT_TRUE(notebooks[0].contents.empty());
    EXPECT_EQ(notebooks[1].contents.size(), 1U) << "its first page is open now";
    EXPECT_EQ(session_->document().notebook().title, "Frost watch");
}

TEST_F(Model, GoesToNeighboursAndNoFurther) {
    start(2);
    model().open_neighbour(1);
    session_->wait_idle();
    EXPECT_EQ(session_->page()->info.id, ids_[1]);
    model().open_neighbour(1);
    session_->wait_idle();
    EXPECT_EQ(session_->page()->info.id, ids_[1]);
}

TEST_F(Model, BinnedPagesComeBackByTheOfferedWay) {
    start(2);
    std::function<void()> take_back;
    QObject::connect(&session_->messages(), &Messages::undoable,
                     [&](const QString&, const std::function<void()>& back) { take_back = back; });
    model().bin_pages({ids_[0]});
    session_->wait_idle();
    EXPECT_EQ(pages(), 1U);
    EXPECT_EQ(session_->page()->info.id, ids_[1]);
    ASSERT_TRUE(take_back);
    take_back();
    session_->wait_idle();
    EXPECT_EQ(pages(), 2U);
    EXPECT_EQ(session_->page()->info.id, ids_[0]);
}

TEST_F(Model, TheLastNotebookIntoTheBinLeavesNoPageOpen) {
    start();
    QSignalSpy closed(&session_->document(), &PageDocument::closed);
    model().bin_notebook(notebook_);
    session_->wait_idle();
    EXPECT_EQ(closed.count(), 1);
    EXPECT_EQ(session_->page(), nullptr);
    EXPECT_EQ(session_->editing().write(test_stroke(1, 2)), 0) << "there is nothing to write on";
}

TEST_F(Model, OnlyTheNewestQuestionIsAnswered) {
    start();
    QSignalSpy found(&model(), &LibraryModel::found);
    model().find("fro");
    model().find("frost");
    session_->wait_idle();
    ASSERT_EQ(found.count(), 1);
    EXPECT_EQ(found[0][0].toString(), "frost");
    model().find("before:someday");
    EXPECT_FALSE(found.last()[2].toString().isEmpty()) << "a day that is none is told at once";
}

}  // namespace
}  // namespace fernleaf
