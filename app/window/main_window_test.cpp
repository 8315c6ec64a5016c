// The real window, driven by the events that pen, mouse and keyboard send.
#include "window/main_window.h"

#include <QPaintEvent>
#include <QPointingDevice>
#include <QPushButton>
#include <QSettings>
#include <QSignalSpy>
#include <QTabletEvent>
#include <QTest>
#include <fstream>

#include "exchange/inkml.h"
#include "look/theme.h"
#include "wait_until.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class PaintWatch : public QObject {
public:
    qint64 largest = 0;
    bool eventFilter(QObject* object, QEvent* event) override {
        if (event->type() == QEvent::Paint) {
            const QRect box = static_cast<QPaintEvent*>(event)->region().boundingRect();
            largest = std::max<qint64>(largest, qint64{box.width()} * box.height());
        }
        return QObject::eventFilter(object, event);
    }
};

TEST_F(Window, AStrokeOfTheMouseIsOnDiskWhenItEnds) {
    const PageId page = start_with_page();
    mouse_stroke({{30, 40}, {60, 45}});
    session_->wait_idle();
    const auto loaded = session_->library().load_page(page);
    ASSERT_TRUE(loaded);
    ASSERT_EQ(loaded->strokes.size(), 1U);
    EXPECT_NEAR(loaded->strokes[0].points.front().at.x, 30, 0.5);
    EXPECT_NEAR(loaded->strokes[0].points.back().at.y, 45, 0.5);
    EXPECT_GT(loaded->strokes[0].start_ms, 0);
}

TEST_F(Window, ThePenPressesAndItsOtherEndErases) {
    start_with_page();
    using Pointer = QPointingDevice::PointerType;
    tablet(QEvent::TabletPress, 30, 40, 0.2, Pointer::Pen);
    for (int i = 1; i <= 20; ++i) tablet(QEvent::TabletMove, 30 + i, 40, 0.2 + 0.03 * i, Pointer::Pen);
    tablet(QEvent::TabletRelease, 50, 40, 0, Pointer::Pen);
    ASSERT_EQ(session_->page()->strokes.size(), 1U);
    const Stroke stroke = session_->page()->strokes[0];
    EXPECT_NEAR(stroke.points.front().pressure, 0.2, 0.01);
    EXPECT_NEAR(stroke.points[stroke.points.size() - 2].pressure, 0.8, 0.05);
    EXPECT_EQ(stroke.points.front().tilt_x, 12);
    tablet(QEvent::TabletPress, 40, 20, 0.5, Pointer::Eraser);
    tablet(QEvent::TabletMove, 40, 60, 0.5, Pointer::Eraser);
    tablet(QEvent::TabletRelease, 40, 60, 0, Pointer::Eraser);
    EXPECT_TRUE(session_->page()->strokes.empty());
    session_->editing().undo();
    session_->wait_idle();
    ASSERT_EQ(session_->page()->strokes.size(), 1U);
    EXPECT_EQ(session_->page()->strokes[0].id, stroke.id);
}

TEST_F(Window, UndoAndRedoGoAllTheWayAlsoAfterReopening) {
    start_with_page();
    for (int i = 0; i < 5; ++i) mouse_stroke({{30, 40.0 + 10 * i}, {60, 45.0 + 10 * i}});
    session_->wait_idle();
    reopen();
    ASSERT_EQ(session_->page()->strokes.size(), 5U);
    for (int i = 0; i < 6; ++i) {
        QTest::keyClick(window_.get(), Qt::Key_Z, Qt::ControlModifier);
        session_->wait_idle();
    }
    EXPECT_TRUE(session_->page()->strokes.empty());
    EXPECT_FALSE(button("Nothing to undo")->isEnabled());
    for (int i = 0; i < 5; ++i) button("Redo: Write")->click(), session_->wait_idle();
    EXPECT_EQ(session_->page()->strokes.size(), 5U);
}

TEST_F(Window, OnlyThePlaceThatChangesIsRepaintedWhileWriting) {
    start_with_page(Paper::margined);
    mouse_stroke({{20, 30}, {100, 33}});
    session_->wait_idle();
    // All that was to be drawn is: the next event paints what it changes and no more.
    WAIT_UNTIL(ink()->grab().toImage().pixelColor(at(60, 31.5)).lightness() < 100);
    PaintWatch watch;
    ink()->installEventFilter(&watch);
    using Pointer = QPointingDevice::PointerType;
    tablet(QEvent::TabletPress, 30, 60, 0.5, Pointer::Pen);
    QCoreApplication::processEvents();
    watch.largest = 0;
    for (int i = 1; i <= 30; ++i) {
        tablet(QEvent::TabletMove, 30 + i, 60 + i % 3, 0.5, Pointer::Pen);
        QCoreApplication::processEvents();
    }
    EXPECT_GT(watch.largest, 0);
    EXPECT_LT(watch.largest, qint64{ink()->width()} * ink()->height() / 50);
    tablet(QEvent::TabletRelease, 60, 60, 0, Pointer::Pen);
}

