// For tests: a directory for sound files, and sound to put there.
#pragma once

#include <unistd.h>

#include <cmath>
#include <cstdint>
#include <filesystem>
#include <numbers>
#include <string>
#include <vector>

#include "sound/sound_file.h"

namespace fernleaf {

constexpr int64_t kHeardMs = 1'790'000'000'000;

class SoundDirectory {
public:
    SoundDirectory() {
        static int made = 0;
        path_ = std::filesystem::temp_directory_path() /
                ("fernleaf-sound-" + std::to_string(getpid()) + "-" + std::to_string(++made));
        std::filesystem::create_directories(path_);
    }
    ~SoundDirectory() { std::filesystem::remove_all(path_); }
    SoundDirectory(const SoundDirectory&) = delete;
    SoundDirectory& operator=(const SoundDirectory&) = delete;
    std::filesystem::path operator/(const std::string& name) const { return path_ / name; }

private:
    std::filesystem::path path_;
};

inline std::vector<float> test_tone(double hz, int64_t ms, double loud = 0.3) {
    std::vector<float> out(static_cast<size_t>(ms * kSoundRate / 1000));
    for (size_t i = 0; i < out.size(); ++i)
        out[i] = static_cast<float>(loud * std::sin(2 * std::numbers::pi * hz * static_cast<double>(i) / kSoundRate));
    return out;
}

// By how often the sign changes.
inline double pitch_of(const std::vector<float>& samples) {
    size_t turns = 0;
    for (size_t i = 1; i < samples.size(); ++i) turns += (samples[i - 1] < 0) != (samples[i] < 0);
    return static_cast<double>(turns) / 2 / (static_cast<double>(samples.size()) / kSoundRate);
}

}  // namespace fernleaf
