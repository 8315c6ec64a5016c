#include "render/divider_look.h"

#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace fernleaf {
namespace {

constexpr double kWaveMm = 4;          // from crest to crest
constexpr double kDash = 8, kGap = 5;  // in thicknesses

}  // namespace

void draw_divider(QPainter& painter, const Divider& divider, const PageScheme& scheme) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.translate(divider.middle.x, divider.middle.y);
    painter.rotate(divider.angle);
    QPen pen(shown_colour(divider.colour, scheme), divider.thickness_mm, Qt::SolidLine, Qt::FlatCap);
    painter.setBrush(Qt::NoBrush);
    const double half = divider.length_mm / 2;
    const auto rule = [&](double y) { painter.drawLine(QPointF(-half, y), QPointF(half, y)); };
    switch (divider.form) {
        case RuleForm::plain:
            painter.setPen(pen);
            rule(0);
            break;
        case RuleForm::twofold: {
            painter.setPen(pen);
            const double apart = (height_of(divider) - divider.thickness_mm) / 2;
            rule(-apart);
            rule(apart);
            break;
        }
        case RuleForm::dashed:
            pen.setDashPattern({kDash, kGap});
            painter.setPen(pen);
            rule(0);
            break;
        case RuleForm::dotted:
            pen.setCapStyle(Qt::RoundCap);
            pen.setDashPattern({0.01, 3});
            painter.setPen(pen);
            rule(0);
            break;
        case RuleForm::wavy: {
            pen.setCapStyle(Qt::RoundCap);
            painter.setPen(pen);
            const double rise = height_of(divider) - divider.thickness_mm;
            const int waves = std::max(1, static_cast<int>(std::lround(divider.length_mm / kWaveMm)));
            const double step = divider.length_mm / waves / 2;
            QPainterPath wave(QPointF(-half, 0));
            for (int i = 0; i < 2 * waves; ++i) {
                const double x = -half + i * step, y = i % 2 == 0 ? -rise : rise;
                wave.quadTo(QPointF(x + step / 2, y), QPointF(x + step, 0));
            }
            painter.drawPath(wave);
            break;
        }
    }
    painter.restore();
}

}  // namespace fernleaf