TEST_F(Window, TheHintOnAnEmptyPageGoesWithTheFirstTouch) {
    start_with_page();
    PaintWatch watch;
    ink()->installEventFilter(&watch);
    QTest::mousePress(ink(), Qt::LeftButton, {}, at(30, 150));
    WAIT_UNTIL(watch.largest >= qint64{ink()->width()} * ink()->height() / 2);
    QTest::mouseRelease(ink(), Qt::LeftButton, {}, at(30, 150));
}

TEST_F(Window, IsNoLargerThanWhatIsFreeOfTheScreen) {
    start_with_page();
    window_->hide();
    window_->setGeometry(300, 300, 5000, 4000);
    window_->show();
    const QRect free = window_->screen()->availableGeometry();
    WAIT_UNTIL(free.contains(window_->frameGeometry()));
}

TEST_F(Window, ALastingNoticeGivesWayToNothingLess) {
    start_with_page();
    NoticeBar& bar = *window_->notice();
    bar.show_lasting("The disk is full.");
    bar.show_notice("Saved.");
    bar.show_problem("A page could not be read.");
    EXPECT_EQ(bar.text(), "The disk is full.");
    EXPECT_TRUE(bar.isVisible());
    bar.end_lasting();
    bar.show_notice("Saved.");
    EXPECT_EQ(bar.text(), "Saved.");
}

TEST_F(Window, OneKeySetsChosenInkInType) {
    start_with_page();
    write_hill(30, 40);
    session_->wait_idle();
    take(Tool::lasso);
    ink()->choosing().select_all();
    ASSERT_FALSE(ink()->selection().chosen().strokes.empty());
    QTest::keyClick(window_.get(), Qt::Key_T, Qt::ControlModifier);
    WAIT_UNTIL(!session_->page()->texts.empty());
    EXPECT_TRUE(session_->page()->strokes.empty()) << "set in its place";
}

TEST_F(Window, InkShowsWhereItWasWrittenAndGoesWhenErased) {
    start_with_page();
    mouse_stroke({{30, 40}, {60, 40}});
    session_->wait_idle();
    const auto dark = [&] { return ink()->grab().toImage().pixelColor(at(45, 40)).lightness() < 100; };
    WAIT_UNTIL(dark());
    window_->spread()->tray()->select(Tool::eraser);
    mouse_stroke({{45, 30}, {45, 50}});
    WAIT_UNTIL(!dark());
    EXPECT_EQ(session_->document().undo_state().undo, "Erase");
}

TEST_F(Window, ZoomKeepsWhatLiesUnderThePointer) {
    start_with_page();
    mouse_stroke({{60, 80}, {61, 80}});
    session_->wait_idle();
    const QPoint pointer = at(60.5, 80);
    QWheelEvent wheel(pointer, ink()->mapToGlobal(QPointF(pointer)), {}, {0, 240}, {}, Qt::ControlModifier,
                      Qt::NoScrollPhase, false);
    QCoreApplication::sendEvent(ink(), &wheel);
    const auto under_pointer = [&] {
        const QImage image = ink()->grab().toImage();
        bool found = false;
        for (int dy = -3; dy <= 3; ++dy) found |= image.pixelColor(pointer + QPoint(0, dy)).lightness() < 100;
        return found;
    };
    const bool found = wait_until(under_pointer);
    EXPECT_TRUE(found);
    EXPECT_NEAR(session_->page()->strokes[0].points[0].at.x, 60, 0.3) << "zooming moves nothing on the page";
}

TEST_F(Window, WhatIsWrittenStandsInTypeBesideIt) {
    start_with_page();
    write_hill(30, 60);
    session_->wait_idle();
    ASSERT_EQ(session_->reading().lines.size(), 1U);
    EXPECT_EQ(session_->reading().lines[0].text(), "HILL");
    const QRectF word = text()->place_of({0, 0});
    ASSERT_FALSE(word.isNull());
    EXPECT_NEAR(word.center().y(), at(30, 57).y(), 20) << "line beside line";
    EXPECT_TRUE(session_->library().reading(session_->page()->info.id)->lines.size() == 1)
        << "and it is in the library";
}

