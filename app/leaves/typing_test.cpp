// Typing on the page, setting ink in type and back, and making room, in the real window.
#include <QClipboard>
#include <QDoubleSpinBox>
#include <QMenu>
#include <fstream>

#include "document/elements.h"
#include "render/text_look.h"
#include "wait_until.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class Typing : public Window {
protected:
    const Page& page() { return *session_->page(); }
    TextEditor* editor() { return ink()->editor(); }
    TextBar* bar() { return window_->spread()->text_bar(); }
    void click(double x, double y) { QTest::mouseClick(ink(), Qt::LeftButton, {}, at(x, y)); }
    void type(const QString& text) { QTest::keyClicks(editor()->viewport(), text); }
    QAction* action(const QString& begin) {
        for (auto* a : window_->findChildren<QAction*>())
            if (a->text().startsWith(begin)) return a;
        ADD_FAILURE() << "no action " << begin.toStdString();
        return nullptr;
    }
    std::string said() {
        std::string out;
        for (const ReadLine& line : session_->reading().lines) out += line.text() + '\n';
        return out;
    }
};

TEST_F(Typing, WhatIsTypedStandsOnThePageAndIsFound) {
    const PageId id = start_with_page();
    write_text(30, 60, "frost at dawn");
    ASSERT_EQ(page().texts.size(), 1U);
    EXPECT_EQ(plain_text(page().texts[0]), "frost at dawn");
    EXPECT_NEAR(page().texts[0].at.x, 30, 1);
    EXPECT_EQ(said(), "frost at dawn\n");
    EXPECT_EQ(session_->library().load_page(id)->texts, page().texts);
    EXPECT_EQ(session_->library().find(*parse_query("dawn"))->size(), 1U);
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_TRUE(page().texts.empty());
    EXPECT_EQ(said(), "");
}

TEST_F(Typing, AClickOnTypeGoesOnWritingItAndAnEmptyBlockIsNone) {
    start_with_page();
    write_text(30, 60, "frost");
    click(32, 60);
    ASSERT_TRUE(editor()->is_open());
    QTest::keyClick(editor()->viewport(), Qt::Key_End);
    type(" tonight");
    click(30, 150);  // elsewhere: this one is done, another begins
    EXPECT_EQ(plain_text(page().texts.at(0)), "frost tonight");
    QTest::keyClick(editor(), Qt::Key_Escape);
    EXPECT_EQ(page().texts.size(), 1U) << "nothing was typed there";
    click(32, 60);
    QTest::keyClick(editor()->viewport(), Qt::Key_A, Qt::ControlModifier);
    QTest::keyClick(editor()->viewport(), Qt::Key_Delete);
    QTest::keyClick(editor(), Qt::Key_Escape);
    EXPECT_TRUE(page().texts.empty());
}

TEST_F(Typing, APauseKeepsWhatIsTypedSoThatAKillLosesLittle) {
    const PageId id = start_with_page();
    take(Tool::text);
    click(30, 60);
    type("half a thought");
    WAIT_UNTIL(!page().texts.empty());
    EXPECT_TRUE(editor()->is_open());
    session_->wait_idle();
    EXPECT_EQ(plain_text(session_->library().load_page(id)->texts.at(0)), "half a thought");
    type(", whole");
    QTest::keyClick(editor(), Qt::Key_Escape);
    EXPECT_EQ(page().texts.size(), 1U);
    EXPECT_EQ(plain_text(page().texts[0]), "half a thought, whole");
}

TEST_F(Typing, TheBarSetsStyleListAndHeading) {
    start_with_page();
    take(Tool::text);
    click(30, 60);
    EXPECT_TRUE(bar()->isVisible());
    EXPECT_EQ(ink()->rect().united(bar()->geometry()), ink()->rect());
    type("wax");
    QTest::keyClick(editor()->viewport(), Qt::Key_A, Qt::ControlModifier);
    QTest::keyClick(editor(), Qt::Key_B, Qt::ControlModifier);
    QTest::keyClick(editor(), Qt::Key_U, Qt::ControlModifier);
    bar()->findChild<QDoubleSpinBox*>()->setValue(24);
    editor()->set_list_kind(ListKind::check);
    editor()->set_align(Align::right);
    editor()->set_paragraph_heading(2);
    QTest::keyClick(editor(), Qt::Key_Escape);
    EXPECT_FALSE(bar()->isVisible());
    const Paragraph p = page().texts.at(0).paragraphs.at(0);
    EXPECT_TRUE(p.runs.at(0).style.bold);
    EXPECT_TRUE(p.runs.at(0).style.underline);
    EXPECT_FALSE(p.runs.at(0).style.italic);
    EXPECT_NEAR(p.runs.at(0).style.size_mm, 24 * 25.4 / 72, 0.01);
    EXPECT_EQ(p.list, ListKind::check);
    EXPECT_EQ(p.align, Align::right);
    EXPECT_EQ(p.heading, 2);
}

