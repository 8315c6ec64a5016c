// A scrap of paper on which a pen is tried before it touches the page. Nothing written here is kept. UI thread only.
#pragma once

#include <QElapsedTimer>
#include <QWidget>
#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

class Swatch : public QWidget {
    Q_OBJECT

public:
    explicit Swatch(QWidget* parent = nullptr);
    void set_pen(const Pen& pen);
    size_t strokes() const { return tried_.size(); }

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void tabletEvent(QTabletEvent* event) override;

private:
    void begin();
    void add(QPointF px, float pressure, float tilt_x, float tilt_y);

    Pen pen_;
    std::vector<Stroke> tried_;
    bool writing_ = false;
    QElapsedTimer clock_;
};

}  // namespace fernleaf