TEST_F(Window, ChoosingAWordOnEitherLeafShowsItOnBoth) {
    start_with_page();
    write_hill(30, 60);
    session_->wait_idle();
    QTest::mouseClick(text(), Qt::LeftButton, {}, text()->place_of({0, 0}).center().toPoint());
    EXPECT_EQ(text()->chosen(), (ReadPlace{0, 0}));
    EXPECT_TRUE(text()->card()->isVisible());
    QTest::keyClick(text(), Qt::Key_Escape);
    EXPECT_FALSE(text()->card()->isVisible());
    QTest::mouseClick(ink(), Qt::RightButton, {}, at(36, 57));
    EXPECT_EQ(text()->chosen(), (ReadPlace{0, 0}));
    EXPECT_TRUE(text()->card()->isVisible());
    window_->spread()->tray()->select(Tool::choose);
    QTest::mouseClick(ink(), Qt::LeftButton, {}, at(90, 150));
    EXPECT_FALSE(text()->chosen().valid());
    QTest::mouseClick(ink(), Qt::LeftButton, {}, at(36, 57));
    EXPECT_TRUE(text()->chosen().valid());
    EXPECT_EQ(session_->page()->strokes.size(), 6U) << "choosing writes nothing";
}

TEST_F(Window, TypingReplacesAWordAndTheCorrectionOutlastsLaterReading) {
    start_with_page();
    write_hill(30, 60);
    session_->wait_idle();
    QTest::mouseClick(text(), Qt::LeftButton, {}, text()->place_of({0, 0}).center().toPoint());
    QTest::keyClicks(text(), "V");
    EXPECT_TRUE(text()->card()->field()->text() == "V");
    text()->card()->field()->setText("Varga");
    QTest::keyClick(text()->card()->field(), Qt::Key_Return);
    EXPECT_EQ(session_->reading().lines[0].text(), "Varga");
    write_hill(60, 60);
    session_->wait_idle();
    EXPECT_EQ(session_->reading().lines[0].text(), "Varga HILL");
    reopen();
    EXPECT_EQ(session_->reading().lines[0].text(), "Varga HILL");
    EXPECT_TRUE(session_->reading().lines[0].words[0].corrected);
}

TEST_F(Window, TheCardHasRoomForItsAlternativesFromWordToWord) {
    start_with_page();
    write_hill(30, 60);
    write_hill(60, 60);
    session_->wait_idle();
    for (int i = 0; i < 3; ++i) {
        QTest::mouseClick(text(), Qt::LeftButton, {}, text()->place_of({0, i % 2}).center().toPoint());
        const auto buttons = text()->card()->findChildren<QPushButton*>();
        int shown = 0;
        for (const QPushButton* b : buttons) shown += b->isVisible() && b->accessibleName().startsWith("Take");
        EXPECT_EQ(shown, static_cast<int>(std::min<size_t>(6, session_->word({0, i % 2})->alternatives.size())));
        EXPECT_GE(text()->card()->height(), 90 + 30 * shown);
    }
}

TEST_F(Window, OneKeyTakesAnAlternative) {
    start_with_page();
    write_hill(30, 60);
    session_->wait_idle();
    ASSERT_FALSE(session_->word({0, 0})->alternatives.empty());
    const std::string other = session_->word({0, 0})->alternatives[0].text;
    QTest::mouseClick(text(), Qt::LeftButton, {}, text()->place_of({0, 0}).center().toPoint());
    QTest::keyClick(text(), Qt::Key_1);
    EXPECT_EQ(session_->word({0, 0})->text, other);
    EXPECT_EQ(session_->word({0, 0})->alternatives[0].text, "HILL") << "what was read is still there";
    EXPECT_EQ(session_->word({0, 0})->certainty, 1);
}

TEST_F(Window, FindingOutlinesTheWordsOnTheInk) {
    start_with_page();
    write_hill(30, 60);
    session_->wait_idle();
    session_->model().add_page();
    session_->wait_idle();
    EXPECT_EQ(session_->page()->info.number, 2);
    QTest::keyClicks(window_->notebook_list()->find_field(), "hil");
    const NotebookModel& model = window_->notebook_list()->model();
    // Notebook, page, hit.
    WAIT_UNTIL(model.rowCount() == 3 && model.kind_at(model.index(2)) == NotebookModel::Kind::hit);
    session_->wait_idle();
    EXPECT_EQ(model.data(model.index(0), NotebookModel::count).toInt(), 1);
    QTest::keyClick(window_->notebook_list()->find_field(), Qt::Key_Return);
    session_->wait_idle();
    EXPECT_EQ(session_->page()->info.number, 1);
    const auto straw = [&] {  // on the word, between the letters
        const QColor wash = ink()->grab().toImage().pixelColor(at(38, 58));
        return wash.red() - wash.blue() > 40;
    };
    WAIT_UNTIL(straw());
    QTest::keyClick(window_->notebook_list()->find_field(), Qt::Key_Escape);
    EXPECT_GT(model.rowCount(), 2);
    QTest::keyClicks(window_->notebook_list()->find_field(), "zebra");
    WAIT_UNTIL(model.rowCount() == 0);
    session_->wait_idle();
    EXPECT_FALSE(window_->notebook_list()->list()->isVisible()) << "a sentence stands there instead";
}

