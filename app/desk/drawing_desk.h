// From drawn ink to fair shapes.
#pragma once

#include <QObject>
#include <vector>

#include "desk/desk.h"

namespace fernleaf {

// UI thread only, but for what it posts to the reader's.
class DrawingDesk : public Desk {
    Q_OBJECT

public:
    explicit DrawingDesk(const DeskParts& parts, QObject* parent = nullptr) : Desk(parts, parent) {}

    // Ink of the open page (none: all that is drawn on it) becomes shapes in its place: one step of undo. The way back
    // is TypesettingDesk::back_to_ink().
    void draw_fair(const std::vector<StrokeId>& ink);

signals:
    void drawn(const std::vector<ElementId>& shapes);
};

}  // namespace fernleaf
