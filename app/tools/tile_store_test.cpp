#include "tools/tile_store.h"
#include "wait_until.h"

#include <gtest/gtest.h>

#include <QTest>

namespace fernleaf {
namespace {

Stroke bar(StrokeId id, double y, uint32_t colour = 0x000000) {
    Stroke s;
    s.id = id;
    s.pen = {colour, 3};
    s.points = {{{10, y}}, {{90, y}}};
    return s;
}

class Tiles : public testing::Test {
protected:
    Tiles() {
        page_.info.paper = Paper::plain;
        page_.info.width_mm = 100, page_.info.height_mm = 100;
        page_.strokes = {bar(1, 20), bar(2, 50)};
        tiles_.show(InkScene::of(page_, light_page()));
    }
    QImage shown(double scale) {
        QImage image(1200, 1200, QImage::Format_RGB32);
        image.fill(Qt::gray);
        QPainter painter(&image);
        tiles_.paint(painter, image.rect(), {0, 0}, scale, 1);
        return image;
    }
    QImage settled(double scale) {
        shown(scale);
        EXPECT_TRUE(wait_until([&] { return !tiles_.waits(); }));
        return shown(scale);
    }
    Page page_;
    TileStore tiles_;
};

TEST_F(Tiles, ShowPaperAtOnceAndInkSoon) {
    EXPECT_EQ(shown(5).pixelColor(250, 350), light_page().paper);
    const QImage image = settled(5);
    EXPECT_EQ(image.pixelColor(250, 100), QColor(Qt::black));
    EXPECT_EQ(image.pixelColor(700, 700), QColor(Qt::gray)) << "nothing beyond the page";
}

TEST_F(Tiles, AnEditIsSeenAtOnceAndLooksAsDrawnAnew) {
    settled(5);
    tiles_.apply({"Write", {{bar(3, 80)}}});
    tiles_.apply({"Erase", {}, {{page_.strokes[0]}}});
    const QImage touched_up = shown(5);
    Page after = page_;
    after.strokes = {bar(2, 50), bar(3, 80)};
    tiles_.show(InkScene::of(after, light_page()));
    EXPECT_EQ(settled(5), touched_up);
}

TEST_F(Tiles, ALargeEditIsDrawnByTheWorkerAndLooksAsDrawnAnew) {
    settled(5);
    Edit many{"Write"};
    for (int i = 0; i < 100; ++i) many.added.strokes.push_back(bar(3 + i, 55 + 0.4 * i));
    Stroke endless = bar(200, 80);
    endless.points = {};
    for (int i = 0; i < 20'000; ++i) endless.points.push_back({{10 + 80.0 * (i % 200) / 200, 5 + 10.0 * i / 20'000}});
    for (const Edit& edit : {many, Edit{"Write", {{endless}}}}) {
        const QImage before = shown(5);
        tiles_.apply(edit);
        EXPECT_TRUE(tiles_.waits());
        EXPECT_EQ(shown(5), before) << "not on this thread";
        page_.strokes.insert(page_.strokes.end(), edit.added.strokes.begin(), edit.added.strokes.end());
        const QImage touched_up = settled(5);
        EXPECT_NE(touched_up, before);
        tiles_.show(InkScene::of(page_, light_page()));
        EXPECT_EQ(settled(5), touched_up);
    }
}

TEST_F(Tiles, ErasedInkLeavesNoSpeck) {
    const QImage before = settled(5.3);
    Stroke dot = bar(3, 80);
    dot.points = {{{41.37, 33.13}}};
    tiles_.apply({"Write", {{dot}}});
    EXPECT_NE(shown(5.3), before);
    tiles_.apply({"Erase", {}, {{dot}}});
    EXPECT_EQ(shown(5.3), before);
}

TEST_F(Tiles, InkBroughtBackUnderOtherInkLiesUnderItAgain) {
    tiles_.apply({"Write", {{bar(3, 20, 0xFF0000)}}});
    settled(5);
    tiles_.apply({"Erase", {}, {{page_.strokes[0]}}});
    tiles_.apply({"Erase", {{page_.strokes[0]}}});
    EXPECT_EQ(shown(5).pixelColor(250, 100), QColor(Qt::red));
}

TEST_F(Tiles, TheLastScaleStandsInForTheNext) {
    settled(5);
    EXPECT_LT(shown(6).pixelColor(300, 120).lightness(), 40);
}

TEST_F(Tiles, AnEditWhileTilesAreBeingDrawnIsNotLost) {
    shown(7);
    tiles_.apply({"Write", {{bar(3, 80)}}});
    EXPECT_EQ(settled(7).pixelColor(350, 560), QColor(Qt::black));
}

}  // namespace
}  // namespace fernleaf
