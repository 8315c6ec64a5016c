// Nothing written stays unread, whatever is done meanwhile; and what goes wrong is told and harms nothing else.
#include <QSignalSpy>
#include <fstream>
#include <opencv2/core.hpp>

#include "document/edit.h"
#include "notebooks/notebook_list.h"
#include "paper/raster_file.h"
#include "wait_until.h"
#include "window/notice_bar.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class Unread : public Window {
protected:
    // A notebook of pages that say HILL each, never read.
    std::vector<PageId> written(int count) {
        Notebook notebook;
        notebook.title = "Walks";
        const NotebookId id = *library_->add_notebook(notebook);
        std::vector<FilledPage> pages(static_cast<size_t>(count));
        for (FilledPage& page : pages)
            for (const auto& way : {std::vector<Point>{{0, -6}, {0, 0}},
                                    {{3.6, -6}, {3.6, 0}},
                                    {{0, -3}, {3.6, -3}},
                                    {{6.3, -6}, {6.3, 0}},
                                    {{9, -6}, {9, 0}, {12, 0}},
                                    {{14.1, -6}, {14.1, 0}, {17.1, 0}}}) {
                Stroke stroke;
                for (const Point& p : way) stroke.points.push_back({p + Point{30, 60}});
                page.content.strokes.push_back(stroke);
            }
        return *library_->add_filled_pages(id, pages);
    }
    std::vector<PageId> left() { return *session_->library().unread(); }
    std::string said(PageId page) {
        const auto reading = session_->library().reading(page);
        std::string out;
        if (reading)
            for (const ReadLine& line : reading->lines) out += line.text();
        return out;
    }
};

TEST_F(Unread, WhatAnEarlierRunLeftIsReadAtTheStart) {
    const auto pages = written(5);
    EXPECT_EQ(library_->unread()->size(), 5U);
    open();
    WAIT_UNTIL(left().empty());
    for (const PageId page : pages) EXPECT_EQ(said(page), "HILL");
}

TEST_F(Unread, PagesTurnedOverFasterThanTheyAreReadAreReadAllTheSame) {
    const auto pages = written(12);
    open();
    for (int round = 0; round < 2; ++round)
        for (const PageId page : pages) {
            session_->open_page(page);
            QCoreApplication::processEvents();
        }
    WAIT_UNTIL(left().empty());
    for (const PageId page : pages) EXPECT_EQ(said(page), "HILL");
}

TEST_F(Unread, APageLeftRightAfterTheLastStrokeIsReadWhole) {
    const auto pages = written(2);
    open();
    WAIT_UNTIL(left().empty());
    session_->open_page(pages[0]);
    session_->wait_idle();
    write_hill(30, 90);
    session_->open_page(pages[1]);
    WAIT_UNTIL(session_->page()->info.id == pages[1] && left().empty());
    EXPECT_EQ(said(pages[0]), "HILLHILL");
}

TEST_F(Unread, AStrokeUnderThePenStaysOnThePageItWasBegunOn) {
    const auto pages = written(2);
    open();
    session_->open_page(pages[0]);
    session_->wait_idle();
    QTest::mousePress(ink(), Qt::LeftButton, {}, at(30, 120));
    QTest::mouseMove(ink(), at(40, 120));
    session_->open_page(pages[1]);
    WAIT_UNTIL(session_->page()->info.id == pages[1]);
    QTest::mouseRelease(ink(), Qt::LeftButton, {}, at(60, 120));
    session_->wait_idle();
    EXPECT_EQ(session_->library().load_page(pages[0])->strokes.size(), 7U);
    EXPECT_EQ(session_->library().load_page(pages[1])->strokes.size(), 6U);
}

TEST_F(Unread, AStrokeUnderThePenEndsNothingWhenItsPageIsClosed) {
    written(1);
    open();
    const QPoint end = at(60, 120);
    QTest::mousePress(ink(), Qt::LeftButton, {}, at(30, 120));
    session_->model().bin_notebook(session_->document().notebook().id);
    QTest::mouseMove(ink(), end);
    WAIT_UNTIL(!session_->page());
    QTest::mouseRelease(ink(), Qt::LeftButton, {}, end);
    session_->wait_idle();
}

TEST_F(Unread, AChangeThatCanNeverBeKeptIsTakenBackAndTheRestGoesOn) {
    const auto pages = written(1);
    open();
    QSignalSpy problems(&session_->messages(), &Messages::problem);
    Edit hopeless{"Insert a picture"};
    // A picture whose file the library does not have: no room on the disk will ever help.
    hopeless.added.pictures = {{session_->editing().new_id(), std::string(64, 'b'), "a.png", 0, Box::of(0, 0, 50, 50)}};
    session_->editing().change(hopeless);
    mouse_stroke({{30, 120}, {60, 120}});
    session_->wait_idle();
    EXPECT_TRUE(session_->page()->pictures.empty());
    EXPECT_FALSE(session_->queue().has_unsaved());
    ASSERT_EQ(problems.count(), 1);
    EXPECT_TRUE(problems[0][0].toString().contains("undone"));
    EXPECT_EQ(session_->library().load_page(pages[0])->strokes.size(), 7U);
    EXPECT_EQ(*session_->library().undo_state(pages[0])->undo, "Write");
}

