// Stamps in the real window: found, placed, kept, renamed and deleted.
#include <QLineEdit>
#include <QListWidget>

#include "desk/shipped_stamps.h"
#include "ink/drawn_by_rule.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class Stamps : public Window {
protected:
    const Page& page() { return *session_->page(); }
    StampCard* card() { return window_->spread()->stamp_card(); }
    QListWidget* list() { return card()->findChild<QListWidget*>(); }
    QLineEdit* search() { return card()->findChild<QLineEdit*>(); }
    void open_card() {
        QTest::keyClick(ink(), Qt::Key_S);
        session_->wait_idle();
        ASSERT_TRUE(card()->isVisible());
    }
    StampsDesk& stamps() { return session_->stamps(); }
};

TEST(ShippedStamps, FortyAreDrawnAndNoTwoAreCalledAlike) {
    std::set<std::string> names;
    for (const ShippedStamp& stamp : shipped_stamps()) {
        names.insert(stamp.name);
        const auto strokes = strokes_by_rule(stamp.drawing);
        ASSERT_TRUE(strokes) << stamp.name;
        Box box;
        for (const Stroke& s : *strokes) box.include(s.box());
        EXPECT_TRUE(Box::of(0, 0, 24 * kDrawnUnitMm, 24 * kDrawnUnitMm).contains({box.left, box.top})) << stamp.name;
        EXPECT_TRUE(Box::of(0, 0, 24 * kDrawnUnitMm, 24 * kDrawnUnitMm).contains({box.right, box.bottom}))
            << stamp.name;
        EXPECT_GT(std::max(box.width(), box.height()), 8 * kDrawnUnitMm) << stamp.name;
    }
    EXPECT_EQ(names.size(), 40U);
}

TEST_F(Stamps, AreFoundByWordsAndPlacedWithEnter) {
    const PageId id = start_with_page();
    open_card();
    EXPECT_EQ(list()->count(), 40);
    QTest::keyClicks(search(), "weath");
    EXPECT_EQ(list()->count(), 8);
    QTest::keyClicks(search(), "er sun");
    ASSERT_EQ(list()->count(), 1);
    QTest::keyClick(search(), Qt::Key_Return);
    session_->wait_idle();
    EXPECT_FALSE(card()->isVisible());
    EXPECT_EQ(page().strokes.size(), 9U) << "the sun and its rays";
    EXPECT_EQ(ink()->selection().chosen().strokes.size(), 9U) << "chosen, to be moved and recoloured";
    EXPECT_EQ(session_->library().load_page(id)->strokes.size(), 9U);
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_TRUE(page().strokes.empty()) << "one step";
}

TEST_F(Stamps, WhatIsCalledSoComesBeforeWhatIsFoundByOtherWords) {
    start_with_page();
    open_card();
    const std::vector<size_t> found = stamps().found("appl");
    ASSERT_EQ(found.size(), 2U);
    EXPECT_EQ(stamps().all()[found[0]].stamp.name, "Apple");
    EXPECT_EQ(stamps().all()[found[1]].stamp.name, "Tree");
}

TEST_F(Stamps, ThoseThatComeWithItAreNeverReadAsWords) {
    start_with_page();
    stamps().refresh({});
    session_->wait_idle();
    for (size_t i = 0; i < stamps().all().size(); i += 5) {
        stamps().place(i, {40 + 20.0 * static_cast<double>(i % 4), 30 + 5.0 * static_cast<double>(i)});
        session_->wait_idle();
    }
    ASSERT_FALSE(session_->reading().lines.empty());
    for (const ReadLine& line : session_->reading().lines) {
        EXPECT_EQ(line.kind, RegionKind::drawing) << line.text();
        EXPECT_TRUE(line.shapes.empty()) << "nothing of it is to be drawn fair";
    }
    const size_t strokes = page().strokes.size();
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_LT(page().strokes.size(), strokes) << "saying so is no step of its own";
}

TEST_F(Stamps, WhatTheLassoHoldsIsKeptAndPlacedAgain) {
    start_with_page();
    write_hill(40, 60);
    session_->wait_idle();
    QTest::keyClick(ink(), Qt::Key_L);
    ink()->choosing().select_all();
    choose_in_menu(button("Copy or keep"), "Keep as a stamp");
    session_->wait_idle();
    session_->wait_idle();
    ASSERT_FALSE(stamps().all().empty());
    EXPECT_EQ(stamps().all().front().stamp.name, "HILL") << "called what it says";
    EXPECT_NE(stamps().all().front().stamp.id, 0);
    reopen();
    open_card();
    ASSERT_EQ(list()->count(), 41) << "kept with the library, before the others";
    const size_t strokes = page().strokes.size();
    QTest::mouseClick(list()->viewport(), Qt::LeftButton, {}, list()->visualItemRect(list()->item(0)).center());
    session_->wait_idle();
    EXPECT_EQ(page().strokes.size(), 2 * strokes);
}

TEST_F(Stamps, OnesOwnAreRenamedDeletedAndComeBack) {
    start_with_page();
    write_hill(40, 60);
    session_->wait_idle();
    stamps().keep(page(), "Hill");
    session_->wait_idle();
    session_->wait_idle();
    stamps().rename(0, "Upper hill");
    session_->wait_idle();
    session_->wait_idle();
    EXPECT_EQ(stamps().found("upp hi").size(), 1U);
    stamps().rename(0, "  ");
    session_->wait_idle();
    EXPECT_EQ(stamps().found("upper").size(), 1U) << "a name is needed";
    stamps().remove(0);
    session_->wait_idle();
    session_->wait_idle();
    EXPECT_EQ(stamps().all().size(), 40U);
    stamps().remove(0);
    session_->wait_idle();
    EXPECT_EQ(stamps().all().size(), 40U) << "those that come with it stay";
    auto* bar = window_->findChild<QWidget*>(QStringLiteral("noticeBar"));
    ASSERT_TRUE(bar);
    auto* undo = bar->findChild<QPushButton*>();
    ASSERT_TRUE(undo);
    undo->click();
    session_->wait_idle();
    session_->wait_idle();
    ASSERT_EQ(stamps().all().size(), 41U);
    EXPECT_EQ(stamps().all().front().stamp.name, "Upper hill");
}

TEST_F(Stamps, NothingByThatNameIsSaid) {
    start_with_page();
    open_card();
    QTest::keyClicks(search(), "zeppelin");
    EXPECT_FALSE(list()->isVisible());
    QTest::keyClick(search(), Qt::Key_Return);
    session_->wait_idle();
    EXPECT_TRUE(page().empty());
    QTest::keyClick(search(), Qt::Key_Escape);
    EXPECT_FALSE(card()->isVisible());
}

}  // namespace
}  // namespace fernleaf
