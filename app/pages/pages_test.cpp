// Pages in the real window: their order, the bin, their paper, pictures on them; and the settings.
#include <sys/resource.h>

#include <QComboBox>
#include <QLabel>
#include <QListWidget>
#include <QMimeData>
#include <QSlider>
#include <csignal>

#include "pages/bin_dialog.h"
#include "pages/paper_dialog.h"
#include "wait_until.h"
#include "window/settings_dialog.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class PagesInWindow : public Window {
protected:
    PageStrip* strip() { return window_->strip(); }
    const Page& page() { return *session_->page(); }
    std::vector<PageId> order() {
        std::vector<PageId> ids;
        for (const PageInfo& info : *session_->library().pages(session_->model().open_notebook_id()))
            ids.push_back(info.id);
        return ids;
    }
    // A notebook of three pages, the first open.
    std::array<PageId, 3> three() {
        std::array<PageId, 3> ids{start_with_page()};
        for (size_t i = 1; i < 3; ++i) {
            session_->model().add_page();
            session_->wait_idle();
            ids[i] = page().info.id;
        }
        session_->open_page(ids[0]);
        session_->wait_idle();
        window_->show_strip(true);
        return ids;
    }
    void choose(int row) {
        strip()->selectionModel()->setCurrentIndex(strip()->pages().index(row), QItemSelectionModel::ClearAndSelect);
    }
    void key(Qt::Key key, Qt::KeyboardModifiers modifiers = {}) {
        QTest::keyClick(strip(), key, modifiers);
        session_->wait_idle();
    }
};

TEST_F(PagesInWindow, TheStripShowsThemAndGoesToThem) {
    const auto ids = three();
    EXPECT_EQ(strip()->model()->rowCount(), 3);
    EXPECT_EQ(strip()->currentIndex().row(), 0);
    QTest::mouseClick(strip()->viewport(), Qt::LeftButton, {}, strip()->visualRect(strip()->pages().index(2)).center());
    session_->wait_idle();
    EXPECT_EQ(page().info.id, ids[2]);
    EXPECT_EQ(strip()->currentIndex().row(), 2);
}

TEST_F(PagesInWindow, AreSetInOrderByKeysAndByDragging) {
    const auto ids = three();
    choose(0);
    key(Qt::Key_Down, Qt::AltModifier);
    EXPECT_EQ(order(), (std::vector{ids[1], ids[0], ids[2]}));
    // Dropped behind the last.
    auto& model = strip()->pages();
    std::unique_ptr<QMimeData> dragged(model.mimeData({model.index(0)}));
    model.dropMimeData(dragged.get(), Qt::MoveAction, 3, 0, {});
    session_->wait_idle();
    EXPECT_EQ(order(), (std::vector{ids[0], ids[2], ids[1]}));
}

TEST_F(PagesInWindow, ADuplicateStandsBehindItsPage) {
    const auto ids = three();
    write_hill(20, 40);
    session_->wait_idle();
    choose(0);
    key(Qt::Key_D, Qt::ControlModifier);
    ASSERT_EQ(order().size(), 4U);
    EXPECT_EQ(order()[0], ids[0]);
    EXPECT_EQ(page().info.id, order()[1]);
    EXPECT_EQ(page().strokes.size(), 6U);
    EXPECT_FALSE(session_->reading().lines.empty()) << "the copy is read, too";
}

TEST_F(PagesInWindow, AreGatheredIntoASheafAsCopies) {
    const auto ids = three();
    session_->model().gather({ids[2], ids[0]}, LibraryModel::Gather::copies);
    session_->wait_idle();
    EXPECT_TRUE(session_->document().notebook().title.starts_with("Sheaf"));
    EXPECT_EQ(order().size(), 2U);
    EXPECT_EQ(page().info.number, 1);
    EXPECT_EQ(session_->library().notebooks()->size(), 2U);
    EXPECT_EQ(session_->library().pages(session_->library().load_page(ids[0])->info.notebook)->size(), 3U)
        << "the pages stay where they are";
}