TEST_F(Typing, ATypedWordIsCorrectedOnTheTextLeaf) {
    start_with_page();
    write_text(30, 60, "frost at down");
    session_->correcting().correct({0, 2}, "dawn");
    session_->wait_idle();
    EXPECT_EQ(plain_text(page().texts.at(0)), "frost at dawn");
    EXPECT_EQ(said(), "frost at dawn\n");
}

TEST_F(Typing, TypeIsMovedTurnedCopiedAndDeletedWithTheLasso) {
    start_with_page();
    write_text(30, 60, "frost");
    take(Tool::lasso);
    click(32, 60);
    ASSERT_EQ(ink()->selection().chosen().texts.size(), 1U);
    ink()->setFocus();
    QTest::keyClick(ink(), Qt::Key_Down, Qt::ShiftModifier);
    EXPECT_NEAR(page().texts.at(0).words.at(0).box.centre().y, 65, 1.5) << "its words are found where they are now";
    ink()->choosing().copy();
    EXPECT_EQ(QGuiApplication::clipboard()->text(), "frost");
    ink()->choosing().remove();
    EXPECT_TRUE(page().texts.empty());
    ink()->choosing().paste();
    session_->wait_idle();
    ASSERT_EQ(page().texts.size(), 1U);
    EXPECT_EQ(plain_text(page().texts[0]), "frost");
    EXPECT_EQ(ink()->selection().chosen().texts.size(), 1U);
}

TEST_F(Typing, TextFromElsewhereIsPastedAsType) {
    start_with_page();
    QGuiApplication::clipboard()->setText("twelve sticks\nof scion wood");
    ink()->choosing().paste();
    session_->wait_idle();
    EXPECT_EQ(plain_text(page().texts.at(0)), "twelve sticks\nof scion wood");
}

TEST_F(Typing, InkIsSetInTypeWhereItStandsAndGoesBackToInk) {
    const PageId id = start_with_page();
    write_hill(20, 40);
    session_->wait_idle();
    const auto ink_before = session_->library().load_page(id)->strokes;
    const std::string read = said();
    session_->typesetting().set_in_type({});
    session_->wait_idle();
    ASSERT_EQ(page().texts.size(), 1U);
    EXPECT_TRUE(page().strokes.empty());
    EXPECT_EQ(said(), read) << "the page says the same";
    EXPECT_NEAR(page().texts[0].words.at(0).box.centre().y, 37, 0.5);
    EXPECT_NEAR(page().texts[0].at.x, 20, 1);
    reopen();
    session_->typesetting().back_to_ink({});
    session_->wait_idle();
    EXPECT_EQ(page().strokes, ink_before);
    EXPECT_TRUE(page().texts.empty());
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(session_->library().load_page(id)->texts.size(), 1U);
}

TEST_F(Typing, ABlockThatWasMovedGivesItsInkBackWhereItIs) {
    start_with_page();
    write_hill(20, 40);
    session_->wait_idle();
    session_->correcting().correct({0, 0}, "Hallow");
    session_->wait_idle();
    Box before;
    for (const Stroke& s : page().strokes) before.include(s.box());
    session_->typesetting().set_in_type({});
    session_->wait_idle();
    take(Tool::lasso);
    ink()->choosing().select_all();
    ink()->choosing().move(Affine::shift({30, 50}), "Move");
    session_->wait_idle();
    session_->typesetting().back_to_ink({});
    session_->wait_idle();
    ASSERT_EQ(page().strokes.size(), 6U);
    Box after;
    for (const Stroke& s : page().strokes) after.include(s.box());
    EXPECT_NEAR(after.left, before.left + 30, 0.1);
    EXPECT_NEAR(after.top, before.top + 50, 0.1);
    EXPECT_EQ(said(), "Hallow\n") << "what was said of it came along";
    for (int i = 0; i < 3; ++i) session_->editing().undo();
    session_->wait_idle();
    Box again;
    for (const Stroke& s : page().strokes) again.include(s.box());
    EXPECT_NEAR(again.left, before.left, 0.01);
    EXPECT_NEAR(again.bottom, before.bottom, 0.01);
}

