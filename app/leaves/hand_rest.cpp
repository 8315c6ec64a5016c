#include "leaves/hand_rest.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include "look/theme.h"

namespace fernleaf {
namespace {

constexpr int kGripWidth = 92, kGripHeight = 22;
constexpr double kLeastShare = 0.08, kMostShare = 0.85;
constexpr double kKeyStep = 0.02;

}  // namespace

HandRest::HandRest(QWidget* leaf) : QWidget(leaf) {
    setObjectName(QStringLiteral("handRest"));
    setFixedSize(kGripWidth, kGripHeight);
    setCursor(Qt::SizeVerCursor);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Hand rest"));
    setToolTip(tr("Hand rest: touch is ignored below this line. Drag it up or down."));
    leaf->installEventFilter(this);
    hide();
}

void HandRest::set_share(double share) {
    share_ = share <= 0 ? 0 : std::clamp(share, kLeastShare, kMostShare);
    setVisible(share_ > 0);
    place();
}

QRect HandRest::area() const {
    if (share_ <= 0) return {};
    const QRect leaf = parentWidget()->rect();
    return leaf.adjusted(0, static_cast<int>(leaf.height() * (1 - share_)), 0, 0);
}

void HandRest::place() {
    const QRect rest = area();
    move(rest.right() - kGripWidth - 12, rest.top() - kGripHeight / 2);
    parentWidget()->update();
}

void HandRest::move_to(double share) {
    set_share(std::clamp(share, kLeastShare, kMostShare));
    emit moved(share_);
}

bool HandRest::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::Resize) place();
    return QWidget::eventFilter(watched, event);
}

void HandRest::paint_area(QPainter& painter) const {
    if (share_ <= 0) return;
    const Theme& t = theme();
    QColor wash = t.act;
    wash.setAlpha(16);
    painter.fillRect(area(), wash);
    painter.setPen(QPen(t.act, 1.2, Qt::DashLine));
    painter.drawLine(area().topLeft(), area().topRight());
}

void HandRest::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    painter.setPen(QPen(t.act, hasFocus() ? 2 : 1.2));
    painter.setBrush(t.card);
    painter.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), kGripHeight / 2.0 - 1, kGripHeight / 2.0 - 1);
    painter.setPen(t.act);
    QFont small = font();
    small.setPixelSize(11);
    painter.setFont(small);
    painter.drawText(rect(), Qt::AlignCenter, tr("hand rest"));
}

void HandRest::mousePressEvent(QMouseEvent* event) { held_at_ = event->position().toPoint().y() - kGripHeight / 2; }

void HandRest::mouseMoveEvent(QMouseEvent* event) {
    if (!(event->buttons() & Qt::LeftButton)) return;
    const double y = mapToParent(event->position().toPoint()).y() - held_at_;
    move_to(1 - y / std::max(1, parentWidget()->height()));
}

void HandRest::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Up)
        move_to(share_ + kKeyStep);
    else if (event->key() == Qt::Key_Down)
        move_to(share_ - kKeyStep);
    else
        QWidget::keyPressEvent(event);
}

}  // namespace fernleaf
