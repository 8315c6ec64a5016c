#include "leaves/leaf_card.h"

#include <QKeyEvent>
#include <QPainter>

#include "look/theme.h"

namespace fernleaf {

LeafCard::LeafCard(QWidget* leaf) : QFrame(leaf) { setAttribute(Qt::WA_NoMousePropagation); }

void LeafCard::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(theme().line, 1));
    painter.setBrush(theme().card);
    painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 12, 12);
}

void LeafCard::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape || event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
        emit closed();
    else
        QFrame::keyPressEvent(event);
}

}  // namespace fernleaf
