// Drawn with the mouse, read, corrected, drawn fair, changed and turned back to ink, as a person would.
#include "drawing/drawing_reading.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class DrawFair : public Window {
protected:
    // A box, an arrow from it down to another box, all a little askew.
    void draw_flow() {
        mouse_stroke({{30, 30}, {70, 31}, {70, 47}, {30, 46}, {30, 30.5}});
        mouse_stroke({{31, 80}, {70, 80.5}, {69.5, 97}, {31, 96}, {31, 80.5}});
        mouse_stroke({{50, 48}, {51, 78}});
        mouse_stroke({{47.5, 73}, {51, 78}, {54, 73}});
        session_->wait_idle();
    }
    const Page& page() { return *session_->page(); }
    InkLeaf* leaf() { return ink(); }
};

TEST_F(DrawFair, APageIsDrawnFairAndTurnedBackToInk) {
    const PageId id = start_with_page();
    draw_flow();
    const auto ink_before = session_->library().load_page(id)->strokes;
    session_->drawing().draw_fair({});
    session_->wait_idle();
    ASSERT_EQ(page().shapes.size(), 3U);
    EXPECT_TRUE(page().strokes.empty());
    // It is still a drawing on the text leaf, of the same figures.
    const auto drawing =
        std::ranges::find_if(session_->reading().lines, [](const ReadLine& l) { return !l.shapes.empty(); });
    ASSERT_NE(drawing, session_->reading().lines.end());
    EXPECT_EQ(drawing->shapes.size(), 3U);
    reopen();
    EXPECT_EQ(page().shapes.size(), 3U) << "kept";
    session_->typesetting().back_to_ink({});
    session_->wait_idle();
    EXPECT_EQ(page().strokes, ink_before);
    EXPECT_TRUE(page().shapes.empty());
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(session_->library().load_page(id)->shapes.size(), 3U);
}

