#include "store/codec.h"

#include <sodium.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <nlohmann/json.hpp>

namespace fernleaf {
namespace {

constexpr double kPerMm = 100;
constexpr unsigned char kVersion = 1;
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

nlohmann::json json_of(const Box& box) { return {box.left, box.top, box.right, box.bottom}; }

}  // namespace

std::string encode_points(const std::vector<InkPoint>& points) {
    const int middle = pressure_step(0.5F);
    const bool pressure =
        std::ranges::any_of(points, [&](const InkPoint& p) { return pressure_step(p.pressure) != middle; });
    const bool tilt = std::ranges::any_of(points, [](const InkPoint& p) { return p.tilt_x != 0 || p.tilt_y != 0; });
    std::string out;
    out.push_back(static_cast<char>(kVersion));
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
    if (in.byte() != kVersion) return damaged;
    const unsigned char flags = in.byte();
    const uint64_t count = in.number();
    if (count > bytes.size()) return damaged;  // a point takes three bytes at least
    std::vector<InkPoint> points(count);
    int64_t x = 0, y = 0, time = 0;
    for (InkPoint& p : points) {
        x += in.signed_number(), y += in.signed_number(), time += in.signed_number();
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

Stroke quantised(Stroke stroke) {
    for (InkPoint& p : stroke.points) {
        p.at = {static_cast<double>(hundredths(p.at.x)) / kPerMm, static_cast<double>(hundredths(p.at.y)) / kPerMm};
        p.pressure = static_cast<float>(pressure_step(p.pressure)) / 255.0F;
        p.tilt_x = static_cast<float>(tilt_step(p.tilt_x));
        p.tilt_y = static_cast<float>(tilt_step(p.tilt_y));
    }
    return stroke;
}

std::string encode_words(const std::vector<ReadWord>& words) {
    auto list = nlohmann::json::array();
    for (const ReadWord& word : words) {
        nlohmann::json j{{"text", word.text}, {"certainty", word.certainty}, {"box", json_of(word.box)}};
        if (!word.strokes.empty()) j["strokes"] = word.strokes;
        for (const Alternative& a : word.alternatives) j["alternatives"].push_back({a.text, a.certainty});
        if (word.corrected) j["corrected"] = true;
        list.push_back(std::move(j));
    }
    return list.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
}

Result<std::vector<ReadWord>> decode_words(const std::string& json) {
    try {
        std::vector<ReadWord> words;
        for (const auto& j : nlohmann::json::parse(json)) {
            ReadWord word;
            word.text = j.at("text");
            word.certainty = j.at("certainty");
            const auto& box = j.at("box");
            word.box = {box.at(0), box.at(1), box.at(2), box.at(3)};
            if (j.contains("strokes")) word.strokes = j["strokes"].get<std::vector<StrokeId>>();
            if (j.contains("alternatives"))
                for (const auto& a : j["alternatives"]) word.alternatives.push_back({a.at(0), a.at(1)});
            word.corrected = j.value("corrected", false);
            words.push_back(std::move(word));
        }
        return words;
    } catch (const nlohmann::json::exception&) {
        return Error{"A reading in the library is damaged."};
    }
}

std::string sha256(std::string_view bytes) {
    std::array<unsigned char, crypto_hash_sha256_BYTES> digest{};
    crypto_hash_sha256(digest.data(), reinterpret_cast<const unsigned char*>(bytes.data()), bytes.size());
    std::string out;
    for (const unsigned char b : digest) {
        constexpr char kHex[] = "0123456789abcdef";
        out.push_back(kHex[b >> 4]);
        out.push_back(kHex[b & 15]);
    }
    return out;
}

}  // namespace fernleaf