TEST_F(PagesInWindow, StandInASheafAndInTheirNotebook) {
    const auto ids = three();
    const NotebookId own = page().info.notebook;
    session_->model().gather({ids[2], ids[0]}, LibraryModel::Gather::same_pages);
    session_->wait_idle();
    EXPECT_EQ(order(), (std::vector{ids[2], ids[0]}));
    EXPECT_EQ(page().info.id, ids[2]);
    EXPECT_EQ(page().info.notebook, own);
    ASSERT_TRUE(session_->document().sheaf());
    EXPECT_EQ(session_->document().sheaf()->number, 1);
    const NotebookId sheaf = session_->document().sheaf()->notebook;
    // What is written here is written there.
    write_hill(20, 40);
    session_->wait_idle();
    session_->model().open_neighbour(1);
    session_->wait_idle();
    EXPECT_EQ(page().info.id, ids[0]) << "one stays in the sheaf";
    EXPECT_EQ(order(), (std::vector{ids[2], ids[0]}));
    session_->model().move_page(ids[0], sheaf, 1);
    session_->wait_idle();
    EXPECT_EQ(order(), (std::vector{ids[0], ids[2]}));
    EXPECT_EQ(session_->library().pages(own)->size(), 3U);
    // Taken out, it is still in its notebook; and back again.
    choose(0);
    key(Qt::Key_Delete);
    EXPECT_EQ(order(), std::vector{ids[2]});
    EXPECT_TRUE(session_->library().bin()->empty());
    auto* back = window_->notice()->findChild<QPushButton*>();
    ASSERT_TRUE(back && back->isVisible());
    back->click();
    session_->wait_idle();
    EXPECT_EQ(order(), (std::vector{ids[2], ids[0]}));
    // Under another title.
    Notebook renamed = *session_->library().notebook(sheaf);
    renamed.title = "For Mirela";
    session_->model().change_notebook(renamed);
    session_->wait_idle();
    EXPECT_EQ(session_->document().sheaf()->title, "For Mirela");
    // A fresh page is one of the sheaf's own, before those it shows.
    session_->model().add_page();
    session_->wait_idle();
    EXPECT_EQ(page().info.notebook, sheaf);
    EXPECT_EQ(order().size(), 3U);
    session_->model().open_notebook(own);
    session_->wait_idle();
    EXPECT_EQ(order(), (std::vector{ids[0], ids[1], ids[2]}));
    EXPECT_EQ(session_->library().load_page(ids[2])->strokes.size(), 6U);
    // A sheaf that goes into the bin while one of its pages is open leaves its pages where they are.
    session_->model().open_notebook(sheaf);
    session_->wait_idle();
    session_->open_page(ids[2]);
    session_->wait_idle();
    ASSERT_TRUE(session_->document().sheaf());
    session_->model().bin_notebook(sheaf);
    session_->wait_idle();
    EXPECT_FALSE(session_->document().sheaf());
    EXPECT_EQ(order(), (std::vector{ids[0], ids[1], ids[2]}));
}

TEST_F(PagesInWindow, DeletedOnesComeBackFromTheNoticeOrTheBin) {
    const auto ids = three();
    choose(0);
    key(Qt::Key_Delete);
    EXPECT_EQ(order(), (std::vector{ids[1], ids[2]}));
    EXPECT_EQ(page().info.id, ids[1]);
    auto* back = window_->notice()->findChild<QPushButton*>();
    ASSERT_TRUE(back && back->isVisible());
    back->click();
    session_->wait_idle();
    EXPECT_EQ(order(), (std::vector{ids[0], ids[1], ids[2]}));

    choose(1);
    key(Qt::Key_Delete);
    window_->show_bin();
    session_->wait_idle();
    auto* dialog = window_->findChild<BinDialog*>();
    ASSERT_TRUE(dialog);
    EXPECT_EQ(dialog->findChild<QListWidget*>()->count(), 1);
    for (auto* b : dialog->findChildren<QPushButton*>())
        if (b->text() == "Bring back") b->click();
    session_->wait_idle();
    EXPECT_EQ(order(), (std::vector{ids[0], ids[1], ids[2]}));
    EXPECT_EQ(dialog->findChild<QListWidget*>()->count(), 0);
    dialog->close();
}

