// Erasing parts of strokes, strokes or words, gone from sight at once and one step of undo when the eraser lifts.
// UI thread only.
#pragma once

#include <QElapsedTimer>
#include <map>

#include "desk/tools.h"
#include "tools/leaf_tool.h"

namespace fernleaf {

class EraserTool : public LeafTool {
    Q_OBJECT

public:
    using LeafTool::LeafTool;
    void set_eraser(const Eraser& eraser) { eraser_ = eraser; }

    void begin(const PenSample& sample) override;
    void go_on(const PenSample& sample) override;
    void end() override;
    void cancel() override;
    QCursor cursor() const override;
    void paint(QPainter&) const override {}

signals:
    void erased();  // it was lifted after taking something

private:
    double radius_px(const PenSample& sample);
    void take_from(const std::shared_ptr<const DrawnStroke>& shape, Point from, Point to, double radius, Edit& edit);

    Eraser eraser_;
    std::vector<Stroke> erased_;         // taken from the page since it came down
    std::map<StrokeId, Stroke> pieces_;  // what is left of them
    QElapsedTimer clock_;
    double speed_ = 0;  // px/ms
    QPointF last_px_;
};

}  // namespace fernleaf
