#include "render/plot_look.h"

#include <gtest/gtest.h>

#include <QImage>

namespace fernleaf {
namespace {

constexpr int kPlotPxPerMm = 8;

Plot plot_of(const char* formula) {
    Plot plot;
    plot.box = Box::of(5, 5, 90, 60);
    plot.curves = {{formula, 0x2E6B4F}};
    plot.range = {-10, 10, -20, 20};
    return plot;
}

QImage drawn(const Plot& plot) {
    QImage image(100 * kPlotPxPerMm, 70 * kPlotPxPerMm, QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    painter.scale(kPlotPxPerMm, kPlotPxPerMm);
    draw_plot(painter, plot, light_page());
    return image;
}

bool is_curve(QRgb pixel) { return qGreen(pixel) > qRed(pixel) + 30 && qGray(pixel) < 140; }

// Whether something of the curve's colour is where the formula's place is.
bool curve_at(const QImage& image, const Plot& plot, double x, double y) {
    const QRectF field = plot_field(plot);
    const double px = field.left() + (x - plot.range.left) / (plot.range.right - plot.range.left) * field.width();
    const double py = field.bottom() - (y - plot.range.bottom) / (plot.range.top - plot.range.bottom) * field.height();
    for (int dy = -2; dy <= 2; ++dy)
        for (int dx = -2; dx <= 2; ++dx)
            if (is_curve(
                    image.pixel(static_cast<int>(px * kPlotPxPerMm) + dx, static_cast<int>(py * kPlotPxPerMm) + dy)))
                return true;
    return false;
}

TEST(PlotLook, CurvesRunThroughTheirPlaces) {
    const Plot plot = plot_of("x^2-16");
    const QImage image = drawn(plot);
    EXPECT_TRUE(curve_at(image, plot, 4, 0));
    EXPECT_TRUE(curve_at(image, plot, -4, 0));
    EXPECT_TRUE(curve_at(image, plot, 2, -12));
    EXPECT_FALSE(curve_at(image, plot, 0, 10));
}

TEST(PlotLook, FollowsTheValuesOfItsNames) {
    Plot plot = plot_of("a x");
    EXPECT_FALSE(curve_at(drawn(plot), plot, 5, 10)) << "a stands for nothing";
    plot.values = {{"a", 2}};
    EXPECT_TRUE(curve_at(drawn(plot), plot, 5, 10));
    plot.values = {{"a", -2}};
    EXPECT_TRUE(curve_at(drawn(plot), plot, 5, -10));
}

TEST(PlotLook, NothingIsDrawnBeyondItsBox) {
    Plot plot = plot_of("1000 \\tan(3x)");
    plot.curves.push_back({"\\frac{x^{12}+\\sqrt{x^{3}+\\frac{1}{x}}}{\\int_{0}^{x} t^{2} dt}", 0x8A3B6B});
    plot.marks = true;
    const QImage image = drawn(plot);
    const QRect box = rect_of(plot.box).toAlignedRect();
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x)
            if (!box.adjusted(-1, -1, 1, 1).contains(x / kPlotPxPerMm, y / kPlotPxPerMm)) {
                ASSERT_EQ(image.pixel(x, y), QColor(Qt::white).rgb()) << x << ' ' << y;
            }
}

TEST(PlotLook, SmallAndCrowdedOnesStillHaveAField) {
    Plot plot = plot_of("x");
    plot.box = Box::of(5, 5, kLeastPlotMm, kLeastPlotMm);
    for (size_t i = 1; i < kMostCurves; ++i) plot.curves.push_back({"\\frac{x}{" + std::to_string(i) + "}"});
    EXPECT_GT(plot_field(plot).width(), 2);
    EXPECT_GT(plot_field(plot).height(), 2);
    drawn(plot);
}

}  // namespace
}  // namespace fernleaf
