#include "leaves/swatch.h"

#include <QMouseEvent>
#include <QPainter>
#include <QTabletEvent>
#include <cmath>

#include "look/theme.h"
#include "render/fonts.h"
#include "render/stroke_look.h"

namespace fernleaf {
namespace {

constexpr double kPxPerMm = 5;  // about what the page shows
constexpr size_t kMostTried = 40;

// A wave, swelling and hurrying towards its end, that shows the pen at work.
Stroke sample(const Pen& pen, const QSizeF& mm) {
    Stroke stroke;
    stroke.pen = pen;
    constexpr int kPoints = 70;
    for (int i = 0; i <= kPoints; ++i) {
        const double t = static_cast<double>(i) / kPoints;
        const double x = 4 + t * (mm.width() - 8), y = mm.height() / 2 + 0.24 * mm.height() * std::sin(t * 11);
        stroke.points.push_back({{x, y},
                                 static_cast<float>(0.15 + 0.75 * t),
                                 static_cast<float>(pen.kind == PenKind::pencil ? 50 * t : 0),
                                 0,
                                 static_cast<uint32_t>(1600 * std::sqrt(t))});
    }
    return stroke;
}

}  // namespace

Swatch::Swatch(QWidget* parent) : QWidget(parent) {
    setFixedHeight(76);
    setCursor(Qt::CrossCursor);
    setAccessibleName(tr("A scrap of paper to try the pen on"));
}

void Swatch::set_pen(const Pen& pen) {
    pen_ = pen;
    tried_.clear();
    update();
}

void Swatch::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    painter.setPen(QPen(t.line, 1));
    painter.setBrush(t.page.paper);
    painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
    painter.setClipRect(rect().adjusted(1, 1, -1, -1));
    if (tried_.empty()) {
        QFont font(kTextFace);
        font.setPixelSize(12);
        font.setItalic(true);
        painter.setFont(font);
        painter.setPen(t.quiet_text);
        painter.drawText(rect().adjusted(10, 0, -10, -5), Qt::AlignBottom | Qt::AlignRight, tr("try it here"));
    }
    painter.scale(kPxPerMm, kPxPerMm);
    painter.setPen(Qt::NoPen);
    if (tried_.empty()) StrokeLook(sample(pen_, QSizeF(size()) / kPxPerMm)).draw(painter, t.page);
    for (const Stroke& stroke : tried_) StrokeLook(stroke).draw(painter, t.page);
}

void Swatch::begin() {
    if (tried_.size() >= kMostTried) tried_.clear();
    tried_.push_back({0, pen_, 0, 0, {}});
    clock_.start();
}

void Swatch::add(QPointF px, float pressure, float tilt_x, float tilt_y) {
    if (tried_.empty()) return;
    tried_.back().points.push_back(
        {{px.x() / kPxPerMm, px.y() / kPxPerMm}, pressure, tilt_x, tilt_y, static_cast<uint32_t>(clock_.elapsed())});
    update();
}

void Swatch::mousePressEvent(QMouseEvent* event) {
    begin();
    add(event->position(), 0.5F, 0, 0);
}

void Swatch::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() & Qt::LeftButton) add(event->position(), 0.5F, 0, 0);
}

void Swatch::tabletEvent(QTabletEvent* event) {
    if (event->type() == QEvent::TabletPress) {
        writing_ = true;
        begin();
    }
    if (writing_)
        add(event->position(), static_cast<float>(event->pressure()), static_cast<float>(event->xTilt()),
            static_cast<float>(event->yTilt()));
    if (event->type() == QEvent::TabletRelease) writing_ = false;
    event->accept();
}

}  // namespace fernleaf
