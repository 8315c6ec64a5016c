// How loud sound is, a byte for every tenth of a second: what the strip shows, and where silence is.
#pragma once

#include <cstdint>
#include <span>
#include <string>
#include <vector>

namespace fernleaf {

constexpr int kSoundRate = 48'000;  // Hz; all sound is brought to it
constexpr int64_t kLoudnessMs = 100;

// From 0 (-60 dB below full scale and less) to 255 (full scale), by the root of the mean square of samples.
uint8_t loudness(std::span<const float> samples);

// Gathers samples into loudnesses.
class LoudnessMeter {
public:
    void add(std::span<const float> samples);
    const std::string& levels() const { return levels_; }  // a byte each

private:
    std::vector<float> pending_;
    std::string levels_;
};

// Silence within a sound's levels at or after a time, longer than the least: begin and end, ms. What is silent depends
// on how loud the rest is.
struct Silence {
    int64_t begin_ms = 0, end_ms = 0;
};
std::vector<Silence> silences(const std::string& levels, int64_t least_ms);

}  // namespace fernleaf
