#include "tools/sound_signs.h"

#include <QPainterPath>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "look/theme.h"

namespace fernleaf {
namespace {

constexpr double kSidePx = 15, kReachPx = 12;
constexpr double kGapMm = 6, kFromEdgeMm = 4;  // to the ink's left; from the page's edge
constexpr double kSmall = 0.5, kAbove = 0.4;   // of a line's height
constexpr double kSameLine = 0.4;              // of the lower one's height within the other

// An unrolled fern's head: two turns of a spiral and its stalk, in a square of side 1.
QPainterPath fern_head() {
    QPainterPath path(QPointF(0.16, 1));
    path.quadTo(QPointF(0.04, 0.62), QPointF(0.12, 0.42));
    constexpr int kSteps = 48;
    constexpr double kTurns = 1.6;
    for (int i = 0; i <= kSteps; ++i) {
        const double part = static_cast<double>(i) / kSteps;
        const double radius = 0.42 * (1 - 0.86 * part), angle = std::numbers::pi * (1 + 2 * kTurns * part);
        path.lineTo(QPointF(0.54 + radius * std::cos(angle), 0.42 + radius * std::sin(angle)));
    }
    return path;
}

}  // namespace

void SoundSigns::refresh() {
    signs_.clear();
    const Page* page = surface_.session().page();
    if (!page) return surface_.refresh_all();
    struct Line {
        Box box;
        int64_t when_ms;
    };
    std::vector<const Stroke*> heard;
    const TracksDesk& tracks = surface_.session().tracks();
    for (const Stroke& s : page->strokes)
        if (!s.points.empty() && tracks.track_of(s.start_ms)) heard.push_back(&s);
    // Tall ones first: dots and commas join the line they stand in.
    std::ranges::sort(heard, [](const Stroke* a, const Stroke* b) { return a->box().height() > b->box().height(); });
    std::vector<Line> lines;
    for (const Stroke* s : heard) {
        const Box box = s->box();
        const auto same = std::ranges::find_if(lines, [&](const Line& line) {
            const double both = std::min(line.box.bottom, box.bottom) - std::max(line.box.top, box.top);
            // Bars and dots may lie above what they belong to.
            const bool small = box.height() < kSmall * line.box.height();
            return both >=
                   (small ? -kAbove * line.box.height() : kSameLine * std::min(line.box.height(), box.height()));
        });
        if (same == lines.end()) {
            lines.push_back({box, s->start_ms});
        } else {
            // Its height stays: lines that climb would join all others.
            same->box.left = std::min(same->box.left, box.left);
            same->when_ms = std::min(same->when_ms, s->start_ms);
        }
    }
    for (const Line& line : lines)
        signs_.push_back({{std::max(kFromEdgeMm, line.box.left - kGapMm), line.box.centre().y}, line.when_ms});
    surface_.refresh_all();
}

QRectF SoundSigns::box_px(size_t sign) const {
    const QPointF middle = surface_.view().to_leaf({signs_[sign].at.x, signs_[sign].at.y});
    return {middle - QPointF(kSidePx / 2, kSidePx / 2), QSizeF(kSidePx, kSidePx)};
}

std::optional<int64_t> SoundSigns::at(QPointF px) const {
    for (size_t i = 0; i < signs_.size(); ++i) {
        const QPointF off = px - box_px(i).center();
        if (std::abs(off.x()) <= kReachPx && std::abs(off.y()) <= kReachPx) return signs_[i].when_ms;
    }
    return {};
}

void SoundSigns::paint(QPainter& painter) const {
    static const QPainterPath head = fern_head();
    painter.save();
    painter.setBrush(Qt::NoBrush);
    for (size_t i = 0; i < signs_.size(); ++i) {
        const QRectF box = box_px(i);
        QTransform to;
        to.translate(box.left(), box.top());
        to.scale(kSidePx, kSidePx);
        painter.setPen(QPen(theme().act, 1.7, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPath(to.map(head));
    }
    painter.restore();
}

}  // namespace fernleaf