TEST_F(Unread, PicturesOfAnySizeComeInAndEndNothing) {
    written(1);
    open();
    const fs::path folder = fs::temp_directory_path() / ("fernleaf-small-" + std::to_string(getpid()));
    fs::create_directories(folder);
    QStringList paths;
    for (const cv::Size size :
         {cv::Size(1, 1), cv::Size(2, 2), cv::Size(100, 1), cv::Size(2000, 5), cv::Size(20000, 2)}) {
        const fs::path path = folder / (std::to_string(size.width) + ".png");
        std::ofstream(path, std::ios::binary) << encode_png(cv::Mat(size, CV_8UC3, cv::Scalar(90, 120, 30)));
        paths << QString::fromStdString(path.string());
    }
    session_->intake().bring(paths);
    session_->wait_idle();
    ASSERT_EQ(session_->intake().entries().size(), 5U);
    for (const IntakeEntry& e : session_->intake().entries()) EXPECT_TRUE(e.looked_at);
    for (const QString& path : paths) session_->pictures().add_picture(path, {60, 60});
    session_->wait_idle();
    EXPECT_EQ(session_->page()->pictures.size(), 5U);
    std::vector<IntakeId> all;
    for (const IntakeEntry& e : session_->intake().entries()) all.push_back(e.id);
    session_->intake().file(all, session_->document().notebook().id);
    session_->wait_idle();
    EXPECT_EQ(session_->library().pages(session_->document().notebook().id)->size(), 6U);
    WAIT_UNTIL(left().empty());
    reopen();
    EXPECT_TRUE(session_->intake().entries().empty());
    fs::remove_all(folder);
}

TEST_F(Unread, AnEntryThatCouldNotBeLookedAtIsSaidSoAndNotTriedAgain) {
    written(1);
    std::vector<IntakeEntry> entries(1);
    entries[0].file = *library_->add_file("no picture at all");
    entries[0].name = "odd", entries[0].width_mm = 210, entries[0].height_mm = 297;
    ASSERT_TRUE(library_->add_to_intake(entries));
    open();
    // It was looked at when the program began.
    ASSERT_EQ(session_->intake().entries().size(), 1U);
    EXPECT_FALSE(session_->intake().entries()[0].failure.empty());
    EXPECT_TRUE(window_->notice()->isVisible());
    QSignalSpy told(&session_->messages(), &Messages::problem);
    window_->show_intake(true);
    session_->wait_idle();
    EXPECT_EQ(told.count(), 0);
    EXPECT_FALSE(session_->intake().entries()[0].failure.empty());
}

TEST_F(Unread, OneClickGoesFromTheTrayToAnotherNotebook) {
    written(1);
    Notebook other;
    other.title = "Frost watch";
    ASSERT_TRUE(library_->add_page(*library_->add_notebook(other), {}));
    open();
    const NotebookId first = session_->document().notebook().id;
    window_->show_intake(true);
    session_->wait_idle();
    const NotebookModel& model = window_->notebook_list()->model();
    QListView* list = window_->notebook_list()->list();
    QModelIndex row;
    for (int i = 0; i < model.rowCount(); ++i)
        if (model.kind_at(model.index(i)) == NotebookModel::Kind::notebook &&
            model.notebook_at(model.index(i)) != first)
            row = model.index(i);
    ASSERT_TRUE(row.isValid());
    // As a hand clicks: time passes, and what is under way goes on, between press and release.
    const QPoint place = list->visualRect(row).center();
    QTest::mousePress(list->viewport(), Qt::LeftButton, {}, place);
    session_->wait_idle();
    QTest::mouseRelease(list->viewport(), Qt::LeftButton, {}, place);
    session_->wait_idle();
    EXPECT_NE(session_->document().notebook().id, first);
    EXPECT_FALSE(window_->showing_intake());
}

TEST_F(Unread, TheSecondWindowMayWriteWhenTheFirstIsGone) {
    const auto pages = written(1);
    const fs::path directory = library_.directory;
    auto second = Library::open(directory);
    ASSERT_TRUE(second && (*second)->why_read_only());
    std::unique_ptr<Library> first = std::move(library_.library);
    library_.library = *std::move(second);
    open();
    EXPECT_TRUE(session_->read_only());
    std::function<void()> start;
    QObject::connect(&session_->messages(), &Messages::offer, window_.get(),
                     [&](const QString&, const QString&, const std::function<void()>& f) { start = f; });
    first.reset();
    WAIT_UNTIL(start != nullptr);
    start();
    WAIT_UNTIL(!session_->read_only());
    session_->wait_idle();
    mouse_stroke({{30, 120}, {60, 120}});
    session_->wait_idle();
    EXPECT_EQ(session_->library().load_page(pages[0])->strokes.size(), 7U);
}

}  // namespace
}  // namespace fernleaf
