// Making room: what stands below a place moves down, or what stands right of it in its line moves right; and back.
// UI thread only.
#pragma once

#include <optional>

#include "tools/leaf_tool.h"
#include "tools/selection.h"
#include "transcript/inserted_space.h"

namespace fernleaf {

class RoomTool : public LeafTool {
    Q_OBJECT

public:
    using LeafTool::LeafTool;
    void begin(const PenSample& sample) override;
    void go_on(const PenSample& sample) override;
    void end() override;
    void cancel() override;
    QCursor cursor() const override { return Qt::SizeVerCursor; }
    void paint(QPainter& painter) const override;

private:
    std::optional<InsertedSpace> space_;
    Selection moving_;  // what moves, shown moving
    QPointF from_, to_;
};

}  // namespace fernleaf
