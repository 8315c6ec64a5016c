// What a diagram says, as text: a line a link; to be read and copied. UI thread only.
#pragma once

#include <QLabel>

#include "drawing/drawing_reading.h"
#include "leaves/leaf_card.h"

namespace fernleaf {

class OutlineCard : public LeafCard {
    Q_OBJECT

public:
    explicit OutlineCard(QWidget* parent);
    void show_outline(const DrawingReading& drawing);

private:
    QLabel* lines_;
    QString list_;  // as it is copied
};

}  // namespace fernleaf
