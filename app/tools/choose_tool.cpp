#include "tools/choose_tool.h"

namespace fernleaf {
namespace {

constexpr double kClickSlopPx = 4;

}  // namespace

void ChooseTool::begin(const PenSample& sample) {
    panning_ = true;
    moved_ = false;
    last_px_ = sample.at;
}

void ChooseTool::begin_panning(const PenSample& sample) {
    begin(sample);
    moved_ = true;
}

void ChooseTool::go_on(const PenSample& sample) {
    const QPointF by = sample.at - last_px_;
    if (!moved_ && QPointF::dotProduct(by, by) < kClickSlopPx * kClickSlopPx) return;
    moved_ = true;
    last_px_ = sample.at;
    view().pan(by);
}

void ChooseTool::end() {
    panning_ = false;
    if (moved_) return;
    emit tapped(last_px_);
    emit place_chosen(surface_.place_at(last_px_));
}

}  // namespace fernleaf
