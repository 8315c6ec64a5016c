#include "window/sign_picture.h"

#include <QFontMetricsF>
#include <QPainter>
#include <QPainterPath>
#include <cmath>

#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr double kTypePx = 20, kLinePx = 32, kFirstBaselinePx = 50;
constexpr double kMarkPx = 2.4;

struct Placed {
    QRectF box;  // of the small letters
    QString text;
};

// Words side by side in the middle of the picture, their baseline given.
std::vector<Placed> placed(const QStringList& words, double baseline, const QFontMetricsF& metrics, double left) {
    std::vector<Placed> out;
    const double space = metrics.horizontalAdvance(' ');
    for (const QString& text : words) {
        const double wide = metrics.horizontalAdvance(text);
        out.push_back({QRectF(left, baseline - metrics.xHeight(), wide, metrics.xHeight()), text});
        left += wide + space;
    }
    return out;
}

// A polyline with rounded corners, as a pen draws it.
QPainterPath line(const QList<QPointF>& through) {
    QPainterPath path(through[0]);
    for (int i = 1; i < through.size(); ++i) path.lineTo(through[i]);
    return path;
}

QPainterPath wave(double left, double right, double y) {
    QPainterPath path({left, y});
    for (double x = left; x <= right; x += 0.5) path.lineTo(x, y + 2.5 * std::sin((x - left) / 2.6));
    return path;
}

}  // namespace

SignPicture::SignPicture(ProofMark mark) : mark_(mark) { setFixedSize(kWidth, kHeight); }

void SignPicture::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    painter.setPen(QPen(t.line, 1));
    painter.setBrush(t.dark ? t.page.paper.lighter(112) : t.page.paper);
    painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
    QFont font(kTextFace);
    font.setPixelSize(static_cast<int>(kTypePx));
    const QFontMetricsF metrics(font);
    painter.setFont(font);

    const bool two_lines = mark_ == ProofMark::run_on;
    QStringList first{QStringLiteral("late"), QStringLiteral("frost")};
    if (mark_ == ProofMark::separate) first = {QStringLiteral("latefrost")};
    if (mark_ == ProofMark::close_up) first = {QStringLiteral("bee"), QStringLiteral("hive")};
    const double wide = metrics.horizontalAdvance(first.join(' '));
    const double baseline = two_lines ? kFirstBaselinePx - 15 : kFirstBaselinePx;
    const auto words = placed(first, baseline, metrics, (kWidth - wide) / 2);
    const auto below =
        placed({QStringLiteral("at"), QStringLiteral("dawn")}, baseline + kLinePx, metrics, (kWidth - wide) / 2);
    painter.setPen(t.text);
    const auto write = [&](const std::vector<Placed>& all) {
        for (const Placed& w : all) painter.drawText(w.box.bottomLeft(), w.text);
    };
    write(words);
    if (two_lines) write(below);

    const QRectF a = words.front().box, b = words.back().box;
    const double gap = (a.right() + b.left()) / 2;
    QPainterPath mark;
    switch (mark_) {
        case ProofMark::strike_out:
            mark = line({{b.left() - 5, b.center().y() + 1}, {b.right() + 6, b.center().y() - 1}});
            break;
        case ProofMark::insert:
            mark = line({{gap - 7, a.bottom() + 15}, {gap, a.bottom() - 1}, {gap + 7, a.bottom() + 15}});
            break;
        case ProofMark::separate: {
            const double x = a.left() + metrics.horizontalAdvance(QStringLiteral("late"));
            mark = line({{x + 1, a.top() - 13}, {x - 1, a.bottom() + 11}});
            break;
        }
        case ProofMark::close_up:
            mark.moveTo(a.right() - 8, a.top() - 3);
            mark.quadTo(gap, a.top() - 17, b.left() + 8, a.top() - 3);
            break;
        case ProofMark::run_on: {
            const QRectF next = below.front().box;
            mark.moveTo(b.right() + 3, b.center().y());
            mark.cubicTo(b.right() + 34, b.center().y() + 18, next.left() - 46, next.center().y() - 18, next.left() - 5,
                         next.center().y());
            break;
        }
        case ProofMark::paragraph:
            mark = line({{b.left() - 4, b.bottom() + 7}, {b.left() - 4, b.top() - 11}, {b.left() + 18, b.top() - 11}});
            break;
        case ProofMark::italic:
            mark = line({{b.left() - 2, b.bottom() + 8}, {b.right() + 3, b.bottom() + 7}});
            break;
        case ProofMark::bold:
            mark = wave(b.left() - 2, b.right() + 3, b.bottom() + 9);
            break;
        case ProofMark::heading: {
            const QPointF middle(a.left() - 24, a.center().y() - 1);
            mark.addEllipse(middle, 12, 12);
            mark.addPath(line(
                {{middle.x() - 5, middle.y() + 6}, {middle.x(), middle.y() - 6}, {middle.x() + 5, middle.y() + 6}}));
            mark.addPath(line({{middle.x() - 3, middle.y() + 2}, {middle.x() + 3, middle.y() + 2}}));
            break;
        }
    }
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(t.unsure, kMarkPx, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    painter.drawPath(mark);
}

}  // namespace fernleaf
