// Writing: a stroke drawn as it grows, kept when the pen lifts, and then looked at as a scribble or a proof mark.
// UI thread only.
#pragma once

#include <QElapsedTimer>
#include <QImage>

#include "tools/leaf_tool.h"
#include "transcript/proof_mark.h"

namespace fernleaf {

class PenTool : public LeafTool {
    Q_OBJECT

public:
    using LeafTool::LeafTool;
    void set_pen(const Pen& pen) { pen_ = pen; }
    void set_scribbles(bool erase) { scribbles_ = erase; }
    void set_proof_marks(ProofMarks marks) { proof_marks_ = marks; }  // those that act
    void forget_drawn();  // the view moved: what was drawn of the stroke is elsewhere now

    void begin(const PenSample& sample) override;
    void go_on(const PenSample& sample) override;
    void end() override;
    void cancel() override;
    QCursor cursor() const override { return Qt::CrossCursor; }
    void paint(QPainter& painter) const override;

signals:
    void acted(const Box& mm);            // something was done there
    void typing_wanted(QPointF leaf_px);  // a proof mark asked to insert in type

private:
    bool scribble_out(StrokeId newest);
    void follow_proof_mark(StrokeId newest);

    Pen pen_;
    bool scribbles_ = true;
    ProofMarks proof_marks_;
    Stroke live_;
    QElapsedTimer clock_;
    QImage overlay_;  // the stroke under the pen, drawn as it grows
    bool down_ = false;
};

}  // namespace fernleaf