TEST_F(DrawFair, WhatTheLassoHoldsIsDrawnMovedAndGivesItsInkBackWhereItIs) {
    start_with_page();
    draw_flow();
    QTest::keyClick(ink(), Qt::Key_L);
    mouse_stroke({{24, 24}, {78, 24}, {78, 52}, {24, 52}, {24, 24}});
    ASSERT_EQ(leaf()->selection().chosen().strokes.size(), 1U);
    QTest::keyClick(window_.get(), Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
    session_->wait_idle();
    ASSERT_EQ(page().shapes.size(), 1U);
    EXPECT_EQ(page().strokes.size(), 3U) << "the rest stays ink";
    EXPECT_EQ(page().shapes[0].shape.kind, ShapeKind::rectangle);
    // It is chosen, and an element like any other.
    ASSERT_EQ(leaf()->selection().chosen().shapes.size(), 1U);
    const double left = drawn_box(page().shapes[0]).left;
    const double width = page().shapes[0].width_mm;
    leaf()->choosing().move(Affine::shift({40, 10}), "Move");
    leaf()->choosing().recolour(0x8A3B6B);
    leaf()->choosing().change_pens(
        [](Pen pen) {
            pen.width_mm *= 2;
            return pen;
        },
        "Change width");
    session_->wait_idle();
    EXPECT_NEAR(drawn_box(page().shapes[0]).left, left + 40 - width / 2, 0.01);
    EXPECT_EQ(page().shapes[0].colour, 0x8A3B6BU);
    EXPECT_NEAR(page().shapes[0].width_mm, 2 * width, 1e-6);
    leaf()->choosing().back_to_ink();
    session_->wait_idle();
    EXPECT_TRUE(page().shapes.empty());
    ASSERT_EQ(page().strokes.size(), 4U);
    const auto moved = std::ranges::find_if(page().strokes, [](const Stroke& s) { return s.box().right > 100; });
    ASSERT_NE(moved, page().strokes.end());
    EXPECT_NEAR(moved->box().left, 70, 0.5);
}

TEST_F(DrawFair, AFigureIsChosenOnEitherLeafAndOneKeyMakesItAnother) {
    start_with_page();
    draw_flow();
    const auto figure = [&](size_t i) -> const ReadShape& {
        const auto drawing =
            std::ranges::find_if(session_->reading().lines, [](const ReadLine& l) { return !l.shapes.empty(); });
        return drawing->shapes.at(i);
    };
    ASSERT_EQ(figure(0).best().shape.kind, ShapeKind::rectangle);
    const std::vector<StrokeId> strokes = figure(0).strokes;
    // On the ink leaf: within the box, where nothing is written.
    QTest::keyClick(ink(), Qt::Key_C);
    const QPoint on_ink = at(40, 38);
    QTest::mouseClick(ink(), Qt::LeftButton, {}, on_ink);
    ASSERT_TRUE(text()->figure_card()->isVisible());
    EXPECT_FALSE(text()->card()->isVisible());
    EXPECT_EQ(session_->shape(text()->chosen())->strokes, strokes);
    QTest::keyClick(text(), Qt::Key_Escape);
    EXPECT_FALSE(text()->figure_card()->isVisible());
    // On the text leaf: on its line.
    const QRectF place = text()->place_of(ReadPlace::of_shape(text()->chosen().line, 0));
    ASSERT_TRUE(place.isNull()) << "nothing is chosen any more";
    QTest::mouseClick(ink(), Qt::LeftButton, {}, on_ink);
    const QRectF box = text()->place_of(text()->chosen());
    QTest::keyClick(text(), Qt::Key_Escape);
    QTest::mouseClick(text(), Qt::LeftButton, {}, QPointF(box.center().x(), box.top()).toPoint());
    ASSERT_TRUE(text()->figure_card()->isVisible());
    const ShapeKind second = figure(0).candidates.at(1).shape.kind;
    QTest::keyClick(text(), Qt::Key_1);
    EXPECT_EQ(figure(0).best().shape.kind, second) << "at once";
    session_->wait_idle();
    const auto said = [&] {
        const auto drawing =
            std::ranges::find_if(session_->reading().lines, [](const ReadLine& l) { return !l.shapes.empty(); });
        const auto shape = std::ranges::find(drawing->shapes, strokes, &ReadShape::strokes);
        return shape == drawing->shapes.end() ? std::nullopt : std::optional(shape->best());
    };
    ASSERT_TRUE(said());
    EXPECT_EQ(said()->shape.kind, second) << "and in every later reading";
    EXPECT_EQ(said()->certainty, 1);
    reopen();
    session_->readings().read_now();
    session_->wait_idle();
    ASSERT_TRUE(said());
    EXPECT_EQ(said()->shape.kind, second);
    // The arrow still leads from one to the other.
    EXPECT_TRUE(read_drawing(session_->reading()).is_diagram());
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(said()->shape.kind, ShapeKind::rectangle);
}

TEST_F(DrawFair, AFigureMayBeLeftAsInk) {
    start_with_page();
    draw_flow();
    QTest::keyClick(ink(), Qt::Key_C);
    QTest::mouseClick(ink(), Qt::LeftButton, {}, at(40, 38));
    ASSERT_TRUE(text()->figure_card()->isVisible());
    const std::vector<StrokeId> strokes = session_->shape(text()->chosen())->strokes;
    QTest::keyClick(text(), Qt::Key_I);
    session_->wait_idle();
    for (const ReadLine& line : session_->reading().lines) {
        EXPECT_TRUE(std::ranges::find(line.shapes, strokes, &ReadShape::strokes) == line.shapes.end());
        for (const ReadWord& word : line.words)
            EXPECT_TRUE(std::ranges::find(word.strokes, strokes[0]) == word.strokes.end()) << "nor is it read";
    }
    EXPECT_EQ(page().strokes.size(), 4U);
}

TEST_F(DrawFair, AnArrowDrawnBetweenFairFiguresIsReadAsALink) {
    start_with_page();
    mouse_stroke({{30, 30}, {70, 31}, {70, 47}, {30, 46}, {30, 30.5}});
    mouse_stroke({{31, 80}, {70, 80.5}, {69.5, 97}, {31, 96}, {31, 80.5}});
    session_->wait_idle();
    session_->drawing().draw_fair({});
    session_->wait_idle();
    ASSERT_EQ(page().shapes.size(), 2U);
    mouse_stroke({{50, 48}, {51, 78}});
    session_->wait_idle();
    EXPECT_TRUE(read_drawing(session_->reading()).is_diagram());
}

TEST_F(DrawFair, WordsAloneAreNotDrawn) {
    start_with_page();
    write_hill(20, 40);
    session_->wait_idle();
    session_->drawing().draw_fair({});
    session_->wait_idle();
    EXPECT_TRUE(page().shapes.empty());
    EXPECT_EQ(page().strokes.size(), 6U);
}

TEST_F(DrawFair, FiguresBecomeFairWhenThePenLiftsAndWordsNever) {
    start_with_page();
    session_->drawing().set_while_drawing(FairWhileDrawing::pen_lifted);
    write_hill(100, 40);
    draw_flow();
    ASSERT_TRUE(QTest::qWaitFor([&] { return page().shapes.size() == 3; })) << page().shapes.size();
    session_->wait_idle();
    EXPECT_EQ(page().strokes.size(), 6U) << "the word stays ink";
    EXPECT_TRUE(leaf()->selection().empty()) << "the pen goes on";
    // Each figure at once, the arrow once its head could have followed: a step of undo for each.
    for (int i = 0; i < 3; ++i) {
        session_->editing().undo();
        session_->wait_idle();
    }
    EXPECT_TRUE(page().shapes.empty());
    session_->drawing().set_while_drawing(FairWhileDrawing::off);
    reopen();
    EXPECT_EQ(session_->drawing().while_drawing(), FairWhileDrawing::off) << "kept";
}

TEST_F(DrawFair, HeldStillAtItsEndAStrokeBecomesFairAndOthersDoNot) {
    start_with_page();
    session_->drawing().set_while_drawing(FairWhileDrawing::pen_rested);
    const auto write_box = [&](double x, uint32_t held_ms) {
        Stroke stroke;
        stroke.pen.width_mm = 0.5F;
        uint32_t time = 0;
        for (const auto& [a, b] :
             {std::pair(Point{x, 30}, Point{x + 40, 30}), std::pair(Point{x + 40, 30}, Point{x + 40, 50}),
              std::pair(Point{x + 40, 50}, Point{x, 50}), std::pair(Point{x, 50}, Point{x, 30})})
            for (int k = 0; k < 20; ++k) stroke.points.push_back({a + (b - a) * (k / 20.0), 0.5F, 0, 0, time += 8});
        stroke.points.push_back({stroke.points.back().at, 0.5F, 0, 0, time + held_ms});
        session_->editing().write(stroke);
    };
    write_box(20, 10);
    write_box(80, 500);
    ASSERT_TRUE(QTest::qWaitFor([&] { return page().shapes.size() == 1; }));
    session_->wait_idle();
    EXPECT_GT(drawn_box(page().shapes[0]).left, 70);
    EXPECT_EQ(page().strokes.size(), 1U);
    session_->drawing().set_while_drawing(FairWhileDrawing::off);
}

TEST_F(DrawFair, AWholeNotebookIsDrawnFairPageByPage) {
    const PageId first = start_with_page();
    draw_flow();
    session_->model().add_page();
    session_->wait_idle();
    write_hill(20, 40);
    draw_flow();
    session_->drawing().draw_notebook_fair();
    session_->wait_idle();
    EXPECT_EQ(page().shapes.size(), 3U);
    EXPECT_EQ(page().strokes.size(), 6U);
    EXPECT_EQ(session_->library().load_page(first)->shapes.size(), 3U);
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_TRUE(page().shapes.empty());
    EXPECT_EQ(session_->library().load_page(first)->shapes.size(), 3U) << "one page at a time";
}

TEST_F(DrawFair, TheOutlineOfADiagramIsUnfoldedBelowIt) {
    start_with_page();
    draw_flow();
    write_hill(40, 41);
    session_->wait_idle();
    ASSERT_FALSE(text()->outline_place().isNull());
    EXPECT_FALSE(text()->outline_card()->isVisible()) << "folded";
    QTest::mouseClick(text(), Qt::LeftButton, {}, text()->outline_place().center().toPoint());
    ASSERT_TRUE(text()->outline_card()->isVisible());
    const QString said = text()->outline_card()->findChild<QLabel*>()->text();
    EXPECT_TRUE(said.contains(QStringLiteral("→"))) << said.toStdString();
    EXPECT_TRUE(said.contains(QStringLiteral("hill"), Qt::CaseInsensitive)) << said.toStdString();
    text()->outline_card()->findChild<QPushButton*>()->click();
    EXPECT_TRUE(QGuiApplication::clipboard()->text().startsWith(QStringLiteral("- ")));
    QTest::keyClick(text(), Qt::Key_Escape);
    EXPECT_FALSE(text()->outline_card()->isVisible());
    QTest::keyClick(text(), Qt::Key_O);
    EXPECT_TRUE(text()->outline_card()->isVisible());
}

class Links : public DrawFair {
protected:
    void start() {
        start_with_page();
        draw_flow();
        session_->drawing().draw_fair({});
        session_->wait_idle();
        QTest::keyClick(ink(), Qt::Key_L);
    }
    const FairShape& link() {
        return *std::ranges::find_if(page().shapes, [](const FairShape& s) { return is_line(s.shape.kind); });
    }
    // From above down.
    std::vector<FairShape> figures() {
        std::vector<FairShape> out;
        for (const FairShape& s : page().shapes)
            if (is_closed(s.shape.kind)) out.push_back(s);
        std::ranges::sort(out, {}, [](const FairShape& s) { return drawn_box(s).top; });
        return out;
    }
    void tap(Point mm) {
        QTest::mouseClick(ink(), Qt::LeftButton, {}, at(mm.x, mm.y));
        session_->wait_idle();
    }
    bool ends_on_borders() {
        const std::vector<FairShape> boxes = figures();
        const std::vector<Point>& p = link().shape.points;
        return distance_to(outline_of(boxes[0].shape), p.front()) < 1e-6 &&
               distance_to(outline_of(boxes[1].shape), p.back()) < 1e-6;
    }
};

TEST_F(Links, FollowAFigureThatIsDraggedInOneStepOfUndo) {
    start();
    const Box before = drawn_box(figures()[0]);
    const Shape straight = link().shape;
    tap({before.left, before.centre().y});
    ASSERT_EQ(leaf()->selection().chosen().shapes.size(), 1U);
    mouse_stroke({before.centre(), before.centre() + Point{38, 6}});
    session_->wait_idle();
    EXPECT_GT(drawn_box(figures()[0]).left, before.left + 30);
    EXPECT_NE(link().shape, straight);
    EXPECT_TRUE(ends_on_borders());
    EXPECT_TRUE(read_drawing(session_->reading()).is_diagram());
    reopen();
    EXPECT_TRUE(ends_on_borders()) << "kept";
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(link().shape, straight);
    EXPECT_EQ(drawn_box(figures()[0]), before);
}

TEST_F(Links, AFigureComesWithItsWordsAndAFigureThatIsDeletedLeavesTheLinkFree) {
    start();
    QTest::keyClick(ink(), Qt::Key_1);
    write_hill(40, 41);
    session_->wait_idle();
    QTest::keyClick(ink(), Qt::Key_L);
    const Box box = drawn_box(figures()[0]);
    tap({box.left, box.centre().y});
    EXPECT_EQ(leaf()->selection().chosen().strokes.size(), 6U);
    EXPECT_EQ(leaf()->selection().chosen().shapes.size(), 1U);
    QTest::keyClick(ink(), Qt::Key_Delete);
    session_->wait_idle();
    ASSERT_EQ(page().shapes.size(), 2U);
    EXPECT_EQ(int{link().from.figure != 0} + int{link().to.figure != 0}, 1);
}

TEST_F(Links, AnEndIsPulledOffAndPutOnAnother) {
    start();
    mouse_stroke({{10, 10}, {11, 10}});  // nothing is chosen
    const Point end = link().shape.points.back();
    tap((link().shape.points.front() + end) * 0.5);
    ASSERT_EQ(leaf()->selection().chosen().shapes.size(), 1U);
    ASSERT_EQ(leaf()->selection().handles().size(), 2U);
    mouse_stroke({end, {120, 110}});
    session_->wait_idle();
    EXPECT_EQ(link().to.figure, 0);
    EXPECT_NEAR(link().shape.points.back().x, 120, 1.5);
    const Box lower = drawn_box(figures()[1]);
    mouse_stroke({link().shape.points.back(), {lower.right + 1, lower.centre().y}});
    session_->wait_idle();
    EXPECT_EQ(link().to.figure, figures()[1].key);
    EXPECT_TRUE(ends_on_borders());
    leaf()->choosing().change_shapes([](FairShape& s) { s.routing = Routing::elbow; }, "Change a link");
    session_->wait_idle();
    EXPECT_TRUE(ends_on_borders());
}

TEST_F(Links, TwoFiguresAreLinkedByKeyboardAndSetInLine) {
    start();
    tap((link().shape.points.front() + link().shape.points.back()) * 0.5);
    QTest::keyClick(ink(), Qt::Key_Delete);
    QTest::keyClick(ink(), Qt::Key_A, Qt::ControlModifier);
    session_->wait_idle();
    ASSERT_EQ(page().shapes.size(), 2U);
    ASSERT_TRUE(leaf()->choosing().may_link());
    QTest::keyClick(window_.get(), Qt::Key_L, Qt::ControlModifier | Qt::ShiftModifier);
    session_->wait_idle();
    ASSERT_EQ(page().shapes.size(), 3U);
    EXPECT_TRUE(ends_on_borders());
    QTest::keyClick(ink(), Qt::Key_A, Qt::ControlModifier);
    leaf()->choosing().move(Affine::turn(0.2, {50, 60}), "Turn");
    leaf()->choosing().align(Alignment::left);
    session_->wait_idle();
    EXPECT_NEAR(drawn_box(figures()[0]).left, drawn_box(figures()[1]).left, 1e-6);
    EXPECT_TRUE(ends_on_borders());
    leaf()->choosing().change_shapes(
        [](FairShape& s) {
            if (!is_closed(s.shape.kind)) return;
            s.shape = as_kind(s.shape, ShapeKind::ellipse);
            s.fill = 0x2E6B4F, s.fill_strength = 0.5;
        },
        "Change a figure");
    session_->wait_idle();
    EXPECT_TRUE(ends_on_borders()) << "on the border of what it is now";
    reopen();
    EXPECT_EQ(figures()[0].fill_strength, 0.5);
}

TEST_F(Links, ADiagramIsArrangedInOneStep) {
    start();
    const Box upper = drawn_box(figures()[0]);
    tap({upper.left, upper.centre().y});
    leaf()->choosing().move(Affine::shift({50, 70}), "Move");
    session_->wait_idle();
    const std::vector<FairShape> before = page().shapes;
    session_->drawing().arrange({}, Arrangement::down);
    session_->wait_idle();
    const std::vector<FairShape> boxes = figures();
    EXPECT_LT(drawn_box(boxes[0]).bottom, drawn_box(boxes[1]).top);
    EXPECT_NEAR(drawn_box(boxes[0]).centre().x, drawn_box(boxes[1]).centre().x, 0.1);
    EXPECT_TRUE(ends_on_borders());
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(page().shapes.size(), before.size());
    for (const FairShape& s : before)
        EXPECT_TRUE(std::ranges::find(page().shapes, s.id, &FairShape::id) != page().shapes.end());
}

}  // namespace
}  // namespace fernleaf
