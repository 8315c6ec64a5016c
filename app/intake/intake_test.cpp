#include <QClipboard>
#include <QMimeData>

#include "paper/test_photo.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

const SheetOutline kAslant{{{{180, 120}, {770, 190}, {820, 1010}, {90, 930}}}, {}};

class Intake : public Window {
protected:
    void SetUp() override {
        Window::SetUp();
        ASSERT_TRUE(folder_.isValid());
    }
    QString photo(const QString& name, const std::vector<SheetOutline>& sheets = {kAslant}) {
        cv::Mat pixels = table({900, 1200}, {70, 90, 110});
        for (const SheetOutline& sheet : sheets) lay_sheet(pixels, sheet), scrawl(pixels, sheet);
        const QString path = folder_.filePath(name);
        EXPECT_TRUE(image_of(pixels).save(path));
        return path;
    }
    void bring(const QStringList& paths) {
        window_->bring_in(paths);
        session_->wait_idle();
    }
    IntakeTray& tray() { return *window_->intake(); }
    const std::vector<IntakeEntry>& entries() { return session_->intake().entries(); }
    QPushButton* press(const QString& text) {
        for (auto* b : tray().findChildren<QPushButton*>())
            if (b->text() == text) {
                EXPECT_TRUE(b->isEnabled()) << text.toStdString();
                QTest::mouseClick(b, Qt::LeftButton);
                session_->wait_idle();
                return b;
            }
        ADD_FAILURE() << "no button " << text.toStdString();
        return nullptr;
    }

    QTemporaryDir folder_;
};

TEST_F(Intake, APhotographIsStraightenedAndFiledOnlyWhenToldTo) {
    start_with_page();
    bring({photo("shed.png")});
    EXPECT_TRUE(window_->showing_intake());
    ASSERT_EQ(entries().size(), 1U);
    EXPECT_TRUE(entries()[0].looked_at);
    ASSERT_TRUE(entries()[0].treatment.outline);
    EXPECT_LT(distance(entries()[0].treatment.outline->corners[2], kAslant.corners[2]), 3);
    EXPECT_EQ(session_->pages_in_notebook(), 1) << "nothing is filed yet";
    press("File all");
    EXPECT_TRUE(entries().empty());
    EXPECT_FALSE(window_->showing_intake()) << "the page is shown";
    EXPECT_EQ(session_->pages_in_notebook(), 2);
    ASSERT_EQ(session_->page()->pictures.size(), 1U);
    EXPECT_EQ(session_->page()->pictures[0].treatment.look, Look::clean);
}

TEST_F(Intake, WhatWaitsIsThereAfterARestart) {
    start_with_page();
    bring({photo("a.png"), photo("b.png")});
    const std::vector<IntakeEntry> before = entries();
    ASSERT_EQ(before.size(), 2U);
    reopen();
    EXPECT_EQ(entries(), before);
    EXPECT_EQ(tray().list()->count(), 2);
    window_->show_intake(true);
    session_->wait_idle();
    EXPECT_FALSE(session_->intake().thumbnail(before[0].id).isNull());
}

TEST_F(Intake, EverySheetInAPictureIsAnEntry) {
    start_with_page();
    bring({photo("notes.png", {{{{{60, 100}, {400, 90}, {410, 500}, {70, 510}}}, {}},
                               {{{{500, 600}, {840, 620}, {830, 1080}, {490, 1060}}}, {}}})});
    ASSERT_EQ(entries().size(), 2U);
    EXPECT_EQ(entries()[0].file, entries()[1].file);
    EXPECT_LT(entries()[0].treatment.outline->corners[0].y, entries()[1].treatment.outline->corners[0].y);
}

TEST_F(Intake, CornersAreDraggedAndNudgedAndTakenBack) {
    start_with_page();
    bring({photo("a.png")});
    CornerEditor* corners = tray().corners();
    ASSERT_TRUE(corners->outline());
    const SheetOutline found = *corners->outline();
    const QPoint at = corners->place_of(found.corners[0]).toPoint();
    QTest::mousePress(corners, Qt::LeftButton, {}, at);
    QMouseEvent move(QEvent::MouseMove, at + QPoint(20, 10), corners->mapToGlobal(QPointF(at + QPoint(20, 10))),
                     Qt::NoButton, Qt::LeftButton, {});
    QCoreApplication::sendEvent(corners, &move);
    QTest::mouseRelease(corners, Qt::LeftButton, {}, at + QPoint(20, 10));
    session_->wait_idle();
    const Point dragged = entries()[0].treatment.outline->corners[0];
    EXPECT_NEAR(corners->place_of(dragged).x(), at.x() + 20, 1.5);
    EXPECT_EQ(entries()[0].treatment.outline->corners[2], found.corners[2]);
    corners->setFocus();
    EXPECT_EQ(corners->chosen(), 0);
    QTest::keyClick(corners, Qt::Key_Tab);
    EXPECT_EQ(corners->chosen(), 1);
    QTest::keyClick(corners, Qt::Key_Backtab);
    QTest::keyClick(corners, Qt::Key_Right, Qt::ShiftModifier);
    session_->wait_idle();
    EXPECT_NEAR(entries()[0].treatment.outline->corners[0].x, dragged.x + 10, 0.01);
    session_->intake().undo();
    session_->intake().undo();
    session_->wait_idle();
    EXPECT_EQ(entries()[0].treatment.outline, found);
    press("Whole picture");
    EXPECT_FALSE(entries()[0].treatment.outline);
    press("Find the sheet");
    ASSERT_TRUE(entries()[0].treatment.outline);
    EXPECT_LT(distance(entries()[0].treatment.outline->corners[0], found.corners[0]), 1);
}