TEST_F(Window, ImportsOpenTheirFirstPageAndTheBadAreNamed) {
    start_with_page();
    Page page;
    page.strokes = {test_stroke(20, 30)};
    const fs::path good = library_.directory / "walk.inkml";
    std::ofstream(good) << write_inkml({page, page});
    const QString bad =
        QString::fromStdString((fs::path(FERNLEAF_SOURCE_DIR) / "tests" / "broken" / "inkml" / "nan.inkml").string());
    session_->transfers().import_files({bad, QString::fromStdString(good.string())},
                                       session_->document().notebook().id);
    session_->wait_idle();
    EXPECT_EQ(session_->document().pages_in_notebook(), 3);
    EXPECT_EQ(session_->page()->info.number, 2);
    EXPECT_TRUE(window_->notice()->isVisible());
    EXPECT_TRUE(window_->notice()->text().contains("nan.inkml")) << window_->notice()->text().toStdString();
}

TEST_F(Window, ExportsWriteTheNotebookAndSaySo) {
    start_with_page();
    write_hill(30, 60);
    const fs::path to = library_.directory / "aus der Mühle.txt";
    session_->wait_idle();
    session_->transfers().export_notebook(QString::fromStdString(to.string()));
    session_->wait_idle();
    std::ifstream in(to);
    EXPECT_EQ(std::string(std::istreambuf_iterator<char>(in), {}), "HILL\n");
    EXPECT_TRUE(window_->notice()->text().startsWith("Exported")) << window_->notice()->text().toStdString();
}

TEST_F(Window, AnEmptyLibraryShowsTheWayToTheFirstNotebook) {
    open();
    EXPECT_TRUE(window_->showing_welcome());
    Notebook notebook;
    notebook.title = "Frost watch";
    session_->model().add_notebook(notebook);
    session_->wait_idle();
    EXPECT_FALSE(window_->showing_welcome());
    ASSERT_TRUE(session_->page());
    EXPECT_EQ(window_->notebook_list()->model().rowCount(), 2);
}

TEST_F(Window, OpensWhereItWasLeft) {
    start_with_page();
    session_->model().add_page();
    session_->wait_idle();
    window_->show_leaves(Shown::text);
    reopen();
    EXPECT_EQ(session_->page()->info.number, 2);
    EXPECT_EQ(window_->spread()->shown(), Shown::text);
    QTest::keyClick(window_.get(), Qt::Key_PageUp);
    session_->wait_idle();
    EXPECT_EQ(session_->page()->info.number, 1);
}

TEST_F(Window, WithoutTheReadersDataOneStillWrites) {
    Notebook notebook;
    notebook.title = "Grafting trials";
    (void)*library_->add_page(*library_->add_notebook(notebook), {});
    open(library_.directory / "nowhere");
    EXPECT_TRUE(window_->notice()->text().contains("can't be read")) << window_->notice()->text().toStdString();
    mouse_stroke({{30, 40}, {60, 45}});
    session_->wait_idle();
    EXPECT_EQ(session_->library().load_page(session_->page()->info.id)->strokes.size(), 1U);
}

TEST_F(Window, ALibraryInUseElsewhereIsShownAndNotWrittenTo) {
    const PageId page = library_.page();
    const auto other = std::move(library_.library);
    auto second = Library::open(library_.directory);
    ASSERT_TRUE(second);
    library_.library = *std::move(second);
    open();
    EXPECT_TRUE(window_->notice()->text().contains("in use")) << window_->notice()->text().toStdString();
    mouse_stroke({{30, 40}, {60, 45}});
    session_->wait_idle();
    EXPECT_TRUE(session_->page()->strokes.empty());
    EXPECT_TRUE(other->load_page(page)->strokes.empty());
    close();
}

TEST_F(Window, ResizingAndTheDarkSchemeMoveNothingOnThePage) {
    start_with_page(Paper::margined);
    write_hill(30, 60);
    session_->wait_idle();
    const auto before = session_->page()->strokes;
    window_->resize(900, 560);
    QTest::keyClick(window_.get(), Qt::Key_F9);
    EXPECT_TRUE(theme().dark);
    QTest::keyClick(window_.get(), Qt::Key_F5);
    EXPECT_FALSE(text()->isVisible());
    session_->wait_idle();
    EXPECT_EQ(session_->page()->strokes, before);
    QTest::keyClick(window_.get(), Qt::Key_F9);
}

}  // namespace
}  // namespace fernleaf
