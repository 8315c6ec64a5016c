#include "tools/sound_signs.h"

#include <QPainterPath>
#include <QPointer>
#include <algorithm>
#include <cmath>
#include <functional>
#include <numbers>
#include <utility>

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

void SoundSigns::edited(const Edit& edit) {
    const HeardTimes& heard = surface_.session().tracks().heard();
    bool matters = false;
    for (const Elements* side : {&edit.added, &edit.removed}) {
        matters = matters || std::ranges::any_of(side->strokes, [&](const Stroke& s) { return heard.at(s.start_ms); });
        for_each_element(*side, [&]<typename E>(const E& e) {
            if constexpr (FromInk<E>) matters = matters || !e.ink.empty();
        });
    }
    if (!matters) return;
    know(edit.removed);
    refresh();
}

// What leaves the page may be what something on it was made from.
void SoundSigns::know(const Elements& elements) {
    for (const Stroke& s : elements.strokes) begun_[s.id] = s.start_ms;
}

void SoundSigns::ask_begun(const std::vector<StrokeId>& ink) {
    surface_.session().tracks().find_begun(ink,
                                           [self = QPointer(this), page = page_](const std::vector<Stroke>& strokes) {
                                               if (!self || self->page_ != page) return;
                                               for (const Stroke& s : strokes) self->begun_[s.id] = s.start_ms;
                                               self->refresh();
                                           });
}

// What was set in type or drawn fair from ink to which there is sound.
std::vector<SoundSigns::Line> SoundSigns::made_from_ink() {
    std::vector<Line> out;
    std::vector<StrokeId> unknown;
    const HeardTimes& heard = surface_.session().tracks().heard();
    for_each_element(*surface_.session().page(), [&]<typename E>(const E& e) {
        if constexpr (FromInk<E>) {
            int64_t first = INT64_MAX;
            for (const StrokeId id : e.ink) {
                const auto [begun, fresh] = begun_.try_emplace(id, 0);
                if (fresh) unknown.push_back(id);
                if (heard.at(begun->second)) first = std::min(first, begun->second);
            }
            if (first != INT64_MAX) out.push_back({ElementTraits<E>::bounds(e), first});
        }
    });
    if (!unknown.empty()) ask_begun(unknown);
    return out;
}

void SoundSigns::refresh() {
    const std::vector<Sign> before = std::exchange(signs_, {});
    std::vector<Line> strokes, lines;
    const HeardTimes& heard = surface_.session().tracks().heard();
    if (const Page* page = surface_.session().page()) {
        if (std::exchange(page_, page->info.id) != page->info.id) begun_.clear();
        strokes = made_from_ink();
        for (const Stroke& s : page->strokes)
            if (!s.points.empty() && heard.at(s.start_ms)) strokes.push_back({s.box(), s.start_ms});
    }
    // Tall ones first: dots and commas join the line they stand in.
    std::ranges::sort(strokes, std::greater{}, [](const Line& s) { return s.box.height(); });
    for (const Line& s : strokes) {
        const auto same = std::ranges::find_if(lines, [&](const Line& line) {
            const double both = std::min(line.box.bottom, s.box.bottom) - std::max(line.box.top, s.box.top);
            // Bars and dots may lie above what they belong to.
            const bool small = s.box.height() < kSmall * line.box.height();
            return both >=
                   (small ? -kAbove * line.box.height() : kSameLine * std::min(line.box.height(), s.box.height()));
        });
        if (same == lines.end()) {
            lines.push_back(s);
        } else {
            // Its height stays: lines that climb would join all others.
            same->box.left = std::min(same->box.left, s.box.left);
            same->when_ms = std::min(same->when_ms, s.when_ms);
        }
    }
    for (const Line& line : lines)
        signs_.push_back({{std::max(kFromEdgeMm, line.box.left - kGapMm), line.box.centre().y}, line.when_ms});
    if (signs_ == before) return;
    for (const std::vector<Sign>* side : {&before, &std::as_const(signs_)})
        for (const Sign& sign : *side) surface_.refresh(box_of(sign).adjusted(-2, -2, 2, 2));
}

QRectF SoundSigns::box_of(const Sign& sign) const {
    const QPointF middle = surface_.view().to_leaf({sign.at.x, sign.at.y});
    return {middle - QPointF(kSidePx / 2, kSidePx / 2), QSizeF(kSidePx, kSidePx)};
}

std::optional<int64_t> SoundSigns::at(QPointF px) const {
    for (const Sign& sign : signs_) {
        const QPointF off = px - box_of(sign).center();
        if (std::abs(off.x()) <= kReachPx && std::abs(off.y()) <= kReachPx) return sign.when_ms;
    }
    return {};
}

void SoundSigns::paint(QPainter& painter) const {
    static const QPainterPath head = fern_head();
    painter.save();
    painter.setBrush(Qt::NoBrush);
    for (const Sign& sign : signs_) {
        const QRectF box = box_of(sign);
        QTransform to;
        to.translate(box.left(), box.top());
        to.scale(kSidePx, kSidePx);
        painter.setPen(QPen(theme().act, 1.7, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPath(to.map(head));
    }
    painter.restore();
}

}  // namespace fernleaf