TEST_F(Typing, WordsOfLowCertaintyStayMarkedInTypeUntilTheyAreLookedAt) {
    start_with_page();
    TextBlock block;
    block.id = session_->editing().new_id();
    block.at = {20, 40};
    TextStyle unsure;
    unsure.unsure = true;
    block.paragraphs = {{{{"late ", {}}, {"frest", unsure}}}};
    lay_out(block);
    session_->editing().change({"Set in type", {{}, {}, {block}}});
    session_->wait_idle();
    ASSERT_EQ(session_->reading().lines.size(), 1U);
    EXPECT_LT(session_->reading().lines[0].words[1].certainty, kSureEnough);
    QTest::keyClick(window_.get(), Qt::Key_F8);
    EXPECT_EQ(text()->chosen(), (ReadPlace{0, 1}));
    session_->correcting().correct({0, 1}, "frost");
    session_->wait_idle();
    EXPECT_EQ(said(), "late frost\n");
    EXPECT_EQ(session_->reading().lines[0].words[1].certainty, 1);
}

TEST_F(Typing, AChosenWordIsSetByItselfBesideOrOnTheClipboard) {
    start_with_page();
    write_hill(20, 40);
    session_->wait_idle();
    const std::string read = said();
    take(Tool::lasso);
    ink()->choosing().select_all();
    ink()->choosing().set_in_type(TypePlace::clipboard);
    session_->wait_idle();
    EXPECT_EQ(QGuiApplication::clipboard()->text().toStdString() + '\n', read);
    EXPECT_TRUE(page().texts.empty());
    ink()->choosing().set_in_type(TypePlace::beside);
    session_->wait_idle();
    ASSERT_EQ(page().texts.size(), 1U);
    EXPECT_EQ(page().strokes.size(), 6U) << "the ink stays";
    EXPECT_GT(page().texts[0].at.x, 37);
}

TEST_F(Typing, EditedTypeIsOfferedAgainWhenItsInkIsSetOnceMore) {
    start_with_page();
    write_hill(20, 40);
    session_->wait_idle();
    session_->typesetting().set_in_type({});
    session_->wait_idle();
    session_->correcting().correct({0, 0}, "Hallow Hill");
    session_->wait_idle();
    session_->typesetting().back_to_ink({});
    session_->wait_idle();
    const QString read = QString::fromStdString(said()).trimmed();
    QString edited, fresh;
    QObject::connect(&session_->typesetting(), &TypesettingDesk::choice_needed, session_.get(),
                     [&](const QString& a, const QString& b) { edited = a, fresh = b; });
    session_->typesetting().set_in_type({});
    session_->wait_idle();
    EXPECT_EQ(edited, "Hallow Hill");
    EXPECT_EQ(fresh, read);
    EXPECT_TRUE(page().texts.empty()) << "nothing is set before the person chose";
    auto* menu = window_->findChild<QMenu*>("typeChoice");
    ASSERT_TRUE(menu);
    menu->hide();
    session_->typesetting().choose(true);
    session_->wait_idle();
    EXPECT_EQ(plain_text(page().texts.at(0)), "Hallow Hill");
    EXPECT_TRUE(page().strokes.empty());
}

TEST_F(Typing, ANotebookIsSetInTypePageByPage) {
    const PageId first = start_with_page();
    write_hill(20, 40);
    session_->wait_idle();
    session_->model().add_page();
    session_->wait_idle();
    write_hill(20, 80);
    session_->wait_idle();
    session_->typesetting().set_notebook_in_type();
    session_->wait_idle();
    EXPECT_EQ(page().texts.size(), 1U);
    EXPECT_TRUE(page().strokes.empty());
    EXPECT_EQ(session_->library().load_page(first)->texts.size(), 1U);
    EXPECT_TRUE(session_->library().load_page(first)->strokes.empty());
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(page().strokes.size(), 6U);
    EXPECT_EQ(session_->library().load_page(first)->texts.size(), 1U) << "one page at a time";
}