TEST_F(Intake, WhatIsSaidIsOnDiskWhileABatchIsStillLookedAt) {
    start_with_page();
    bring({photo("a.png")});
    QStringList batch;
    for (int i = 0; i < 4; ++i) batch << photo(QString("more%1.png").arg(i));
    session_->intake().bring(batch);
    IntakeEntry turned = entries()[0];
    turned.treatment.quarter_turns = 2;
    session_->intake().change(turned);
    // Reports of the batch come in meanwhile and must not set it back.
    for (int i = 0; i < 60 && entries().size() < 5; ++i) {
        QTest::qWait(20);
        ASSERT_EQ(entries()[0].treatment.quarter_turns, 2);
    }
    EXPECT_EQ(session_->library().intake()->at(0).treatment.quarter_turns, 2);
    session_->wait_idle();
    ASSERT_EQ(entries().size(), 5U);
    EXPECT_EQ(entries()[0].treatment.quarter_turns, 2);
    EXPECT_TRUE(std::ranges::all_of(entries(), &IntakeEntry::looked_at));
}

TEST_F(Intake, AStoppedBatchWaitsUntilTheTrayIsOpenedAgain) {
    start_with_page();
    window_->show_intake(true);
    session_->intake().bring({photo("a.png"), photo("b.png"), photo("c.png")});
    // Stopped as soon as something is under way.
    QTRY_VERIFY_WITH_TIMEOUT(!entries().empty(), 5000);
    QTest::mouseClick(button("Stop looking"), Qt::LeftButton);
    session_->wait_idle();
    ASSERT_EQ(entries().size(), 3U) << "nothing that was brought in is lost";
    EXPECT_FALSE(entries()[2].looked_at);
    window_->show_intake(false);
    window_->show_intake(true);
    session_->wait_idle();
    EXPECT_TRUE(std::ranges::all_of(entries(), &IntakeEntry::looked_at));
}

TEST_F(Intake, OneLooksAndAllDo) {
    start_with_page();
    bring({photo("a.png"), photo("b.png"), photo("c.png")});
    IntakeEntry grey = entries()[1];
    grey.treatment.look = Look::grey;
    session_->intake().change(grey);
    session_->wait_idle();
    tray().list()->setCurrentRow(1);
    press("All look like this");
    for (const IntakeEntry& e : entries()) EXPECT_EQ(e.treatment.look, Look::grey);
    session_->intake().undo();
    session_->wait_idle();
    EXPECT_EQ(entries()[0].treatment.look, Look::clean);
    EXPECT_EQ(entries()[1].treatment.look, Look::grey);
}

TEST_F(Intake, EntriesAreTurnedOrderedRenamedAndDiscarded) {
    start_with_page();
    bring({photo("a.png"), photo("b.png")});
    const double wide = entries()[0].width_mm, high = entries()[0].height_mm;
    QTest::mouseClick(button("Turn to the right"), Qt::LeftButton);
    session_->wait_idle();
    EXPECT_EQ(entries()[0].treatment.quarter_turns, 1);
    EXPECT_EQ(entries()[0].width_mm > entries()[0].height_mm, wide < high) << "the page lies now";
    tray().list()->setFocus();
    QTest::keyClick(&tray(), Qt::Key_Down, Qt::AltModifier);
    session_->wait_idle();
    EXPECT_EQ(entries()[1].name, "a");
    session_->intake().rename(entries()[1].id, "Shed wall");
    session_->wait_idle();
    EXPECT_EQ(entries()[1].name, "Shed wall");
    tray().list()->setCurrentRow(0, QItemSelectionModel::ClearAndSelect);
    press("Discard");
    ASSERT_EQ(entries().size(), 1U);
    EXPECT_EQ(entries()[0].name, "Shed wall");
    session_->intake().undo();
    session_->wait_idle();
    EXPECT_EQ(entries().size(), 2U) << "undo brings it back";
}

TEST_F(Intake, ABrokenFileIsToldAndTheRestOfTheBatchGoesOn) {
    start_with_page();
    const QString whole = photo("whole.jpg");
    QFile in(whole), cut(folder_.filePath("cut.jpg"));
    ASSERT_TRUE(in.open(QIODevice::ReadOnly) && cut.open(QIODevice::WriteOnly));
    cut.write(in.readAll().left(4000));
    cut.close();
    bring({cut.fileName(), folder_.filePath("missing.png"), whole});
    ASSERT_EQ(entries().size(), 1U);
    EXPECT_EQ(entries()[0].name, "whole");
    EXPECT_TRUE(window_->notice()->isVisible());
}

TEST_F(Intake, APastedPictureWaitsInTheTray) {
    start_with_page();
    window_->show_intake(true);
    QApplication::clipboard()->setImage(QImage(photo("a.png")));
    press("Paste");
    ASSERT_EQ(entries().size(), 1U);
    EXPECT_TRUE(entries()[0].treatment.outline);
    QTest::keyClick(&tray(), Qt::Key_Escape);
    EXPECT_FALSE(window_->showing_intake());
    EXPECT_EQ(entries().size(), 1U);
}

}  // namespace
}  // namespace fernleaf
