#include "tools/eraser_tool.h"

#include <QLineF>
#include <algorithm>
#include <set>

#include "ink/erasing.h"
#include "look/theme.h"

namespace fernleaf {
namespace {

constexpr double kSmallPx = 5, kMediumPx = 10, kLargePx = 24;  // radii
constexpr double kPxPerSpeed = 12;  // of radius for each px/ms, when the size follows the hand
constexpr double kSpeedMemoryMs = 60;

}  // namespace

void EraserTool::begin(const PenSample& sample) {
    cancel();
    clock_.start();
    speed_ = 0;
    last_px_ = sample.at;
    go_on(sample);
}

void EraserTool::cancel() {
    erased_.clear();
    pieces_.clear();
}

double EraserTool::radius_px(const PenSample& sample) {
    switch (eraser_.size) {
        case EraserSize::small:
            return kSmallPx;
        case EraserSize::medium:
            return kMediumPx;
        case EraserSize::large:
            return kLargePx;
        case EraserSize::by_speed:
            break;
    }
    const double ms = static_cast<double>(std::max<qint64>(1, clock_.restart()));
    const double now = QLineF(last_px_, sample.at).length() / ms;
    speed_ += (now - speed_) * std::min(1.0, ms / kSpeedMemoryMs);
    const double pressed = 0.6 + 0.8 * sample.pressure;  // 1 where the device knows no pressure
    return std::clamp((kSmallPx + kPxPerSpeed * speed_) * pressed, kSmallPx, kLargePx);
}

// What the eraser takes from one stroke on its way, and what it leaves.
void EraserTool::take_from(const std::shared_ptr<const DrawnStroke>& shape, Point from, Point to, double radius,
                           Edit& edit) {
    const Stroke& stroke = shape->stroke();
    if (eraser_.highlighter_only && !lies_under(stroke.pen)) return;
    Box passed;
    passed.include(from);
    passed.include(to);
    if (!shape->box().meets(passed.grown(radius))) return;
    // The eraser's edge meets the ink's: a piece ends in a round end half as wide as its pen.
    std::vector<Stroke> rest = erased_along(stroke, from, to, radius + stroke.pen.width_mm / 2);
    if (rest.size() == 1 && rest.front() == stroke) return;
    edit.removed.strokes.push_back(stroke);
    if (eraser_.takes != EraserTakes::part) return;
    for (Stroke& piece : rest) {
        piece.id = session().editing().new_id();
        edit.added.strokes.push_back(std::move(piece));
    }
}

void EraserTool::go_on(const PenSample& sample) {
    const Point a = surface_.page_point(last_px_), b = surface_.page_point(sample.at);
    const double radius = radius_px(sample) / view().scale();
    last_px_ = sample.at;
    Edit edit{"Erase"};
    std::vector<Stroke>& gone = edit.removed.strokes;
    const std::vector<std::shared_ptr<const DrawnStroke>> shapes = tiles().scene().shapes;
    for (const auto& shape : shapes) take_from(shape, a, b, radius, edit);
    if (eraser_.takes == EraserTakes::word && !gone.empty()) {
        std::set<StrokeId> taken, wanted;
        for (const Stroke& s : gone) taken.insert(s.id);
        for (const ReadLine& line : session().reading().lines)
            for (const ReadWord& word : line.words)
                if (std::ranges::any_of(word.strokes, [&](StrokeId id) { return taken.contains(id); }))
                    wanted.insert(word.strokes.begin(), word.strokes.end());
        for (const auto& shape : shapes)
            if (wanted.contains(shape->id()) && !taken.contains(shape->id())) gone.push_back(shape->stroke());
    }
    if (gone.empty()) return;
    // Gone from sight at once; committed as one step when the eraser lifts.
    tiles().apply(edit);
    surface_.refresh(surface_.leaf_rect(touched_by(edit), 3));
    for (Stroke& s : gone)
        if (pieces_.erase(s.id) == 0) erased_.push_back(std::move(s));
    for (Stroke& s : edit.added.strokes) pieces_[s.id] = std::move(s);
}

void EraserTool::end() {
    if (erased_.empty()) return;
    std::vector<Stroke> pieces;
    for (auto& [id, piece] : pieces_) pieces.push_back(std::move(piece));
    session().editing().change({"Erase", {std::move(pieces)}, {std::move(erased_)}});
    cancel();
    emit erased();
}

QCursor EraserTool::cursor() const {
    const double radius = eraser_.size == EraserSize::small   ? kSmallPx
                          : eraser_.size == EraserSize::large ? kLargePx
                                                              : kMediumPx;
    const int side = static_cast<int>(2 * radius) + 3;
    QPixmap ring(side, side);
    ring.fill(Qt::transparent);
    QPainter painter(&ring);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(theme().unsure, 1.6));
    painter.drawEllipse(QPointF(side / 2.0, side / 2.0), radius, radius);
    painter.end();
    return QCursor(ring);
}

}  // namespace fernleaf