TEST_F(PagesInWindow, TheLastPageOfANotebookLeavesAnEmptyOne) {
    const PageId only = start_with_page();
    write_hill(20, 40);
    session_->model().bin_pages({only});
    session_->wait_idle();
    EXPECT_EQ(order().size(), 1U);
    EXPECT_NE(page().info.id, only);
    EXPECT_TRUE(page().empty());
}

TEST_F(PagesInWindow, ANotebookGoesIntoTheBinAndBack) {
    start_with_page();
    const NotebookId notebook = session_->document().notebook().id;
    session_->model().bin_notebook(notebook);
    session_->wait_idle();
    EXPECT_TRUE(window_->showing_welcome());
    EXPECT_EQ(session_->page(), nullptr);
    session_->model().restore({{notebook, 0}});
    session_->wait_idle();
    EXPECT_FALSE(window_->showing_welcome());
    EXPECT_EQ(session_->document().notebook().id, notebook);
}

TEST_F(PagesInWindow, AnotherPaperMovesNothingAndIsOneStep) {
    const PageId id = start_with_page(Paper::margined);
    write_hill(20, 40);
    session_->wait_idle();
    const auto before = page().strokes;
    window_->ask_for_paper();
    auto* dialog = window_->findChild<PaperDialog*>();
    ASSERT_TRUE(dialog);
    auto* kind = dialog->findChild<QComboBox*>("paperKind");
    kind->setCurrentIndex(kind->findText("Squared"));
    emit kind->activated(kind->currentIndex());
    auto* size = dialog->findChild<QComboBox*>("paperSize");
    size->setCurrentIndex(1);
    emit size->activated(1);
    for (auto* b : dialog->findChildren<QPushButton*>())
        if (b->text() == "Change the paper") b->click();
    session_->wait_idle();
    EXPECT_EQ(page().info.paper, Paper::squared);
    EXPECT_EQ(page().info.width_mm, 210);
    EXPECT_EQ(page().strokes, before);
    EXPECT_EQ(session_->library().load_page(id)->info.paper, Paper::squared);
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(page().info.paper, Paper::margined);
    EXPECT_EQ(page().info.width_mm, 148);
    EXPECT_EQ(page().strokes, before);
}

TEST_F(PagesInWindow, AnEndlessPageGrowsUnderThePen) {
    start_with_page();
    Sheet sheet = page().info;
    sheet.endless = true;
    session_->editing().change_sheet(sheet);
    const double before = page().info.height_mm;
    EXPECT_GE(before, 210);
    Stroke low;
    low.points = {{{20, before - 5}}, {{40, before - 5}}};
    session_->editing().write(low);
    EXPECT_GT(page().info.height_mm, before + 40);
    session_->wait_idle();
    reopen();
    EXPECT_GT(page().info.height_mm, before + 40);
}

TEST_F(PagesInWindow, APictureIsInsertedMovedTurnedAndLocked) {
    start_with_page();
    QImage image(300, 200, QImage::Format_RGB32);
    image.fill(QColor(40, 120, 90));
    session_->pictures().add_picture(image, {70, 60});
    session_->wait_idle();
    ASSERT_EQ(page().pictures.size(), 1U);
    EXPECT_NEAR(page().pictures[0].box.centre().x, 70, 0.1);
    EXPECT_EQ(ink()->selection().chosen().pictures.size(), 1U);
    ink()->choosing().move(Affine::turn(1.5707963, {70, 60}), "Move");
    EXPECT_NEAR(page().pictures[0].angle, 90, 0.01);
    ink()->choosing().lock(true);
    const Picture locked = page().pictures.at(0);
    EXPECT_TRUE(locked.locked);
    ink()->choosing().move(Affine::shift({10, 0}), "Move");
    ink()->choosing().remove();
    EXPECT_EQ(page().pictures.at(0), locked);
    EXPECT_FALSE(session_->reading().lines.size() > 1);
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_FALSE(page().pictures.at(0).locked);
    session_->pictures().add_picture(QString("/nowhere/at-all.png"), {70, 60});
    session_->wait_idle();
    EXPECT_TRUE(window_->notice()->isVisible());
    EXPECT_EQ(page().pictures.size(), 1U);
}

