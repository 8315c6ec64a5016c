// Moving the page about, and choosing the word that is clicked. UI thread only.
#pragma once

#include "tools/leaf_tool.h"

namespace fernleaf {

class ChooseTool : public LeafTool {
    Q_OBJECT

public:
    using LeafTool::LeafTool;

    bool changes_page() const override { return false; }
    void begin(const PenSample& sample) override;
    void begin_panning(const PenSample& sample);  // whatever is under it, no word is chosen
    void go_on(const PenSample& sample) override;
    void end() override;
    void cancel() override { panning_ = false; }
    QCursor cursor() const override { return panning_ ? Qt::ClosedHandCursor : Qt::ArrowCursor; }
    void paint(QPainter&) const override {}

signals:
    void tapped(QPointF px);
    void place_chosen(ReadPlace place);

private:
    QPointF last_px_;
    bool panning_ = false, moved_ = false;
};

}  // namespace fernleaf