TEST_F(Typing, RoomIsMadeBelowAPlaceAndClosedAgain) {
    start_with_page();
    write_hill(20, 40);
    write_hill(20, 60);
    session_->wait_idle();
    take(Tool::room);
    const auto low = [&] {
        Box box;
        for (const Stroke& s : page().strokes)
            if (s.box().top > 38) box.include(s.box());
        return box;
    };
    const double before = low().top;
    mouse_stroke({{80, 48}, {80, 68}});
    EXPECT_NEAR(low().top, before + 20, 0.6);
    EXPECT_EQ(page().strokes.size(), 12U);
    session_->wait_idle();
    mouse_stroke({{80, 60}, {80, 5}});
    EXPECT_GT(low().top, 41);
    EXPECT_LT(low().top, before) << "closed up to what stays";
    session_->editing().undo();
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_NEAR(low().top, before, 0.01);
}

TEST_F(Typing, ATypedPageSpeaksOfNothingToSetInType) {
    start_with_page();
    write_text(30, 60, "typed");
    session_->typesetting().set_in_type({});
    session_->wait_idle();
    EXPECT_TRUE(window_->notice()->isVisible());
    EXPECT_EQ(page().texts.size(), 1U);
}

TEST_F(Typing, ReadingPausedOrOffReadsNothingUntilItIsAsked) {
    start_with_page();
    session_->readings().set_mode(ReadingMode::off);
    write_hill(20, 40);
    session_->wait_idle();
    EXPECT_EQ(said(), "");
    session_->readings().read_now();
    session_->wait_idle();
    EXPECT_NE(said(), "");
    const std::string once = said();
    write_hill(20, 60);
    session_->wait_idle();
    EXPECT_EQ(said(), once);
    session_->readings().set_mode(ReadingMode::on);
    session_->wait_idle();
    EXPECT_GT(said().size(), once.size());
    session_->readings().set_mode(ReadingMode::paused);
    reopen();
    EXPECT_EQ(session_->readings().mode(), ReadingMode::paused) << "kept";
}

TEST_F(Typing, WordsAreJoinedAndSplitOnTheTextLeafAndStaySo) {
    start_with_page();
    write_hill(20, 40);
    write_hill(52, 40);
    session_->wait_idle();
    ASSERT_EQ(session_->reading().lines.size(), 1U);
    ASSERT_EQ(session_->reading().lines[0].words.size(), 2U);
    const std::string apart = said();
    text()->set_chosen({0, 0});
    text()->setFocus();
    QTest::keyClick(text(), Qt::Key_J, Qt::ControlModifier);
    session_->wait_idle();
    ASSERT_EQ(session_->reading().lines[0].words.size(), 1U);
    EXPECT_EQ(session_->reading().lines[0].words[0].strokes.size(), 12U);
    reopen();
    ASSERT_EQ(session_->reading().lines[0].words.size(), 1U);
    text()->set_chosen({0, 0});
    text()->setFocus();
    QTest::keyClick(text(), Qt::Key_J, Qt::ControlModifier | Qt::ShiftModifier);
    session_->wait_idle();
    EXPECT_EQ(said(), apart);
    EXPECT_EQ(session_->reading().lines[0].words.at(1).strokes.size(), 6U);
    session_->readings().read_now();
    session_->wait_idle();
    EXPECT_EQ(said(), apart) << "a later reading keeps it";
}

TEST_F(Typing, InkIsSaidToBeADrawingAndIsReadNoMore) {
    start_with_page();
    write_hill(20, 40);
    session_->wait_idle();
    const std::string read = said();
    std::vector<StrokeId> ids;
    for (const Stroke& s : page().strokes) ids.push_back(s.id);
    session_->correcting().say_kind(ids, InkClass::drawing);
    session_->wait_idle();
    ASSERT_EQ(session_->reading().lines.size(), 1U);
    EXPECT_EQ(session_->reading().lines[0].kind, RegionKind::drawing);
    reopen();
    EXPECT_EQ(session_->reading().lines.at(0).kind, RegionKind::drawing);
    session_->correcting().say_kind(ids, InkClass::text);
    session_->wait_idle();
    EXPECT_EQ(said(), read);
}

