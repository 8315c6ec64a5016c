#include "look/tag_look.h"

#include <gtest/gtest.h>

#include <QImage>
#include <cmath>
#include <functional>
#include <set>

#include "look/theme.h"

namespace fernleaf {
namespace {

QImage drawn(const QSize& size, const std::function<void(QPainter&)>& draw) {
    QImage out(size, QImage::Format_ARGB32_Premultiplied);
    out.fill(Qt::white);
    QPainter painter(&out);
    draw(painter);
    return out;
}

TEST(TagLook, SignsAreToldWithoutTheirColours) {
    use_theme(Theme::light());
    std::set<std::string> forms;
    for (const uint32_t colour : tag_colours()) {
        const QImage sign = drawn({16, 16}, [&](QPainter& p) { paint_tag_sign(p, {8, 8}, colour); });
        std::string form;
        for (int y = 0; y < 16; ++y)
            for (int x = 0; x < 16; ++x) form += qGray(sign.pixel(x, y)) < 200 ? '#' : '.';
        EXPECT_TRUE(forms.insert(form).second) << form;
    }
}

TEST(TagLook, LabelsStayWithinTheirRoom) {
    use_theme(Theme::light());
    const QString name = QStringLiteral("a name that is much too long for the room there is");
    const QImage label =
        drawn({120, 30}, [&](QPainter& p) { paint_tag(p, QRect(10, 0, 90, 30), name, tag_colours()[1]); });
    for (int y = 0; y < 30; ++y) {
        for (int x = 0; x < 9; ++x) EXPECT_EQ(label.pixel(x, y), qRgb(255, 255, 255)) << x << ' ' << y;
        for (int x = 101; x < 120; ++x) EXPECT_EQ(label.pixel(x, y), qRgb(255, 255, 255)) << x << ' ' << y;
    }
    EXPECT_GT(tag_size(name).width(), tag_size(QStringLiteral("a")).width());
}

TEST(TagLook, ColoursCanBeSeenInBothSchemes) {
    const auto contrast = [](const QColor& a, const QColor& b) {
        const auto light = [](const QColor& c) {
            const auto part = [](double v) { return v <= 0.03928 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
            return 0.2126 * part(c.redF()) + 0.7152 * part(c.greenF()) + 0.0722 * part(c.blueF());
        };
        const double x = light(a), y = light(b);
        return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
    };
    for (const Theme& scheme : {Theme::night(), Theme::light()}) {
        use_theme(scheme);
        for (const uint32_t colour : tag_colours()) EXPECT_GT(contrast(tag_colour(colour), scheme.desk), 3) << colour;
    }
}

}  // namespace
}  // namespace fernleaf
