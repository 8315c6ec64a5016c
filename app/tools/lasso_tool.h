// Choosing with a closed line, a rectangle or taps; and moving, scaling, turning and cropping what is chosen.
// UI thread only.
#pragma once

#include <vector>

#include "tools/chosen_plot.h"
#include "tools/chosen_table.h"
#include "tools/leaf_tool.h"

namespace fernleaf {

class LassoTool : public LeafTool {
    Q_OBJECT

public:
    LassoTool(ToolSurface& surface, SelectionEditing& editing, ChosenTable& table, ChosenPlot& plot)
        : LeafTool(surface), editing_(editing), table_(table), plot_(plot) {}

    bool changes_page() const override { return false; }
    void begin(const PenSample& sample) override;
    void go_on(const PenSample& sample) override;
    void end() override;
    void cancel() override;
    QCursor cursor() const override { return Qt::CrossCursor; }
    QCursor cursor_at(QPointF px) const;  // where a grip can be pulled, another
    void paint(QPainter& painter) const override;

private:
    void tap(QPointF px);
    void lift();      // what is being changed leaves the page's picture, and what follows it
    void put_back();  // … and is there again
    void drag(Point at);

    SelectionEditing& editing_;
    ChosenTable& table_;
    ChosenPlot& plot_;
    std::vector<Point> lasso_;  // mm
    bool rectangle_ = false;
    Elements lifted_;          // from the page's picture, while it is changed
    std::vector<Box> others_;  // what stands about what is moved, for guides; none where they are not wanted
    double grid_mm_ = 0;       // of the paper; 0: none
    QPointF last_px_;
};

}  // namespace fernleaf
