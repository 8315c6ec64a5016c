// A line of text that ends in "…" where there is no room for all of it; the whole then comes with the pointer.
// UI thread only.
#pragma once

#include <QHelpEvent>
#include <QLabel>
#include <QPainter>
#include <QToolTip>

namespace fernleaf {

class ElidedLabel : public QLabel {
public:
    using QLabel::QLabel;
    QSize minimumSizeHint() const override {
        return {fontMetrics().horizontalAdvance(QStringLiteral("Mmm …")), QLabel::minimumSizeHint().height()};
    }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.setPen(palette().color(foregroundRole()));
        painter.drawText(contentsRect(), Qt::AlignLeft | Qt::AlignVCenter, shown());
    }
    bool event(QEvent* event) override {
        if (event->type() != QEvent::ToolTip) return QLabel::event(event);
        QToolTip::showText(static_cast<QHelpEvent*>(event)->globalPos(), shown() == text() ? QString() : text(), this);
        return true;
    }

private:
    QString shown() const { return fontMetrics().elidedText(text(), Qt::ElideRight, contentsRect().width()); }
};

}  // namespace fernleaf
