// The hand rest: the lower part of the leaf, where touch does nothing, so that a hand can lie there. Its upper edge is
// dragged by a grip, or moved with the arrow keys while the grip has the focus. UI thread only.
#pragma once

#include <QWidget>

namespace fernleaf {

class HandRest : public QWidget {
    Q_OBJECT

public:
    explicit HandRest(QWidget* leaf);

    // The part of the leaf's height that rests; 0: none.
    void set_share(double share);
    double share() const { return share_; }
    // px of the leaf; empty when there is none.
    QRect area() const;
    void paint_area(QPainter& painter) const;

signals:
    void moved(double share);  // by the person

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    void place();
    void move_to(double share);

    double share_ = 0;
    int held_at_ = 0;  // px from the grip's top
};

constexpr double kUsualHandRest = 0.3;  // of the leaf's height

}  // namespace fernleaf