TEST_F(Typing, CheckingGoesOnOverTheNotebooksPages) {
    const PageId first = start_with_page();
    session_->readings().set_mode(ReadingMode::off);  // the readings are those given here
    session_->model().add_page();
    session_->wait_idle();
    const PageId second = page().info.id;
    Reading unsure = test_reading({{"sure", "sore"}, {"scion", "scone"}});
    unsure.lines[0].words[1].certainty = 0.3;
    const auto keep = [&](PageId id) {
        ASSERT_TRUE(const_cast<Library&>(session_->library()).save_reading(id, unsure));
    };
    keep(first), keep(second);
    session_->open_page(first);
    session_->wait_idle();
    QTest::keyClick(window_.get(), Qt::Key_F8);
    session_->wait_idle();
    EXPECT_EQ(page().info.id, first);
    EXPECT_EQ(text()->chosen(), (ReadPlace{0, 1}));
    QTest::keyClick(window_.get(), Qt::Key_F8);
    session_->wait_idle();
    EXPECT_EQ(page().info.id, second);
    EXPECT_EQ(text()->chosen(), (ReadPlace{0, 1}));
    session_->correcting().correct({0, 1}, "scion");
    session_->wait_idle();
    QTest::keyClick(window_.get(), Qt::Key_F8);
    session_->wait_idle();
    EXPECT_EQ(page().info.id, first);
}

TEST_F(Typing, GoingToAnotherPageFinishesTheTextOnThisOne) {
    const PageId first = start_with_page();
    take(Tool::text);
    click(30, 60);
    type("left in haste");
    session_->model().add_page();
    session_->wait_idle();
    EXPECT_NE(page().info.id, first);
    EXPECT_TRUE(page().texts.empty());
    EXPECT_FALSE(editor()->is_open());
    EXPECT_EQ(plain_text(session_->library().load_page(first)->texts.at(0)), "left in haste");
}

TEST_F(Typing, IsKeptThoughNoPauseIsMade) {
    const PageId id = start_with_page();
    take(Tool::text);
    click(30, 60);
    const auto on_disk = [&] { return !session_->library().load_page(id)->texts.empty(); };
    // Key upon key: no pause is long enough to be one.
    WAIT_UNTIL((type("a"), on_disk()));
    EXPECT_TRUE(editor()->is_open());
}

TEST_F(Typing, IsKeptWhenTheWindowGoesWithoutBeingClosed) {
    const PageId id = start_with_page();
    take(Tool::text);
    click(30, 60);
    type("until the end");
    window_.reset();
    session_->wait_idle();
    EXPECT_EQ(plain_text(session_->library().load_page(id)->texts.at(0)), "until the end");
}

TEST_F(Typing, IsKeptWhenTheFocusGoesElsewhere) {
    start_with_page();
    take(Tool::text);
    click(30, 60);
    type("half a thought");
    EXPECT_TRUE(page().texts.empty());
    window_->notebook_list()->find_field()->setFocus();
    EXPECT_EQ(page().texts.size(), 1U);
}

TEST_F(Typing, UndoUnderAnOpenEditorClosesIt) {
    start_with_page();
    take(Tool::text);
    click(30, 60);
    type("one");
    WAIT_UNTIL(!page().texts.empty());
    ASSERT_TRUE(editor()->is_open());
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_FALSE(editor()->is_open());
    EXPECT_FALSE(bar()->isVisible());
    EXPECT_TRUE(page().texts.empty());
    session_->editing().redo();
    session_->wait_idle();
    EXPECT_EQ(page().texts.size(), 1U);
}

TEST_F(Typing, AStrokeWrittenWhileThePageIsLoadedAgainStaysOnIt) {
    const PageId id = start_with_page();
    session_->open_page(id);
    mouse_stroke({{20, 40}, {60, 40}});
    session_->wait_idle();
    EXPECT_EQ(page().strokes.size(), 1U);
}

TEST_F(Typing, EnterOnAnEmptyItemEndsItsList) {
    start_with_page();
    take(Tool::text);
    click(30, 60);
    editor()->set_list_kind(ListKind::bullet);
    type("saw");
    QTest::keyClick(editor(), Qt::Key_Return);
    EXPECT_EQ(editor()->list(), ListKind::bullet);
    QTest::keyClick(editor(), Qt::Key_Return);
    EXPECT_EQ(editor()->list(), ListKind::none);
    type("done");
    QTest::keyClick(editor(), Qt::Key_Escape);
    const auto& paragraphs = page().texts.at(0).paragraphs;
    ASSERT_EQ(paragraphs.size(), 2U);
    EXPECT_EQ(paragraphs[0].list, ListKind::bullet);
    EXPECT_EQ(paragraphs[1].list, ListKind::none);
}

