#include "ink/nib.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace fernleaf {
namespace {

// Ballpoint: a hard ball, which a heavy hand makes a little broader.
constexpr double kBallLeast = 0.85, kBallSpan = 0.3;
// Fountain pen: the slit opens under pressure; in haste less ink follows.
constexpr double kSlitLeast = 0.5, kSlitSpan = 1.0;
constexpr double kCalmMmPerMs = 0.04;  // calm handwriting moves at about 40 mm/s
constexpr double kHasteShare = 0.22;   // of the width, lost each time the speed doubles
constexpr double kHasteLeast = 0.55, kHasteMost = 1.2;
constexpr double kSpeedMemoryMm = 1.5;  // way over which a change of speed takes effect: hands don't jerk
// Pencil.
constexpr double kLeadLeast = 0.9, kLeadSpan = 0.2;
constexpr double kLeanMost = 2.5;  // times broader, lying on its side
constexpr double kFaintest = 0.3;
// Chisel tip.
constexpr double kChiselAngle = std::numbers::pi / 4;
constexpr double kChiselEdge = 0.25;  // of the width, drawn along the edge

constexpr double kMiddlePressure = 0.5;

double lean_of(const InkPoint& p) {  // 0 upright to 1 lying
    const double degrees = std::hypot(p.tilt_x, p.tilt_y);
    return std::clamp(std::sin(std::min(degrees, 90.0) * std::numbers::pi / 180), 0.0, 1.0);
}

double haste(double mm_per_ms) {
    if (mm_per_ms <= 0) return 1;
    return std::clamp(1 - kHasteShare * std::log2(mm_per_ms / kCalmMmPerMs), kHasteLeast, kHasteMost);
}

}  // namespace

std::vector<NibMark> nib_marks(const Pen& pen, const std::vector<InkPoint>& points) {
    std::vector<NibMark> marks(points.size(), {pen.width_mm, 1});
    double speed = 0;  // mm/ms; 0 where the source knows no time
    for (size_t i = 0; i < points.size(); ++i) {
        const InkPoint& p = points[i];
        const double pressure = pen.by_pressure ? std::clamp<double>(p.pressure, 0, 1) : kMiddlePressure;
        double& width = marks[i].width_mm;
        switch (pen.kind) {
            case PenKind::ballpoint:
                width *= kBallLeast + kBallSpan * pressure;
                break;
            case PenKind::fountain: {
                if (i > 0 && p.time_ms > points[i - 1].time_ms) {
                    const double way = distance(points[i - 1].at, p.at);
                    const double now = way / (p.time_ms - points[i - 1].time_ms);
                    speed = speed > 0 ? speed + (now - speed) * (1 - std::exp(-way / kSpeedMemoryMm)) : now;
                }
                width *= (kSlitLeast + kSlitSpan * pressure) * haste(speed);
                break;
            }
            case PenKind::pencil:
                width *= (kLeadLeast + kLeadSpan * pressure) * (1 + (kLeanMost - 1) * lean_of(p));
                marks[i].darkness = kFaintest + (1 - kFaintest) * pressure;
                break;
            case PenKind::highlighter:
                if (pen.tip == Tip::chisel && points.size() > 1) {
                    const Point d = i > 0 ? p.at - points[i - 1].at : points[1].at - p.at;
                    const double across = std::abs(std::sin(std::atan2(-d.y, d.x) - kChiselAngle));
                    width *= kChiselEdge + (1 - kChiselEdge) * across;
                }
                break;
        }
    }
    return marks;
}

double widest_mark(const Pen& pen) {
    switch (pen.kind) {
        case PenKind::ballpoint:
            return pen.width_mm * (kBallLeast + kBallSpan);
        case PenKind::fountain:
            return pen.width_mm * (kSlitLeast + kSlitSpan) * kHasteMost;
        case PenKind::pencil:
            return pen.width_mm * (kLeadLeast + kLeadSpan) * kLeanMost;
        case PenKind::highlighter:
            break;
    }
    return pen.width_mm;
}

}  // namespace fernleaf
