// The tools by themselves, on a surface that is no widget.
#include "tools/leaf_tool.h"

#include "desk/parts_fixture.h"
#include "tools/choose_tool.h"
#include "tools/eraser_tool.h"
#include "tools/lasso_tool.h"
#include "tools/pen_tool.h"
#include "tools/room_tool.h"

namespace fernleaf {
namespace {

class LeafTools : public Parts, public ToolSurface {
protected:
    void SetUp() override {
        Parts::SetUp();
        start();
        view_.set(4, {10, 20});
        tiles_.show(InkScene::of(*session_->page(), light_page()));
        QObject::connect(&session_->document(), &PageDocument::edited, &tiles_,
                         [this](const Edit& edit) { tiles_.apply(edit); });
    }
    PenSample at(double x, double y) { return {view_.to_leaf({x, y})}; }
    // From the first place to the last, the pen lifted there or still down.
    void draw(LeafTool& tool, const std::vector<Point>& way, bool lift = true) {
        std::vector<PenSample> samples = {at(way[0].x, way[0].y)};  // before the page can be moved
        for (size_t i = 1; i < way.size(); ++i)
            for (int k = 1; k <= 8; ++k) {
                const Point p = way[i - 1] + (way[i] - way[i - 1]) * (k / 8.0);
                samples.push_back(at(p.x, p.y));
            }
        tool.begin(samples[0]);
        for (size_t i = 1; i < samples.size(); ++i) tool.go_on(samples[i]);
        if (lift) tool.end();
    }
    const Page& page() { return *session_->page(); }

    Session& session() override { return *session_; }
    PageViewport& view() override { return view_; }
    TileStore& tiles() override { return tiles_; }
    QSize size_px() const override { return {600, 900}; }
    double device_ratio() const override { return 1; }
    void refresh_all() override {}
    void refresh(const QRectF&) override {}
    void show_cursor(const QCursor&) override {}
    Point place_for_new() override { return {70, 100}; }

    PageViewport view_;
    TileStore tiles_;
};

TEST_F(LeafTools, ThePenLeavesAStrokeWhenItLiftsAndNoneWhenItIsCancelled) {
    PenTool pen(*this);
    pen.set_pen({0x2E6B4F, 0.8F});
    draw(pen, {{20, 30}, {40, 30}}, false);
    EXPECT_TRUE(page().strokes.empty());
    pen.cancel();
    EXPECT_TRUE(page().strokes.empty());
    draw(pen, {{20, 30}, {40, 30}});
    ASSERT_EQ(page().strokes.size(), 1U);
    EXPECT_EQ(page().strokes[0].pen.colour, 0x2E6B4FU);
    EXPECT_NEAR(page().strokes[0].box().right, 40, 0.1);
    draw(pen, {{-30, 50}, {500, 50}});
    EXPECT_GE(page().strokes[1].box().left, 0) << "ink stays on the sheet";
    EXPECT_LE(page().strokes[1].box().right, page().info.width_mm);
    EXPECT_NEAR(page().strokes[1].points[0].at.y, 50, 0.1);
    draw(pen, {{20, page().info.height_mm + 20}});
    draw(pen, {{-30, 60}, {-5, 80}});
    EXPECT_EQ(page().strokes.size(), 2U) << "a pen on the desk writes on no page";
}

TEST_F(LeafTools, TheEraserIsOneStepOfUndo) {
    PenTool pen(*this);
    draw(pen, {{20, 30}, {40, 30}});
    draw(pen, {{20, 40}, {40, 40}});
    EraserTool eraser(*this);
    QSignalSpy erased(&eraser, &EraserTool::erased);
    draw(eraser, {{30, 25}, {30, 45}}, false);
    EXPECT_TRUE(tiles_.scene().shapes.empty()) << "gone from sight at once";
    EXPECT_EQ(page().strokes.size(), 2U) << "and from the page when it lifts";
    eraser.end();
    EXPECT_TRUE(page().strokes.empty());
    EXPECT_EQ(erased.count(), 1);
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(page().strokes.size(), 2U);
    draw(eraser, {{100, 100}, {110, 100}});
    EXPECT_EQ(erased.count(), 1) << "nothing was there";
}

TEST_F(LeafTools, TheLassoChoosesMovesAndGivesUp) {
    PenTool pen(*this);
    draw(pen, {{20, 30}, {40, 30}});
    SelectionEditing choosing(*this);
    ChosenTable table(*this, choosing);
    ChosenPlot plot(*this, choosing);
    LassoTool lasso(*this, choosing, table, plot);
    draw(lasso, {{15, 25}, {45, 25}, {45, 35}, {15, 35}});
    ASSERT_EQ(choosing.selection().chosen().strokes.size(), 1U);
    draw(lasso, {{30, 30}, {30, 60}}, false);
    EXPECT_TRUE(tiles_.scene().shapes.empty()) << "shown moving";
    lasso.cancel();
    EXPECT_EQ(tiles_.scene().shapes.size(), 1U) << "and back where it was";
    EXPECT_NEAR(page().strokes[0].box().top, 30, 0.1);
    draw(lasso, {{30, 30}, {30, 60}});
    EXPECT_NEAR(page().strokes[0].box().top, 60, 0.5);
    EXPECT_EQ(choosing.selection().chosen().strokes.size(), 1U) << "what comes of it stays chosen";
    session_->wait_idle();
    EXPECT_EQ(session_->document().undo_state().undo, "Move");
}

TEST_F(LeafTools, RoomMovesWhatStandsBelow) {
    PenTool pen(*this);
    draw(pen, {{20, 30}, {40, 30}});
    draw(pen, {{20, 60}, {40, 60}});
    RoomTool room(*this);
    draw(room, {{30, 45}, {30, 65}});
    ASSERT_EQ(page().strokes.size(), 2U);
    EXPECT_NEAR(page().strokes[0].box().top, 30, 0.1);
    EXPECT_NEAR(page().strokes[1].box().top, 80, 0.5);
}

TEST_F(LeafTools, ChoosingPansOrTellsTheWordThatWasClicked) {
    ChooseTool choose(*this);
    QSignalSpy chosen(&choose, &ChooseTool::place_chosen);
    const QPointF before = view_.origin();
    draw(choose, {{30, 30}, {30, 50}});
    EXPECT_NEAR(view_.origin().y() - before.y(), 80, 1);
    EXPECT_EQ(chosen.count(), 0);
    draw(choose, {{30, 30}, {30.2, 30}});
    EXPECT_EQ(chosen.count(), 1);
    EXPECT_FALSE(chosen[0][0].value<ReadPlace>().valid()) << "there is no word";
}

}  // namespace
}  // namespace fernleaf
