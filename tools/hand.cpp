#include "demo/hand.h"

#include <cmath>
#include <fstream>
#include <nlohmann/json.hpp>
#include <numbers>

#include "base/text.h"

namespace fernleaf {
namespace {

constexpr double kSampleMs = 8;      // tablets report 120 times a second or so
constexpr double kSpeedMmPerS = 45;  // on straight pieces
constexpr double kPauseMs = 90;      // between strokes
constexpr double kWordSpace = 0.75;  // x-heights
constexpr double kLetterSpace = 0.03;

double gauss(std::mt19937& random, double deviation) {
    return std::normal_distribution<double>(0, deviation > 0 ? deviation : 1e-12)(random);
}

}  // namespace

Stroke sampled(const std::vector<Point>& path, const Pen& pen, int64_t start_ms, std::mt19937& random) {
    Stroke stroke;
    stroke.pen = pen;
    stroke.start_ms = start_ms;
    double total = 0;
    for (size_t i = 1; i < path.size(); ++i) total += distance(path[i - 1], path[i]);
    const double firmness = std::clamp(0.5 + gauss(random, 0.05), 0.3, 0.7);
    const auto add = [&](Point at, double along, double ms) {
        const double part = total > 0 ? along / total : 0.5;
        const double pressure = firmness * (0.55 + 0.45 * std::sin(std::numbers::pi * std::clamp(part, 0.05, 0.95)));
        stroke.points.push_back(
            {at, static_cast<float>(pressure + gauss(random, 0.01)), 0, 0, static_cast<uint32_t>(ms)});
    };
    double along = 0, ms = 0, due = 0;
    for (size_t i = 1; i < path.size(); ++i) {
        const double piece = distance(path[i - 1], path[i]);
        if (piece <= 0) continue;
        double bend = 0;
        if (i + 1 < path.size()) {
            const Point a = path[i] - path[i - 1], b = path[i + 1] - path[i];
            bend = std::abs(std::atan2(a.x * b.y - a.y * b.x, dot(a, b)));
        }
        const double speed = kSpeedMmPerS / (1 + 1.2 * bend) / 1000;  // mm a ms
        const double lasts = piece / speed;
        for (; due <= ms + lasts; due += kSampleMs) {
            const double t = (due - ms) / lasts;
            add(path[i - 1] + (path[i] - path[i - 1]) * t, along + t * piece, due);
        }
        along += piece;
        ms += lasts;
    }
    add(path.back(), total, ms);
    return stroke;
}

Result<Hand> Hand::load(const std::filesystem::path& path) {
    const Error damaged{"The hand " + path.string() + " is missing or damaged."};
    std::ifstream in(path);
    const auto json = nlohmann::json::parse(in, nullptr, false);
    if (!json.is_object() || !json.contains("glyphs")) return damaged;
    Hand hand;
    for (const auto& [name, value] : json["glyphs"].items()) {
        const std::u32string c = decode_utf8(name);
        if (c.size() != 1) return damaged;
        Glyph glyph;
        glyph.advance = value.at("advance").get<double>();
        for (const auto& flat : value.at("paths")) {
            std::vector<Point> points;
            for (size_t i = 0; i + 1 < flat.size(); i += 2)
                points.push_back({flat[i].get<double>(), flat[i + 1].get<double>()});
            if (!points.empty()) glyph.paths.push_back(std::move(points));
        }
        hand.glyphs_[c[0]] = std::move(glyph);
    }
    return hand;
}

bool Hand::can_write(std::string_view text) const {
    return std::ranges::all_of(decode_utf8(text), [&](char32_t c) { return c == U' ' || glyphs_.contains(c); });
}

Hand Hand::another(std::mt19937& random) const {
    const double slant = gauss(random, 0.1), stretch = 1 + gauss(random, 0.07);
    Hand out = *this;
    for (auto& [character, glyph] : out.glyphs_) {
        const double ax = gauss(random, 0.04), ay = gauss(random, 0.04), px = gauss(random, 3), py = gauss(random, 3);
        glyph.advance *= stretch;
        for (std::vector<Point>& path : glyph.paths)
            for (Point& p : path) {
                const Point bent = p + Point{ax * std::sin(2.2 * p.y + px), ay * std::sin(2.2 * p.x + py)};
                p = {stretch * bent.x - slant * bent.y, bent.y};
            }
    }
    return out;
}

std::vector<Stroke> Hand::write(std::string_view text, Point at, const WritingStyle& style,
                                std::mt19937& random) const {
    const double uneven = style.unevenness;
    const double slant = gauss(random, 0.03 * uneven), climb = gauss(random, 0.006 * uneven);
    const double phase = std::uniform_real_distribution<double>(0, 2 * std::numbers::pi)(random);
    std::vector<Stroke> strokes;
    double x = 0;
    double clock = static_cast<double>(style.start_ms);
    for (const char32_t c : decode_utf8(text)) {
        if (c == U' ') {
            x += kWordSpace * (1 + gauss(random, 0.12 * uneven));
            clock += 2 * kPauseMs;
            continue;
        }
        const auto found = glyphs_.find(c);
        if (found == glyphs_.end()) continue;
        const double turn = gauss(random, 0.02 * uneven), grow = 1 + gauss(random, 0.025 * uneven);
        const double lift = gauss(random, 0.025 * uneven) + 0.05 * uneven * std::sin(x * 0.35 + phase);
        for (const std::vector<Point>& path : found->second.paths) {
            std::vector<Point> placed;
            const double wander = gauss(random, 0.015 * uneven);
            for (const Point p : path) {
                const Point q{(p.x * std::cos(turn) - p.y * std::sin(turn)) * grow,
                              (p.x * std::sin(turn) + p.y * std::cos(turn)) * grow};
                const double gx = x + q.x - slant * q.y + wander * std::sin(3 * q.y), gy = q.y + lift;
                placed.push_back({at.x + style.x_height_mm * gx, at.y + style.x_height_mm * (gy + climb * gx)});
            }
            if (placed.size() == 1) placed.push_back(placed.front() + Point{0.1, 0});
            strokes.push_back(sampled(placed, style.pen, static_cast<int64_t>(clock), random));
            clock += strokes.back().points.back().time_ms + kPauseMs;
        }
        x += (found->second.advance + kLetterSpace + gauss(random, 0.015 * uneven)) * grow;
    }
    return strokes;
}

int64_t Hand::end_of(const std::vector<Stroke>& strokes, int64_t otherwise) {
    return strokes.empty() ? otherwise : strokes.back().start_ms + strokes.back().points.back().time_ms;
}

Stroke drawn(const std::vector<Point>& corners, const Pen& pen, int64_t start_ms, std::mt19937& random) {
    std::vector<Point> path;
    for (size_t i = 0; i + 1 < corners.size(); ++i) {
        const double bow = gauss(random, 0.25);
        for (int k = 0; k < 12; ++k) {
            const double t = k / 12.0;
            path.push_back(corners[i] + (corners[i + 1] - corners[i]) * t +
                           Point{0, bow * std::sin(std::numbers::pi * t)});
        }
    }
    path.push_back(corners.back());
    return sampled(path, pen, start_ms, random);
}

std::string some_text(const Hand& hand, const std::vector<std::string>& texts, std::mt19937& random) {
    constexpr int kTries = 200;
    for (int k = 0; k < kTries; ++k)
        if (const std::string& text = texts[random() % texts.size()]; hand.can_write(text)) return text;
    return {};
}

}  // namespace fernleaf
