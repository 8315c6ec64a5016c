#include "pen_stand_in/written_pages.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <sstream>

#include "base/file.h"
#include "exchange/inkml.h"

namespace fernleaf {
namespace {

constexpr int64_t kUsualPauseMs = 250, kLongestPauseMs = 60'000;
constexpr int64_t kUsualStepMs = 10;  // where points have no times

template <typename T>
T clamped(double value, double least, double most) {
    return static_cast<T>(std::lround(std::clamp(value, least, most)));
}

CapturedPoint captured(const InkPoint& p, int64_t after_ms) {
    CapturedPoint out;
    out.x = clamped<int32_t>(p.at.x * 100, -kFarthestCaptured, kFarthestCaptured);
    out.y = clamped<int32_t>(p.at.y * 100, -kFarthestCaptured, kFarthestCaptured);
    out.pressure = clamped<uint8_t>(p.pressure * 255.0, 0, 255);
    out.after_ms = clamped<uint16_t>(static_cast<double>(after_ms), 0, std::numeric_limits<uint16_t>::max());
    out.tilt_x = clamped<int8_t>(p.tilt_x, -90, 90);
    out.tilt_y = clamped<int8_t>(p.tilt_y, -90, 90);
    return out;
}

}  // namespace

Result<std::vector<WrittenStroke>> written_pages(const std::filesystem::path& inkml, PageAddress first) {
    const auto bytes = read_regular(inkml, kLargestInkmlBytes);
    if (!bytes) return Error{inkml.string() + ": can't be read."};
    auto sheets = read_inkml(*bytes);
    if (!sheets) return Error{inkml.string() + ": " + sheets.error().message};
    std::vector<WrittenStroke> out;
    for (const InkSheet& sheet : *sheets) {
        const PageAddress address = sheet.address.value_or(first);
        if (!sheet.address) ++first.page;
        int64_t ended = 0;
        for (const Stroke& stroke : sheet.strokes) {
            const bool timed = stroke.points.back().time_ms > 0;
            int64_t pause = stroke.start_ms > 0 && ended > 0 ? stroke.start_ms - ended : kUsualPauseMs;
            ended = stroke.start_ms > 0 ? stroke.start_ms + stroke.points.back().time_ms : 0;
            WrittenStroke now{address, {}, std::clamp<int64_t>(pause, 0, kLongestPauseMs)};
            for (size_t i = 0; i < stroke.points.size(); ++i) {
                const int64_t after = i == 0  ? 0
                                      : timed ? static_cast<int64_t>(stroke.points[i].time_ms) -
                                                    static_cast<int64_t>(stroke.points[i - 1].time_ms)
                                              : kUsualStepMs;
                now.points.push_back(captured(stroke.points[i], after));
                if (now.points.size() < kMostCapturedPoints) continue;
                out.push_back(now);
                now = {address, {captured(stroke.points[i], 0)}, 0};
            }
            if (now.points.size() > 1 || stroke.points.size() == 1) out.push_back(std::move(now));
        }
    }
    return out;
}

Result<PageAddress> page_address(const std::string& text) {
    std::istringstream in(text);
    PageAddress out;
    char first = 0, second = 0;
    if (in >> out.paper >> first >> out.notebook >> second >> out.page && first == '.' && second == '.' &&
        in.peek() == std::istringstream::traits_type::eof())
        return out;
    return Error{"\"" + text + "\" is not a page's address such as 2.5.17."};
}

}  // namespace fernleaf