TEST_F(Typing, AChangeOfStyleKeepsWhatItDoesNotSpeakOf) {
    start_with_page();
    take(Tool::text);
    click(30, 60);
    type("thin ");
    editor()->change_style([](TextStyle& s) { s.italic = true, s.colour = 0x8A3B6B; });
    type("plum");
    QTest::keyClick(editor()->viewport(), Qt::Key_A, Qt::ControlModifier);
    editor()->change_style([](TextStyle& s) { s.size_mm = 8; });
    QTest::keyClick(editor(), Qt::Key_Escape);
    const auto& runs = page().texts.at(0).paragraphs.at(0).runs;
    ASSERT_EQ(runs.size(), 2U);
    EXPECT_EQ(runs[0].text, "thin ");
    EXPECT_FALSE(runs[0].style.italic);
    EXPECT_TRUE(runs[1].style.italic);
    EXPECT_EQ(runs[1].style.colour, 0x8A3B6BU);
    for (const TextRun& run : runs) EXPECT_EQ(run.style.size_mm, 8);
}

TEST_F(Typing, ATurnedBlockIsWrittenOnWhereItLies) {
    start_with_page();
    write_text(60, 100, "frost");
    take(Tool::lasso);
    click(62, 100);
    ink()->choosing().move(Affine::turn(1.5707963, {70, 100}), "Move");
    ink()->choosing().clear();
    const Point middle = page().texts.at(0).box().centre();
    take(Tool::text);
    click(middle.x, middle.y);
    ASSERT_TRUE(editor()->is_open());
    QTest::keyClick(editor()->viewport(), Qt::Key_End, Qt::ControlModifier);
    type("y");
    QTest::keyClick(editor(), Qt::Key_Escape);
    ASSERT_EQ(page().texts.size(), 1U);
    EXPECT_EQ(plain_text(page().texts[0]), "frosty");
    EXPECT_NEAR(page().texts[0].angle, 90, 0.01);
}

TEST_F(Typing, AColourBehindTheTextIsKept) {
    start_with_page();
    take(Tool::text);
    click(30, 60);
    type("label");
    editor()->set_fill(0xEBCB6B);
    QTest::keyClick(editor(), Qt::Key_Escape);
    EXPECT_EQ(page().texts.at(0).fill, std::optional(0xEBCB6BU));
    const QImage shown = ink()->grab().toImage();
    EXPECT_EQ(shown.pixelColor(at(29.5, 60)), QColor(0xEB, 0xCB, 0x6B));
}

TEST_F(Typing, UsefulFindsAreOfferedOnTheirWordsCard) {
    start_with_page();
    write_text(20, 60, "Mirela Stan 555-0142");
    write_text(20, 80, "see www.example.org");
    const auto shown = [&](const QString& name) {
        for (auto* b : text()->card()->findChildren<QPushButton*>())
            if (b->text() == name) return b->isVisible();
        return false;
    };
    text()->set_chosen({0, 0});
    EXPECT_FALSE(shown("Copy")) << "a name is just a name";
    text()->set_chosen({0, 2});
    EXPECT_TRUE(shown("As contact …"));
    EXPECT_FALSE(shown("Open"));
    for (auto* b : text()->card()->findChildren<QPushButton*>())
        if (b->text() == "Copy") b->click();
    EXPECT_EQ(QGuiApplication::clipboard()->text(), "555-0142");
    text()->set_chosen({1, 1});
    EXPECT_TRUE(shown("Open"));
    EXPECT_FALSE(shown("As contact …"));
}

TEST_F(Typing, WhatIsSavedIsWrittenWholeOrTheReasonIsSaid) {
    start_with_page();
    const fs::path file = fs::temp_directory_path() / ("fernleaf card " + std::to_string(getpid()) + ".vcf");
    session_->transfers().save_file(QString::fromStdString(file.string()), "BEGIN:VCARD\r\n");
    session_->wait_idle();
    std::ifstream in(file, std::ios::binary);
    EXPECT_EQ(std::string(std::istreambuf_iterator<char>(in), {}), "BEGIN:VCARD\r\n");
    fs::remove(file);
    session_->transfers().save_file("/nowhere/at/all.vcf", "x");
    session_->wait_idle();
    EXPECT_TRUE(window_->notice()->isVisible());
    EXPECT_TRUE(window_->notice()->text().contains("/nowhere/at/all.vcf"));
}

