// A track from its beginning to its end: how loud it is, where something was written, bookmarks, and what is heard now.
// Clicked or dragged, or moved by keys, it is heard from there. UI thread only.
#pragma once

#include <QWidget>

#include "desk/listening_desk.h"

namespace fernleaf {

class SoundBand : public QWidget {
    Q_OBJECT

public:
    explicit SoundBand(ListeningDesk& listening, QWidget* parent = nullptr);

    int64_t position_at(double x) const;
    QSize sizeHint() const override { return {400, 44}; }

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool event(QEvent* event) override;

private:
    double x_of(int64_t position_ms) const;
    void moved();

    ListeningDesk& listening_;
};

}  // namespace fernleaf
