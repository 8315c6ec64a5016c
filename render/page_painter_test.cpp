#include "render/page_painter.h"

#include <gtest/gtest.h>

#include "paper/raster_file.h"

namespace fernleaf {
namespace {

Page page_with_stroke(uint32_t colour) {
    Page page;
    page.info.paper = Paper::plain;
    Stroke s;
    s.pen = {colour, 2};
    s.points = {{{20, 30}}, {{60, 30}}};
    page.strokes = {s};
    return page;
}

QImage painted(const Page& page, const PictureImages& images, const PageScheme& scheme,
               Box clip = Box::of(0, 0, 148, 210)) {
    QImage image(296, 420, QImage::Format_RGB32);
    QPainter painter(&image);
    painter.scale(2, 2);
    paint_paper(painter, page.info, scheme);
    paint_elements(painter, page, {scheme, images, clip});
    return image;
}

TEST(PagePainter, InkStandsAtItsPlaceInItsColour) {
    const QImage image = painted(page_with_stroke(0x8A3B6B), {}, light_page());
    EXPECT_EQ(image.pixelColor(80, 60), QColor(0x8A, 0x3B, 0x6B));
    EXPECT_EQ(image.pixelColor(80, 70), light_page().paper);
}

TEST(PagePainter, AFairShapeIsItsBorderInItsColourClosedAndEmpty) {
    Page page;
    page.info.paper = Paper::plain;
    FairShape box;
    box.shape = {ShapeKind::rectangle, {{20, 30}, {60, 30}, {60, 50}, {20, 50}}, 0};
    box.width_mm = 2;
    box.colour = 0x8A3B6B;
    page.shapes = {box};
    const QImage image = painted(page, {}, light_page());
    const QColor plum(0x8A, 0x3B, 0x6B);
    for (const QPoint p : {QPoint(80, 60), QPoint(120, 80), QPoint(80, 100), QPoint(40, 80), QPoint(39, 59)})
        EXPECT_EQ(image.pixelColor(p), plum) << p.x() << "," << p.y();
    EXPECT_EQ(image.pixelColor(80, 80), light_page().paper);
    EXPECT_NE(painted(page, {}, dark_page()).pixelColor(80, 60), plum) << "light enough for dark paper";
}

TEST(PagePainter, StrokesOutsideTheClipAreLeftOut) {
    const QImage image = painted(page_with_stroke(0x8A3B6B), {}, light_page(), Box::of(0, 100, 148, 50));
    EXPECT_EQ(image.pixelColor(80, 60), light_page().paper);
}

TEST(PagePainter, DarkInkShowsOnDarkPaper) {
    const QColor shown = shown_colour(0x1E2A44, dark_page());
    EXPECT_GT(shown.lightnessF(), 0.7F);
    EXPECT_NEAR(shown.hslHueF(), QColor(0x1E, 0x2A, 0x44).hslHueF(), 0.02);
    EXPECT_EQ(shown_colour(0x1E2A44, light_page()), QColor(0x1E, 0x2A, 0x44));
}

TEST(PagePainter, PicturesFillTheirBox) {
    Page page;
    page.info.paper = Paper::plain;
    page.pictures = {{7, "hash", "scan.png", 0, Box::of(10, 20, 50, 50)},
                     {8, "gone", "lost.png", 0, Box::of(80, 20, 50, 50)}};
    const std::string png = encode_png(cv::Mat(60, 60, CV_8UC3, cv::Scalar(20, 40, 200)));
    const FileSource files = [&](const std::string& hash) -> Result<std::string> {
        if (hash != "hash") return Error{"missing"};
        return png;
    };
    const PictureImages images = load_pictures(page, files, 30);
    ASSERT_EQ(images.size(), 1U);
    EXPECT_EQ(images.at(7).width(), 30);
    const QImage image = painted(page, images, light_page());
    EXPECT_EQ(image.pixelColor(70, 90), QColor(200, 40, 20));
    EXPECT_EQ(image.pixelColor(200, 90), light_page().paper);
}

}  // namespace
}  // namespace fernleaf
