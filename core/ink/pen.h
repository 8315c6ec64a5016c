// A pen: what it writes with, apart from where it went.
#pragma once

#include <cstdint>

namespace fernleaf {

// As libraries keep them: numbers never change their meaning.
enum class PenKind : uint8_t {
    ballpoint = 0,    // steady
    fountain = 1,     // wider under pressure, thinner in haste
    pencil = 2,       // darker under pressure, broader when it leans; with a grain
    highlighter = 3,  // a translucent band that lies under the ink
};

enum class Tip : uint8_t {
    round = 0,
    chisel = 1,  // held at 45°: broad across it, narrow along it
};

struct Pen {
    uint32_t colour = 0x1E2A44;  // 0xRRGGBB
    float width_mm = 0.5F;       // 0.05 to 10: the width at middle pressure and calm speed
    PenKind kind = PenKind::ballpoint;
    Tip tip = Tip::round;
    float opacity = 1;        // 0 to 1
    bool by_pressure = true;  // whether pressure acts at all
    friend bool operator==(const Pen&, const Pen&) = default;
};

// Whether the pen's strokes lie under all others.
inline bool lies_under(const Pen& pen) { return pen.kind == PenKind::highlighter; }

constexpr float kThinnestPenMm = 0.1F;  // of the pens one can choose
constexpr float kBroadestPenMm = 4;

}  // namespace fernleaf
