#include "capture/pen_messages.h"

#include "base/bytes.h"
#include "base/text.h"

namespace fernleaf {
namespace {

constexpr size_t kLongestName = 80;  // bytes
constexpr int kMostTilt = 90, kLongestPowerOff = 240, kMostSensitivity = 5;

template <size_t N>
std::string_view view(const std::array<uint8_t, N>& bytes) {
    return {reinterpret_cast<const char*>(bytes.data()), N};
}

template <size_t N>
void read_into(ByteReader& in, std::array<uint8_t, N>& bytes) {
    const std::string_view from = in.raw(N);
    for (size_t i = 0; i < from.size(); ++i) bytes[i] = static_cast<uint8_t>(from[i]);
}

bool is_name(const std::string& text) {
    return !text.empty() && text.size() <= kLongestName && valid_utf8(text) &&
           text.find_first_of(std::string("\0\n\r", 3)) == std::string::npos;
}

ByteWriter& put(ByteWriter& out, const PenSettings& s) {
    return out.put(static_cast<uint8_t>(s.sound ? 1 : 0)).put(s.power_off_minutes).put(s.sensitivity);
}

// Whether they are some that a pen can have.
bool read_into(ByteReader& in, PenSettings& s) {
    s.sound = in.number<uint8_t>() != 0;
    s.power_off_minutes = in.number<uint8_t>();
    s.sensitivity = in.number<uint8_t>();
    return s.power_off_minutes >= 1 && s.power_off_minutes <= kLongestPowerOff && s.sensitivity >= 1 &&
           s.sensitivity <= kMostSensitivity;
}

bool read_into(ByteReader& in, PenHello& m) {
    m.computer = in.text();
    read_into(in, m.nonce);
    return is_name(m.computer);
}
bool read_into(ByteReader& in, PenGreeting& m) {
    m.serial = in.text();
    m.name = in.text();
    read_into(in, m.nonce);
    m.tries_left = in.number<uint8_t>();
    return is_name(m.serial) && is_name(m.name);
}
bool read_into(ByteReader& in, PenProof& m) {
    read_into(in, m.proof);
    return true;
}
bool read_into(ByteReader& in, PenAdmitted& m) {
    read_into(in, m.proof);
    return true;
}
bool read_into(ByteReader& in, PenRefused& m) {
    const auto why = in.number<uint8_t>();
    m.why = static_cast<Refusal>(why);
    m.tries_left = in.number<uint8_t>();
    read_into(in, m.nonce);
    return why >= static_cast<uint8_t>(Refusal::passcode) && why <= static_cast<uint8_t>(Refusal::busy);
}
bool read_into(ByteReader&, AskState&) { return true; }
bool read_into(ByteReader& in, PenState& m) {
    m.battery = in.number<uint8_t>();
    m.used_kb = in.number<uint32_t>();
    m.room_kb = in.number<uint32_t>();
    m.first = in.number<uint64_t>();
    m.last = in.number<uint64_t>();
    m.clock_ms = in.number<int64_t>();
    const bool settings = read_into(in, m.settings);
    m.memory = in.number<uint64_t>();
    return settings && m.memory != 0 && m.battery <= 100 && m.used_kb <= m.room_kb && m.first <= m.last;
}
bool read_into(ByteReader& in, SetClock& m) {
    m.clock_ms = in.number<int64_t>();
    return true;
}
bool read_into(ByteReader& in, ChangeSettings& m) { return read_into(in, m.settings); }
bool read_into(ByteReader& in, SendAfter& m) {
    m.number = in.number<uint64_t>();
    return true;
}
bool read_into(ByteReader& in, KeptUpTo& m) {
    m.number = in.number<uint64_t>();
    return true;
}
void read_address(ByteReader& in, PageAddress& address) {
    address.paper = in.number<uint16_t>();
    address.notebook = in.number<uint16_t>();
    address.page = in.number<uint16_t>();
}
bool read_points(ByteReader& in, std::vector<CapturedPoint>& points) {
    const size_t count = in.number<uint16_t>();
    if (count == 0 || count > kMostCapturedPoints) return false;
    for (size_t i = 0; i < count && !in.failed(); ++i) {
        CapturedPoint p;
        p.x = in.number<int32_t>();
        p.y = in.number<int32_t>();
        p.pressure = in.number<uint8_t>();
        p.after_ms = in.number<uint16_t>();
        p.tilt_x = in.number<int8_t>();
        p.tilt_y = in.number<int8_t>();
        const auto within = [](int32_t value, int32_t most) { return value >= -most && value <= most; };
        if (!within(p.x, kFarthestCaptured) || !within(p.y, kFarthestCaptured) || !within(p.tilt_x, kMostTilt) ||
            !within(p.tilt_y, kMostTilt))
            return false;
        points.push_back(p);
    }
    return true;
}
bool read_into(ByteReader& in, PenStroke& m) {
    CapturedStroke& s = m.stroke;
    s.number = in.number<uint64_t>();
    read_address(in, s.address);
    s.start_ms = in.number<int64_t>();
    return s.number != 0 && read_points(in, s.points);
}
bool read_into(ByteReader& in, PenWriting& m) {
    read_address(in, m.address);
    m.begin = in.number<uint16_t>();
    return read_points(in, m.points) && m.begin + m.points.size() <= kMostCapturedPoints;
}
bool read_into(ByteReader&, PenBye&) { return true; }

ByteWriter& put_points(ByteWriter& out, const std::vector<CapturedPoint>& points) {
    out.put(static_cast<uint16_t>(points.size()));
    for (const CapturedPoint& p : points)
        out.put(p.x).put(p.y).put(p.pressure).put(p.after_ms).put(p.tilt_x).put(p.tilt_y);
    return out;
}

}  // namespace

std::string encoded(const PenHello& m) { return ByteWriter().text(m.computer).raw(view(m.nonce)).bytes(); }
std::string encoded(const PenGreeting& m) {
    return ByteWriter().text(m.serial).text(m.name).raw(view(m.nonce)).put(m.tries_left).bytes();
}
std::string encoded(const PenProof& m) { return std::string(view(m.proof)); }
std::string encoded(const PenAdmitted& m) { return std::string(view(m.proof)); }
std::string encoded(const PenRefused& m) {
    return ByteWriter().put(static_cast<uint8_t>(m.why)).put(m.tries_left).raw(view(m.nonce)).bytes();
}
std::string encoded(const AskState&) { return {}; }
std::string encoded(const PenState& m) {
    ByteWriter out;
    out.put(m.battery).put(m.used_kb).put(m.room_kb).put(m.first).put(m.last).put(m.clock_ms);
    return put(out, m.settings).put(m.memory).bytes();
}
std::string encoded(const SetClock& m) { return ByteWriter().put(m.clock_ms).bytes(); }
std::string encoded(const ChangeSettings& m) {
    ByteWriter out;
    return put(out, m.settings).bytes();
}
std::string encoded(const SendAfter& m) { return ByteWriter().put(m.number).bytes(); }
std::string encoded(const KeptUpTo& m) { return ByteWriter().put(m.number).bytes(); }
std::string encoded(const PenStroke& m) {
    const CapturedStroke& s = m.stroke;
    ByteWriter out;
    out.put(s.number).put(s.address.paper).put(s.address.notebook).put(s.address.page).put(s.start_ms);
    return put_points(out, s.points).bytes();
}
std::string encoded(const PenWriting& m) {
    ByteWriter out;
    out.put(m.address.paper).put(m.address.notebook).put(m.address.page).put(m.begin);
    return put_points(out, m.points).bytes();
}
std::string encoded(const PenBye&) { return {}; }

template <typename Message>
std::optional<Message> decoded(std::string_view body) {
    ByteReader in(body);
    Message message;
    if (!read_into(in, message) || in.failed() || !in.at_end()) return std::nullopt;
    return message;
}

template std::optional<PenHello> decoded(std::string_view);
template std::optional<PenGreeting> decoded(std::string_view);
template std::optional<PenProof> decoded(std::string_view);
template std::optional<PenAdmitted> decoded(std::string_view);
template std::optional<PenRefused> decoded(std::string_view);
template std::optional<AskState> decoded(std::string_view);
template std::optional<PenState> decoded(std::string_view);
template std::optional<SetClock> decoded(std::string_view);
template std::optional<ChangeSettings> decoded(std::string_view);
template std::optional<SendAfter> decoded(std::string_view);
template std::optional<KeptUpTo> decoded(std::string_view);
template std::optional<PenStroke> decoded(std::string_view);
template std::optional<PenWriting> decoded(std::string_view);
template std::optional<PenBye> decoded(std::string_view);

}  // namespace fernleaf
