// How much of the page both leaves show: one scale and one vertical place, so that lines stand beside lines.
// UI thread only.
#pragma once

#include <QObject>
#include <QPointF>
#include <algorithm>

namespace fernleaf {

class PageViewport : public QObject {
    Q_OBJECT

public:
    using QObject::QObject;
    static constexpr double kSmallest = 0.8;  // px for a mm
    static constexpr double kLargest = 60;

    double scale() const { return scale_; }
    QPointF origin() const { return origin_; }  // of the page's top left corner in the ink leaf, px

    QPointF to_page(QPointF px) const { return (px - origin_) / scale_; }
    QPointF to_leaf(QPointF mm) const { return mm * scale_ + origin_; }

    void set(double scale, QPointF origin) {
        const double bounded = std::clamp(scale, kSmallest, kLargest);
        const QPointF whole = origin.toPoint();  // tiles fall on whole pixels
        if (bounded == scale_ && whole == origin_) return;
        scale_ = bounded;
        origin_ = whole;
        emit changed();
    }
    // Keeps what lies under the pointer there.
    void zoom(double factor, QPointF about_px) {
        const QPointF fixed = to_page(about_px);
        const double scale = std::clamp(scale_ * factor, kSmallest, kLargest);
        set(scale, about_px - fixed * scale);
    }
    void pan(QPointF by) { set(scale_, origin_ + by); }

signals:
    void changed();

private:
    double scale_ = 4;
    QPointF origin_{24, 24};
};

}  // namespace fernleaf
