#include "capture/captured_stroke.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace fernleaf {
namespace {

constexpr uint32_t kUsualStepMs = 10;  // where points have no times

template <typename T>
T clamped(double value, double least, double most) {
    return static_cast<T>(std::lround(std::clamp(value, least, most)));
}

CapturedPoint captured(const InkPoint& p, uint32_t after_ms) {
    CapturedPoint out;
    out.x = clamped<int32_t>(p.at.x * 100, -kFarthestCaptured, kFarthestCaptured);
    out.y = clamped<int32_t>(p.at.y * 100, -kFarthestCaptured, kFarthestCaptured);
    out.pressure = clamped<uint8_t>(static_cast<double>(p.pressure) * 255, 0, 255);
    out.after_ms = clamped<uint16_t>(after_ms, 0, std::numeric_limits<uint16_t>::max());
    out.tilt_x = clamped<int8_t>(static_cast<double>(p.tilt_x), -90, 90);
    out.tilt_y = clamped<int8_t>(static_cast<double>(p.tilt_y), -90, 90);
    return out;
}

}  // namespace

Stroke ink_of(const CapturedStroke& captured) {
    Stroke out;
    out.pen = {.colour = 0x1E2A44, .width_mm = 0.45F};
    out.start_ms = captured.start_ms;
    std::vector<InkPoint> points;
    uint32_t time = 0;
    for (const CapturedPoint& p : captured.points) {
        time += p.after_ms;
        points.push_back({{p.x / 100.0, p.y / 100.0},
                          static_cast<float>(p.pressure) / 255,
                          static_cast<float>(p.tilt_x),
                          static_cast<float>(p.tilt_y),
                          time});
    }
    out.points = std::move(points);
    return out;
}

std::vector<CapturedStroke> captured(const Stroke& stroke, const PageAddress& address) {
    std::vector<CapturedStroke> out;
    if (stroke.points.empty()) return out;
    const bool timed = stroke.points.back().time_ms > 0;
    out.push_back({0, address, stroke.start_ms, {}});
    uint32_t before = 0, passed = 0;
    for (size_t i = 0; i < stroke.points.size(); ++i) {
        const InkPoint& p = stroke.points[i];
        const uint32_t time = timed ? std::max(p.time_ms, before) : static_cast<uint32_t>(i) * kUsualStepMs;
        const uint32_t after = time - before;
        before = time, passed += after;
        if (out.back().points.size() == kMostCapturedPoints) {  // goes on where the last one ended
            CapturedPoint last = out.back().points.back();
            last.after_ms = 0;
            out.push_back({0, address, stroke.start_ms + passed - after, {last}});
        }
        out.back().points.push_back(captured(p, after));
    }
    return out;
}

}  // namespace fernleaf
