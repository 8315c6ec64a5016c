#include "document/stroke/stroke_traits.h"

#include <algorithm>
#include <bit>
#include <cmath>

#include "ink/nib.h"

namespace fernleaf {
namespace {

constexpr double kPerMm = 100;
constexpr unsigned char kPointsVersion = 1;
constexpr unsigned char kStrokeVersion = 1, kGroupedVersion = 2;
constexpr unsigned char kHasPressure = 1;
constexpr unsigned char kHasTilt = 2;

void put(std::string& out, uint64_t value) {
    for (; value >= 0x80; value >>= 7) out.push_back(static_cast<char>(value | 0x80));
    out.push_back(static_cast<char>(value));
}

void put_signed(std::string& out, int64_t value) {
    put(out, static_cast<uint64_t>(value) << 1 ^ static_cast<uint64_t>(value >> 63));
}

class Cursor {
public:
    explicit Cursor(std::string_view bytes) : bytes_(bytes) {}
    uint64_t number() {
        uint64_t value = 0;
        for (int shift = 0; shift < 64; shift += 7) {
            const auto b = byte();
            value |= static_cast<uint64_t>(b & 0x7F) << shift;
            if (b < 0x80) return value;
        }
        good_ = false;
        return 0;
    }
    int64_t signed_number() {
        const uint64_t v = number();
        return static_cast<int64_t>(v >> 1) ^ -static_cast<int64_t>(v & 1);
    }
    unsigned char byte() {
        if (at_ >= bytes_.size()) {
            good_ = false;
            return 0;
        }
        return static_cast<unsigned char>(bytes_[at_++]);
    }
    std::string_view rest() const { return bytes_.substr(std::min(at_, bytes_.size())); }
    bool good() const { return good_; }
    bool at_end() const { return at_ == bytes_.size(); }

private:
    std::string_view bytes_;
    size_t at_ = 0;
    bool good_ = true;
};

int64_t hundredths(double mm) { return std::llround(mm * kPerMm); }
int pressure_step(float p) { return static_cast<int>(std::lround(std::clamp(p, 0.0F, 1.0F) * 255)); }
int tilt_step(float t) { return static_cast<int>(std::lround(std::clamp(t, -90.0F, 90.0F))); }

constexpr int64_t kFarthest = 10'000'000;  // hundredths of a mm: 100 m

void put_float(std::string& out, float value) {
    const auto bits = std::bit_cast<uint32_t>(value);
    for (int shift = 0; shift < 32; shift += 8) out.push_back(static_cast<char>(bits >> shift));
}

float take_float(Cursor& in) {
    uint32_t bits = 0;
    for (int shift = 0; shift < 32; shift += 8) bits |= static_cast<uint32_t>(in.byte()) << shift;
    return std::bit_cast<float>(bits);
}

}  // namespace

Box ElementTraits<Stroke>::bounds(const Stroke& stroke) { return stroke.box().grown(widest_mark(stroke.pen) / 2); }

bool ElementTraits<Stroke>::mostly_inside(const Stroke& stroke, const std::vector<Point>& polygon) {
    return !strokes_within({stroke}, polygon).empty();
}

std::optional<std::string> ElementTraits<Stroke>::validation_error(const Stroke& stroke) {
    if (is_valid(stroke)) return {};
    return "A stroke holds numbers that are no place on a page.";
}

std::string ElementTraits<Stroke>::encode(const Stroke& stroke) {
    const Pen& pen = stroke.pen;
    std::string out;
    out.push_back(static_cast<char>(stroke.group == 0 ? kStrokeVersion : kGroupedVersion));
    out.push_back(static_cast<char>(pen.kind));
    out.push_back(static_cast<char>(pen.tip));
    out.push_back(pen.by_pressure ? 1 : 0);
    put(out, pen.colour & 0xFFFFFF);
    put_float(out, pen.width_mm);
    put_float(out, pen.opacity);
    put_signed(out, stroke.start_ms);
    if (stroke.group != 0) put_signed(out, stroke.group);
    return out + encode_points(stroke.points);
}

Result<Stroke> ElementTraits<Stroke>::decode(std::string_view bytes) {
    const Error damaged{"A stroke in the library is damaged."};
    Cursor in(bytes);
    const unsigned char version = in.byte();
    if (version != kStrokeVersion && version != kGroupedVersion) return damaged;
    const unsigned char kind = in.byte(), tip = in.byte(), by_pressure = in.byte();
    const uint64_t colour = in.number();
    if (kind > static_cast<unsigned char>(PenKind::highlighter) || tip > static_cast<unsigned char>(Tip::chisel) ||
        colour > 0xFFFFFF)
        return damaged;
    Stroke stroke;
    stroke.pen.kind = static_cast<PenKind>(kind);
    stroke.pen.tip = static_cast<Tip>(tip);
    stroke.pen.by_pressure = by_pressure != 0;
    stroke.pen.colour = static_cast<uint32_t>(colour);
    stroke.pen.width_mm = take_float(in);
    stroke.pen.opacity = take_float(in);
    stroke.start_ms = in.signed_number();
    if (version == kGroupedVersion) stroke.group = in.signed_number();
    auto points = decode_points(in.rest());
    if (!points) return points.error();
    stroke.points = *std::move(points);
    if (!is_valid(stroke)) return damaged;
    return stroke;
}

Stroke ElementTraits<Stroke>::as_kept(Stroke stroke) {
    for (InkPoint& p : stroke.points.change()) {
        p.at = {static_cast<double>(hundredths(p.at.x)) / kPerMm, static_cast<double>(hundredths(p.at.y)) / kPerMm};
        p.pressure = static_cast<float>(pressure_step(p.pressure)) / 255.0F;
        p.tilt_x = static_cast<float>(tilt_step(p.tilt_x));
        p.tilt_y = static_cast<float>(tilt_step(p.tilt_y));
    }
    return stroke;
}

std::string encode_points(const std::vector<InkPoint>& points) {
    const int middle = pressure_step(0.5F);
    const bool pressure =
        std::ranges::any_of(points, [&](const InkPoint& p) { return pressure_step(p.pressure) != middle; });
    const bool tilt = std::ranges::any_of(points, [](const InkPoint& p) { return p.tilt_x != 0 || p.tilt_y != 0; });
    std::string out;
    out.push_back(static_cast<char>(kPointsVersion));
    out.push_back(static_cast<char>((pressure ? kHasPressure : 0) | (tilt ? kHasTilt : 0)));
    put(out, points.size());
    int64_t x = 0, y = 0, time = 0;
    for (const InkPoint& p : points) {
        put_signed(out, hundredths(p.at.x) - x);
        put_signed(out, hundredths(p.at.y) - y);
        put_signed(out, p.time_ms - time);
        x = hundredths(p.at.x), y = hundredths(p.at.y), time = p.time_ms;
        if (pressure) out.push_back(static_cast<char>(pressure_step(p.pressure)));
        if (tilt) put_signed(out, tilt_step(p.tilt_x)), put_signed(out, tilt_step(p.tilt_y));
    }
    return out;
}

Result<std::vector<InkPoint>> decode_points(std::string_view bytes) {
    const Error damaged{"A stroke in the library is damaged."};
    Cursor in(bytes);
    if (in.byte() != kPointsVersion) return damaged;
    const unsigned char flags = in.byte();
    const uint64_t count = in.number();
    if (count > bytes.size()) return damaged;  // a point takes three bytes at least
    std::vector<InkPoint> points(count);
    int64_t x = 0, y = 0, time = 0;
    for (InkPoint& p : points) {
        // Differences are bounded before they are added, so that no sum runs over.
        for (int64_t* sum : {&x, &y, &time}) {
            const int64_t step = in.signed_number(), most = sum == &time ? UINT32_MAX : 2 * kFarthest;
            if (step < -most || step > most) return damaged;
            *sum += step;
        }
        if (std::abs(x) > kFarthest || std::abs(y) > kFarthest || time < 0 || time > UINT32_MAX) return damaged;
        p.at = {static_cast<double>(x) / kPerMm, static_cast<double>(y) / kPerMm};
        p.time_ms = static_cast<uint32_t>(time);
        p.pressure = static_cast<float>((flags & kHasPressure) != 0 ? in.byte() : pressure_step(0.5F)) / 255.0F;
        if ((flags & kHasTilt) != 0) {
            p.tilt_x = static_cast<float>(in.signed_number());
            p.tilt_y = static_cast<float>(in.signed_number());
        }
    }
    if (!in.good() || !in.at_end()) return damaged;
    return points;
}

}  // namespace fernleaf