TEST_F(PagesInWindow, SettingsAreFoundAndTakeEffectAtOnce) {
    start_with_page();
    window_->show_settings();
    auto* dialog = window_->findChild<SettingsDialog*>();
    ASSERT_TRUE(dialog);
    dialog->search()->setText("pressure");
    auto* slider = dialog->findChild<QSlider*>("pressureCurve");
    EXPECT_TRUE(slider->isVisible());
    for (auto* box : dialog->findChildren<QCheckBox*>()) EXPECT_FALSE(box->isVisible()) << box->text().toStdString();
    slider->setValue(slider->maximum());
    dialog->search()->setText("no such thing at all");
    const auto labels = dialog->findChildren<QLabel*>();
    const auto nothing =
        std::ranges::find_if(labels, [](const QLabel* l) { return l->text() == "No matching settings."; });
    ASSERT_NE(nothing, labels.end());
    EXPECT_TRUE((*nothing)->isVisible());
    dialog->search()->clear();
    dialog->close();
    tablet(QEvent::TabletPress, 30, 40, 0.5, QPointingDevice::PointerType::Pen);
    tablet(QEvent::TabletMove, 40, 40, 0.5, QPointingDevice::PointerType::Pen);
    tablet(QEvent::TabletRelease, 40, 40, 0.5, QPointingDevice::PointerType::Pen);
    EXPECT_NEAR(page().strokes.at(0).points[0].pressure, std::pow(0.5, 2.5), 0.01);
    reopen();
    EXPECT_NEAR(window_->spread()->tray()->tools().tablet.pressure_curve, 2.5, 1e-9);
}

TEST_F(PagesInWindow, NumbersThatAreNoneFromATabletAreNotWritten) {
    start_with_page();
    const double nan = std::numeric_limits<double>::quiet_NaN();
    tablet(QEvent::TabletPress, 30, 40, nan, QPointingDevice::PointerType::Pen);
    tablet(QEvent::TabletMove, 40, 40, nan, QPointingDevice::PointerType::Pen);
    tablet(QEvent::TabletRelease, 40, 40, nan, QPointingDevice::PointerType::Pen);
    session_->wait_idle();
    ASSERT_EQ(page().strokes.size(), 1U);
    for (const InkPoint& p : page().strokes[0].points) EXPECT_TRUE(std::isfinite(p.pressure));
    EXPECT_FALSE(window_->notice()->isVisible());
}

// Files can't grow for as long as this stands: what a full disk does to a program.
class FullDisk {
public:
    FullDisk() {
        previous_ = std::signal(SIGXFSZ, SIG_IGN);
        getrlimit(RLIMIT_FSIZE, &limit_);
        rlimit none = limit_;
        none.rlim_cur = 0;
        setrlimit(RLIMIT_FSIZE, &none);
    }
    ~FullDisk() {
        setrlimit(RLIMIT_FSIZE, &limit_);
        std::signal(SIGXFSZ, previous_);
    }

private:
    rlimit limit_{};
    void (*previous_)(int) = nullptr;
};

TEST_F(PagesInWindow, AFullDiskKeepsStrokesInMemoryAndSavesThemWhenThereIsRoom) {
    const PageId id = start_with_page();
    {
        const FullDisk full;
        mouse_stroke({{20, 40}, {60, 40}});
        mouse_stroke({{20, 60}, {60, 60}});
        WAIT_UNTIL(session_->queue().has_unsaved());
        EXPECT_TRUE(window_->notice()->isVisible());
        EXPECT_EQ(page().strokes.size(), 2U);
    }
    WAIT_UNTIL(!session_->queue().has_unsaved());
    session_->wait_idle();
    EXPECT_EQ(session_->library().load_page(id)->strokes.size(), 2U);
    EXPECT_EQ((*session_->library().undo_state(id)).undo, std::optional<std::string>("Write"));
}

