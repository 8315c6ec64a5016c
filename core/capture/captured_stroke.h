// What a pen captured on addressed paper.
#pragma once

#include <compare>
#include <cstdint>
#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

// Which page a pen writes on, as printed there.
struct PageAddress {
    uint16_t paper = 0;     // kind of paper (addressed_paper.h)
    uint16_t notebook = 0;  // of this kind, as numbered by the printer
    uint16_t page = 0;      // from 1
    friend auto operator<=>(const PageAddress&, const PageAddress&) = default;
};

struct CapturedPoint {
    int32_t x = 0, y = 0;           // 1/100 mm from the sheet's top left corner, within kFarthestCaptured
    uint8_t pressure = 128;         // 0 to 255
    uint16_t after_ms = 0;          // since the point before it
    int8_t tilt_x = 0, tilt_y = 0;  // degrees from upright, -90 to 90
    friend bool operator==(const CapturedPoint&, const CapturedPoint&) = default;
};

constexpr int32_t kFarthestCaptured = 300'000;  // 1/100 mm
constexpr size_t kMostCapturedPoints = 4000;    // of one stroke; a pen parts longer ones

struct CapturedStroke {
    uint64_t number = 0;  // the pen's strokes are numbered from 1, without gaps, for good
    PageAddress address;
    int64_t start_ms = 0;  // by the pen's clock, since 1970
    std::vector<CapturedPoint> points;
    friend bool operator==(const CapturedStroke&, const CapturedStroke&) = default;
};

// As ink, with the pen of captured strokes; without an id.
Stroke ink_of(const CapturedStroke& captured);

// Ink as a pen would have captured it: 1/100 mm, 1/255 of the pressure, whole degrees. In several strokes where it has
// more points than one may have; they are not numbered. What lies farther away than may be is moved to there.
std::vector<CapturedStroke> captured(const Stroke& stroke, const PageAddress& address);

}  // namespace fernleaf
