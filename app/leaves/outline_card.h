// What a diagram says, as text: a line a link; to be read and copied. UI thread only.
#pragma once

#include <QFrame>
#include <QLabel>

#include "drawing/drawing_reading.h"

namespace fernleaf {

class OutlineCard : public QFrame {
    Q_OBJECT

public:
    explicit OutlineCard(QWidget* parent);
    void show_outline(const DrawingReading& drawing);

private:
    QLabel* lines_;
    QString list_;  // as it is copied
};

}  // namespace fernleaf