TEST_F(PagesInWindow, GoToOtherNotebooksAndCopiesToo) {
    const auto ids = three();
    const NotebookId from = session_->document().notebook().id;
    Notebook other;
    other.title = "Frost watch";
    session_->model().add_notebook(other);
    session_->wait_idle();
    const NotebookId to = session_->document().notebook().id;
    session_->open_page(ids[0]);
    session_->wait_idle();
    session_->model().move_page(ids[1], to, 1);
    session_->model().copy_page(ids[2], to, 99);
    session_->wait_idle();
    EXPECT_EQ(session_->library().pages(from)->size(), 2U);
    const auto there = *session_->library().pages(to);
    ASSERT_EQ(there.size(), 3U);
    EXPECT_EQ(there[0].id, ids[1]);
    EXPECT_EQ(page().info.id, ids[0]) << "what is open stays open";
    EXPECT_EQ(session_->document().pages_in_notebook(), 2);
}

TEST_F(PagesInWindow, APictureBecomesPaperAndANonPictureIsRefused) {
    start_with_page();
    const fs::path file = fs::temp_directory_path() / ("fernleaf paper " + std::to_string(getpid()) + ".png");
    QImage tile(60, 60, QImage::Format_RGB32);
    tile.fill(QColor(200, 220, 180));
    ASSERT_TRUE(tile.save(QString::fromStdString(file.string())));
    std::string kept = "unset";
    QObject::connect(&session_->pictures(), &PictureDesk::picture_kept, session_.get(),
                     [&](const std::string& f) { kept = f; });
    session_->pictures().keep_picture(QString::fromStdString(file.string()));
    session_->wait_idle();
    ASSERT_EQ(kept.size(), 64U);
    Sheet sheet = page().info;
    sheet.paper = Paper::picture, sheet.picture = kept;
    session_->editing().change_sheet(sheet);
    session_->wait_idle();
    WAIT_UNTIL(ink()->grab().toImage().pixelColor(at(100, 150)) == QColor(200, 220, 180));
    reopen();
    EXPECT_EQ(page().info.picture, kept);
    fs::remove(file);

    kept = "unset";
    QObject::connect(&session_->pictures(), &PictureDesk::picture_kept, session_.get(),
                     [&](const std::string& f) { kept = f; });
    session_->pictures().keep_picture("/nowhere/at-all.png");
    session_->wait_idle();
    EXPECT_EQ(kept, "");
    EXPECT_TRUE(window_->notice()->isVisible());
}

TEST_F(PagesInWindow, ThumbnailsAreDrawnWhenAskedForAndStandInUntilNewOnesCome) {
    const auto ids = three();
    PagePictures pictures(session_->library());
    int ready = 0;
    QObject::connect(&pictures, &PagePictures::ready, &pictures, [&] { ++ready; });
    EXPECT_TRUE(pictures.of(ids[0]).isNull());
    EXPECT_TRUE(pictures.of(ids[0]).isNull()) << "asked for once";
    WAIT_UNTIL(ready == 1);
    const QImage blank = pictures.of(ids[0]);
    ASSERT_FALSE(blank.isNull());
    mouse_stroke({{20, 40}, {120, 120}});
    session_->wait_idle();
    pictures.outdated(ids[0]);
    EXPECT_EQ(pictures.of(ids[0]), blank) << "the old one stands in";
    WAIT_UNTIL(pictures.of(ids[0]) != blank);
    pictures.forget();
    EXPECT_TRUE(pictures.of(ids[0]).isNull());
}