TEST_F(Typing, AStrokeAtNoPlaceIsRefusedAndWhatFollowsIsKept) {
    const PageId id = start_with_page();
    Stroke nowhere;
    nowhere.points = {{{std::numeric_limits<double>::quiet_NaN(), 3}}};
    session_->editing().write(nowhere);
    EXPECT_TRUE(page().strokes.empty());
    EXPECT_TRUE(window_->notice()->isVisible());
    mouse_stroke({{20, 40}, {60, 40}});
    session_->wait_idle();
    EXPECT_FALSE(session_->queue().has_unsaved());
    EXPECT_EQ(session_->library().load_page(id)->strokes.size(), 1U);
}

TEST_F(Typing, RoomThatPushesLinesOffThePageMakesThemANewOneAndUndoTakesItBack) {
    const PageId id = start_with_page();
    write_hill(20, 100);
    write_hill(20, 200);
    session_->wait_idle();
    take(Tool::room);
    mouse_stroke({{80, 60}, {80, 85}});
    session_->wait_idle();
    EXPECT_EQ(page().strokes.size(), 6U);
    EXPECT_EQ(session_->document().pages_in_notebook(), 2);
    const auto pages = *session_->library().pages(session_->document().notebook().id);
    ASSERT_EQ(pages.size(), 2U);
    EXPECT_EQ(session_->library().load_page(pages[1].id)->strokes.size(), 6U);
    EXPECT_FALSE(session_->library().reading(pages[1].id)->lines.empty()) << "it is read, too";
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(page().info.id, id);
    EXPECT_EQ(page().strokes.size(), 12U);
    EXPECT_EQ(session_->document().pages_in_notebook(), 1);
    session_->editing().redo();
    session_->wait_idle();
    EXPECT_EQ(session_->library().pages(session_->document().notebook().id)->size(), 2U);
}

TEST_F(Typing, ExportsHoldTypedTextWithItsListSigns) {
    start_with_page();
    take(Tool::text);
    click(30, 60);
    editor()->set_list_kind(ListKind::check);
    type("order wax");
    QTest::keyClick(editor(), Qt::Key_Escape);
    session_->wait_idle();
    const fs::path file = fs::temp_directory_path() / ("fernleaf list " + std::to_string(getpid()) + ".txt");
    session_->transfers().export_notebook(QString::fromStdString(file.string()));
    session_->wait_idle();
    std::ifstream in(file);
    EXPECT_EQ(std::string(std::istreambuf_iterator<char>(in), {}), "☐ order wax\n");
    fs::remove(file);
}

TEST_F(Typing, APenThatSetsInTypeDoesSoWhenItPauses) {
    const PageId id = start_with_page();
    Tools tools = Tools::usual();
    tools.pens[0].sets_in_type = true;
    window_->spread()->tray()->set_tools(tools);
    write_hill(40, 60);
    WAIT_UNTIL(!page().texts.empty());
    EXPECT_EQ(plain_text(page().texts[0]), "HILL");
    EXPECT_TRUE(page().strokes.empty());
    EXPECT_EQ(page().texts[0].ink.size(), 6U) << "its ink is kept behind it";
    // With another pen ink stays ink, and so does what is no writing.
    tools.pens[0].sets_in_type = false;
    window_->spread()->tray()->set_tools(tools);
    write_hill(40, 90);
    session_->wait_idle();
    tools.pens[0].sets_in_type = true;
    window_->spread()->tray()->set_tools(tools);
    mouse_stroke({{40, 120}, {90, 120}, {90, 150}, {40, 150}, {40, 120}});
    write_hill(120, 60);
    WAIT_UNTIL(page().texts.size() == 2);
    EXPECT_EQ(page().strokes.size(), 7U);
    session_->wait_idle();
    session_->typesetting().back_to_ink({});
    session_->wait_idle();
    EXPECT_EQ(session_->library().load_page(id)->strokes.size(), 19U);
    EXPECT_TRUE(Tools::stored().pens[0].sets_in_type) << "kept";
}

}  // namespace
}  // namespace fernleaf
