// The one plot that is chosen on the ink leaf. While it is looked into, dragging in it moves the part of the numbers
// that is seen, and the wheel draws it larger or smaller. Each change is one step of undo; the plot stays chosen.
#pragma once

#include <QObject>
#include <QTimer>
#include <functional>
#include <optional>

#include "tools/selection_editing.h"

namespace fernleaf {

// UI thread only.
class ChosenPlot : public QObject {
    Q_OBJECT

public:
    ChosenPlot(ToolSurface& surface, SelectionEditing& choosing);

    const Plot* plot() const;  // null: none is chosen, or more than it; as it is kept
    void look_into(bool on);
    bool looked_into() const { return looked_into_ && plot(); }
    bool holds(QPointF px) const;  // among its curves

    void begin(QPointF px);
    void drag_to(QPointF px);
    void end();
    void cancel();
    bool dragging() const { return from_.has_value(); }
    void zoom(QPointF px, double times);

    void change(const std::function<void(Plot&)>& change, const char* label);

signals:
    void changed();  // whether it is looked into, or what it shows

private:
    Point number_at(QPointF px, const PlotRange& range) const;
    void show(const PlotRange& range);
    void keep();
    void replace(PlotId id, const std::function<void(Plot&)>& change, const char* label);

    ToolSurface& surface_;
    SelectionEditing& choosing_;
    bool looked_into_ = false;
    bool replacing_ = false;     // another version is about to be chosen
    std::optional<Point> from_;  // number that is dragged
    PlotRange before_;           // the drag
    std::optional<Plot> shown_;  // with a range that is not kept yet
    QTimer pause_;               // until the wheel is done
};

}  // namespace fernleaf