TEST_F(PagesInWindow, TypingIsKeptBeforeItsNotebookGoesIntoTheBin) {
    const PageId id = start_with_page();
    window_->spread()->tray()->select(Tool::text);
    QTest::mouseClick(ink(), Qt::LeftButton, {}, at(30, 60));
    QTest::keyClicks(ink()->editor()->viewport(), "not lost");
    session_->model().bin_notebook(session_->document().notebook().id);
    session_->wait_idle();
    EXPECT_FALSE(ink()->editor()->is_open());
    EXPECT_EQ(plain_text(session_->library().load_page(id)->texts.at(0)), "not lost");
}

TEST_F(PagesInWindow, TheBinIsEmptiedForGood) {
    const auto ids = three();
    session_->model().bin_pages({ids[1], ids[2]});
    session_->wait_idle();
    std::vector<Binned> seen;
    QObject::connect(&session_->model(), &LibraryModel::bin_seen, session_.get(),
                     [&](const std::vector<Binned>& things) { seen = things; });
    session_->model().look_into_bin();
    session_->wait_idle();
    EXPECT_EQ(seen.size(), 2U);
    session_->model().empty_bin();
    session_->wait_idle();
    EXPECT_TRUE(seen.empty());
    EXPECT_FALSE(session_->library().load_page(ids[1]));
    EXPECT_EQ(order(), (std::vector{ids[0]}));
}

TEST_F(PagesInWindow, WhatIsNewInTheBinStaysForItsDays) {
    const auto ids = three();
    EXPECT_EQ(LibraryModel::bin_days(), 0) << "until the person says otherwise nothing goes by itself";
    session_->model().bin_pages({ids[1]});
    session_->model().set_bin_days(30);
    session_->wait_idle();
    EXPECT_EQ(session_->library().bin()->size(), 1U);
    reopen();
    session_->wait_idle();
    EXPECT_EQ(session_->library().bin()->size(), 1U);
    EXPECT_EQ(LibraryModel::bin_days(), 30);
}

TEST_F(PagesInWindow, EverySettingReachesItsTool) {
    start_with_page();
    window_->show_settings();
    auto* dialog = window_->findChild<SettingsDialog*>();
    ASSERT_TRUE(dialog);
    const auto choose = [&](const char* name, int index) {
        for (auto* box : dialog->findChildren<QComboBox*>())
            if (box->accessibleName() == name) {
                box->setCurrentIndex(index);
                emit box->activated(index);
                return;
            }
        ADD_FAILURE() << "no choice " << name;
    };
    const auto turn = [&](const char* text, bool on) {
        for (auto* box : dialog->findChildren<QCheckBox*>())
            if (box->text() == text) return box->setChecked(on);
        ADD_FAILURE() << "no switch " << text;
    };
    choose("Pen barrel button", 1);
    choose("The pen's other end", 3);
    choose("The eraser removes", 2);
    choose("Its size", 3);
    turn("Highlighter only", true);
    turn("Then return to the previous tool", true);
    turn("Scribbling over ink erases it", false);
    turn("Pen gestures", false);
    choose("Read handwriting", 2);
    const auto expect_all = [&] {
        const Tools& tools = window_->spread()->tray()->tools();
        EXPECT_EQ(tools.tablet.barrel, ButtonDoes::erases);
        EXPECT_EQ(tools.tablet.eraser_end, ButtonDoes::moves_page);
        EXPECT_EQ(tools.eraser.takes, EraserTakes::word);
        EXPECT_EQ(tools.eraser.size, EraserSize::by_speed);
        EXPECT_TRUE(tools.eraser.highlighter_only);
        EXPECT_TRUE(tools.eraser.then_back);
        EXPECT_FALSE(tools.eraser.scribbles);
        EXPECT_FALSE(tools.gestures);
        EXPECT_EQ(session_->readings().mode(), ReadingMode::off);
    };
    expect_all();
    choose("Colours", 1);
    EXPECT_TRUE(theme().dark);
    dialog->close();
    reopen();
    expect_all();
}

}  // namespace
}  // namespace fernleaf
