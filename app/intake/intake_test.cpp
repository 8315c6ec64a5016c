#include <QClipboard>
#include <QMimeData>
#include <fstream>

#include "intake/scan_dialog.h"
#include "paper/sheet_picture.h"
#include "paper/test_pdf.h"
#include "paper/test_photo.h"
#include "wait_until.h"
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
    EXPECT_EQ(session_->document().pages_in_notebook(), 1) << "nothing is filed yet";
    press("File all");
    EXPECT_TRUE(entries().empty());
    EXPECT_FALSE(window_->showing_intake()) << "the page is shown";
    EXPECT_EQ(session_->document().pages_in_notebook(), 2);
    ASSERT_EQ(session_->page()->pictures.size(), 1U);
    EXPECT_EQ(session_->page()->pictures[0].treatment.look, Look::clean);
}

TEST_F(Intake, APictureWithoutASheetIsToldAsSuch) {
    start_with_page();
    bring({photo("table.png", {}), photo("sheet.png")});
    ASSERT_EQ(entries().size(), 2U);
    EXPECT_TRUE(entries()[0].faults.no_sheet);
    EXPECT_FALSE(entries()[1].faults.no_sheet);
    const auto told = [&] {
        return std::ranges::any_of(tray().findChildren<QLabel*>(), [](const QLabel* label) {
            return label->isVisible() && label->text().startsWith(QStringLiteral("No sheet was found"));
        });
    };
    tray().list()->setCurrentRow(0);
    EXPECT_TRUE(told());
    EXPECT_TRUE(tray().list()->item(0)->text().contains(QStringLiteral("no sheet found")));
    tray().list()->setCurrentRow(1);
    EXPECT_FALSE(told());
    reopen();
    EXPECT_TRUE(entries()[0].faults.no_sheet) << "it is kept";
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

TEST_F(Intake, SheetsOfOnePictureAreMergedAndTakenApartAgain) {
    start_with_page();
    bring({photo("spread.png", {{{{{60, 100}, {400, 90}, {410, 500}, {70, 510}}}, {}},
                                {{{{500, 110}, {840, 120}, {830, 520}, {490, 510}}}, {}}}),
           photo("other.png")});
    ASSERT_EQ(entries().size(), 3U);
    const std::vector<IntakeEntry> before = entries();
    tray().list()->selectAll();
    EXPECT_FALSE(session_->intake().may_merge({before[0].id, before[1].id, before[2].id}));
    tray().list()->item(2)->setSelected(false);
    press("Merge");
    ASSERT_EQ(entries().size(), 2U);
    EXPECT_EQ(entries()[0].id, before[0].id);
    EXPECT_GT(entries()[0].treatment.outline->corners[1].x, 820);
    EXPECT_GT(entries()[0].width_mm, entries()[0].height_mm) << "as the page it makes lies";
    session_->intake().undo();
    session_->wait_idle();
    ASSERT_EQ(entries().size(), 3U);
    EXPECT_EQ(entries()[0].treatment.outline, before[0].treatment.outline);
    EXPECT_EQ(entries()[1].treatment.outline, before[1].treatment.outline) << "in its place again";
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
    bool stayed = true;
    WAIT_UNTIL((stayed = stayed && entries()[0].treatment.quarter_turns == 2, entries().size() == 5));
    EXPECT_TRUE(stayed);
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
    WAIT_UNTIL(!entries().empty());
    QTest::mouseClick(button("Stop; sheets"), Qt::LeftButton);
    session_->wait_idle();
    ASSERT_EQ(entries().size(), 3U) << "nothing that was brought in is lost";
    EXPECT_FALSE(entries()[2].looked_at);
    window_->show_intake(false);
    window_->show_intake(true);
    session_->wait_idle();
    EXPECT_TRUE(std::ranges::all_of(entries(), &IntakeEntry::looked_at));
}

TEST_F(Intake, StoppingEndsEveryBatchAndTellsWhatWasNotTakenIn) {
    start_with_page();
    window_->show_intake(true);
    QStringList problems;
    QObject::connect(&session_->messages(), &Messages::problem, window_.get(),
                     [&](const QString& p) { problems << p; });
    session_->intake().bring({photo("a.png"), photo("b.png")});
    session_->intake().bring({photo("c.png"), photo("d.png")});
    WAIT_UNTIL(!entries().empty());
    QTest::mouseClick(button("Stop; sheets"), Qt::LeftButton);
    session_->wait_idle();
    ASSERT_EQ(entries().size(), 2U) << "the second batch had not begun";
    ASSERT_EQ(problems.size(), 1);
    EXPECT_TRUE(problems[0].contains("2 files") && problems[0].contains("c.png")) << problems[0].toStdString();
    // What is brought after that is taken in.
    bring({photo("e.png")});
    ASSERT_EQ(entries().size(), 3U);
    EXPECT_TRUE(entries()[2].looked_at);
}

TEST_F(Intake, OneLooksAndAllDo) {
    start_with_page();
    bring({photo("a.png"), photo("b.png"), photo("c.png")});
    IntakeEntry grey = entries()[1];
    grey.treatment.look = Look::grey;
    session_->intake().change(grey);
    session_->wait_idle();
    tray().list()->setCurrentRow(1);
    press("Apply this look to all");
    for (const IntakeEntry& e : entries()) EXPECT_EQ(e.treatment.look, Look::grey);
    session_->intake().undo();
    session_->wait_idle();
    EXPECT_EQ(entries()[0].treatment.look, Look::clean);
    EXPECT_EQ(entries()[1].treatment.look, Look::grey);
}

TEST_F(Intake, WhatIsChosenStaysChosenWhenTheListChanges) {
    start_with_page();
    bring({photo("a.png"), photo("b.png"), photo("c.png")});
    QListWidget* list = tray().list();
    ASSERT_EQ(list->count(), 3);
    list->setCurrentRow(1, QItemSelectionModel::ClearAndSelect);
    list->item(2)->setSelected(true);
    const auto chosen = [&] {
        QStringList out;
        for (int i = 0; i < list->count(); ++i)
            if (list->item(i)->isSelected()) out << list->item(i)->text();
        return out;
    };
    ASSERT_EQ(chosen(), (QStringList{"b", "c"}));
    bring({photo("d.png")});
    EXPECT_EQ(chosen(), (QStringList{"b", "c"}));
    session_->intake().move(entries()[0].id, 3);
    session_->wait_idle();
    ASSERT_EQ(list->item(3)->text(), "a");
    EXPECT_EQ(chosen(), (QStringList{"b", "c"})) << "in other rows now";
    session_->intake().discard({entries()[0].id});
    session_->wait_idle();
    EXPECT_EQ(chosen(), QStringList{"c"});
    for (int i = 0; i < list->count(); ++i) EXPECT_FALSE(list->item(i)->icon().isNull());
}

TEST_F(Intake, TheToolsFitANarrowWindow) {
    start_with_page();
    bring({photo("a.png")});
    window_->resize(900, 600);
    WAIT_UNTIL(tray().width() <= 900);
    QCoreApplication::processEvents();
    const QRect all = tray().rect();
    for (QWidget* w : tray().findChildren<QWidget*>()) {
        if (!w->isVisible() || !(qobject_cast<QPushButton*>(w) || qobject_cast<QComboBox*>(w))) continue;
        EXPECT_TRUE(all.contains(QRect(w->mapTo(&tray(), QPoint()), w->size()))) << w->accessibleName().toStdString();
        EXPECT_GE(w->width(), w->minimumSizeHint().width()) << w->accessibleName().toStdString();
    }
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
    for (QAction* action : tray().findChildren<QAction*>())
        if (action->text() == "The picture on the clipboard") action->trigger();
    session_->wait_idle();
    ASSERT_EQ(entries().size(), 1U);
    EXPECT_TRUE(entries()[0].treatment.outline);
    QTest::keyClick(&tray(), Qt::Key_Escape);
    EXPECT_FALSE(window_->showing_intake());
    EXPECT_EQ(entries().size(), 1U);
}

TEST_F(Intake, SeveralAreFiledSideBySideOnOnePage) {
    start_with_page();
    const SheetOutline left{{{{60, 100}, {400, 110}, {390, 600}, {50, 590}}}, {}};
    const SheetOutline right{{{{500, 150}, {850, 140}, {860, 640}, {510, 650}}}, {}};
    bring({photo("two.png", {left, right})});
    ASSERT_EQ(entries().size(), 2U);
    tray().list()->selectAll();
    press("On one page");
    EXPECT_TRUE(entries().empty());
    EXPECT_EQ(session_->document().pages_in_notebook(), 2);
    const auto& pictures = session_->page()->pictures;
    ASSERT_EQ(pictures.size(), 2U);
    EXPECT_FALSE(pictures[0].box.meets(pictures[1].box));
    EXPECT_FALSE(pictures[0].locked);
    EXPECT_NE(pictures[0].treatment.outline, pictures[1].treatment.outline);
}

TEST_F(Intake, SheetsFromAScannerWaitInTheTray) {
    start_with_page();
    std::vector<QString> problems;
    QObject::connect(&session_->messages(), &Messages::problem, [&](const QString& p) { problems.push_back(p); });
    session_->intake().scan({"test:0", 30, true, true, {}});
    session_->wait_idle();
    EXPECT_EQ(entries().size(), 10U) << "all sheets of its feeder";
    EXPECT_TRUE(std::ranges::all_of(entries(), &IntakeEntry::looked_at));
    EXPECT_TRUE(problems.empty()) << problems.front().toStdString();
    session_->intake().scan({"nothing:0", 30, true, false, {}});
    session_->wait_idle();
    ASSERT_EQ(problems.size(), 1U);
    EXPECT_TRUE(problems[0].contains("no such scanner"));
    EXPECT_EQ(entries().size(), 10U);
}

TEST_F(Intake, TheScanDialogKeepsWhatWasChosen) {
    start_with_page();
    {
        ScanDialog dialog(session_->intake());
        auto boxes = dialog.findChildren<QComboBox*>();
        boxes[0]->setEditText("test:0");
        boxes[1]->setCurrentIndex(boxes[1]->findData(150));
        boxes[2]->setCurrentIndex(1);
        for (QPushButton* b : dialog.findChildren<QPushButton*>())
            if (b->text() == "Scan") b->click();
        EXPECT_EQ(dialog.result(), QDialog::Accepted);
        EXPECT_EQ(dialog.wish().device, "test:0");
        session_->wait_idle();
        EXPECT_EQ(dialog.wish().device, "test:0") << "what was written stays when scanners are found, or none";
    }
    const ScanDialog again(session_->intake());
    EXPECT_EQ(again.wish().device, "test:0");
    EXPECT_EQ(again.wish().dpi, 150);
    EXPECT_FALSE(again.wish().colour);
    EXPECT_FALSE(again.wish().feeder);
    session_->wait_idle();
}

TEST_F(Intake, NewPicturesInAWatchedFolderComeByThemselves) {
    start_with_page();
    photo("old.png");
    session_->intake().watch(folder_.path());
    session_->wait_idle();
    photo("new.png");
    WAIT_UNTIL(entries().size() == size_t{1});
    session_->wait_idle();
    EXPECT_EQ(entries()[0].name, "new") << "what lay there before stays there";
    // Once, and after a restart, too: what came while the program was closed comes then.
    reopen();
    EXPECT_EQ(session_->intake().watched(), folder_.path());
    photo("later.png");
    WAIT_UNTIL(entries().size() == size_t{2});
    session_->intake().watch({});
    EXPECT_TRUE(session_->intake().watched().isEmpty());
}

TEST_F(Intake, OfAWatchedFolderThatWasStoppedNothingIsLostAndNothingComesTwice) {
    start_with_page();
    session_->intake().watch(folder_.path());
    session_->wait_idle();
    const std::vector<std::string> names{"a", "b", "c", "d"};
    for (const std::string& name : names) photo(QString::fromStdString(name + ".png"));
    window_->show_intake(true);
    WAIT_UNTIL(!entries().empty());
    QTest::mouseClick(button("Stop; sheets"), Qt::LeftButton);
    session_->wait_idle();
    // Wherever that was, what was taken in is remembered when the folder is looked into the next time.
    reopen();
    photo("e.png");
    WAIT_UNTIL(entries().size() == names.size() + 1);
    session_->wait_idle();
    std::vector<std::string> taken;
    for (const IntakeEntry& entry : entries()) taken.push_back(entry.name);
    std::ranges::sort(taken);
    EXPECT_EQ(taken, (std::vector<std::string>{"a", "b", "c", "d", "e"}));
}

TEST_F(Intake, APageOfAPdfIsDrawnAsFinelyAsWished) {
    start_with_page();
    const QString path = folder_.filePath("form.pdf");
    std::ofstream(path.toStdString(), std::ios::binary)
        << pdf_of({"2 w 60 60 m 200 200 l S", "2 w 60 60 m 90 200 l S"});
    bring({path});
    ASSERT_EQ(entries().size(), 2U);
    QComboBox* dpi = nullptr;
    for (QComboBox* box : tray().findChildren<QComboBox*>())
        if (box->accessibleName() == "Resolution of the PDF page") dpi = box;
    ASSERT_TRUE(dpi);
    EXPECT_TRUE(dpi->isVisible());
    EXPECT_EQ(dpi->currentData().toInt(), 200);
    dpi->setCurrentIndex(dpi->findData(400));
    emit dpi->activated(dpi->currentIndex());
    session_->wait_idle();
    EXPECT_EQ(entries()[0].treatment.dpi, 400);
    EXPECT_EQ(entries()[1].treatment.dpi, 0);
    press("File all");
    const auto bytes = session_->library().file(session_->page()->pictures[0].file);
    ASSERT_TRUE(bytes);
    const auto pixels = picture_pixels(*bytes, session_->page()->pictures[0]);
    ASSERT_TRUE(pixels);
    EXPECT_NEAR(pixels->cols, 400 / 72.0 * 400, 2);
    bring({photo("shed.png")});
    tray().list()->setCurrentRow(0);
    session_->wait_idle();
    EXPECT_FALSE(dpi->isVisible()) << "photographs have the pixels they have";
}

}  // namespace
}  // namespace fernleaf
