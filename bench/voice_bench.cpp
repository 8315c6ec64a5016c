// Voice tracks: what recording costs, how exactly a long track is tied to time, seeking in it, and what playing it
// holds in memory.
//
//   voice_bench
#include <sys/resource.h>

#include <QElapsedTimer>
#include <cstdio>
#include <random>

#include "bench/figures.h"
#include "bench/offscreen.h"
#include "sound/recorder.h"
#include "sound/test_sound.h"
#include "sound/track_player.h"

using namespace fernleaf;

namespace {

constexpr int64_t kTrackMs = 7'200'000, kChunkMs = 40;
constexpr double kFast = 1 + 60e-6;  // the device's quartz
constexpr int kSeeks = 200;

double cpu_seconds() {
    rusage used{};
    getrusage(RUSAGE_SELF, &used);
    return static_cast<double>(used.ru_utime.tv_sec + used.ru_stime.tv_sec) +
           static_cast<double>(used.ru_utime.tv_usec + used.ru_stime.tv_usec) / 1e6;
}

// Speech comes in syllables: loud and quiet by turns, the pitch going up and down.
void speak(std::vector<float>& chunk, int64_t at_ms, std::mt19937& random) {
    std::normal_distribution<float> noise(0, 0.01F);
    for (size_t i = 0; i < chunk.size(); ++i) {
        const double t = static_cast<double>(at_ms) / 1000 + static_cast<double>(i) / kSoundRate;
        const double loud =
            0.25 * std::max(0.0, std::sin(2 * std::numbers::pi * 2.5 * t)) * (std::fmod(t, 11) < 7 ? 1 : 0);
        chunk[i] =
            noise(random) + static_cast<float>(loud * std::sin(2 * std::numbers::pi * (140 * t + 4 * std::sin(3 * t))));
    }
}

}  // namespace

int main() {
    const SoundDirectory directory;
    std::mt19937 random(1);
    std::exponential_distribution<double> late(1 / 12.0);
    std::vector<float> chunk(static_cast<size_t>(kSoundRate * kChunkMs / 1000));
    double made = 0;
    const double before = cpu_seconds();
    auto recorder = Recorder::begin(directory / "long.opus", 1);
    if (!recorder) return 1;
    for (int64_t end = kChunkMs; end <= kTrackMs; end += kChunkMs) {
        const double begun = cpu_seconds();
        speak(chunk, end - kChunkMs, random);
        made += cpu_seconds() - begun;
        const double arrived = static_cast<double>(end) / kFast + std::min(60.0, late(random));
        if (!(*recorder)->take(chunk, kHeardMs + std::llround(arrived))) return 1;
    }
    if (!(*recorder)->finish()) return 1;
    const double spent = cpu_seconds() - before - made;
    std::printf("recording two hours: %.2f %% of a core, %.1f MB, %zu pieces\n",
                100 * spent / (static_cast<double>(kTrackMs) / 1000),
                static_cast<double>(std::filesystem::file_size(directory / "long.opus")) / 1e6,
                (*recorder)->pieces().size());
    const VoiceTrack track{1, "", (*recorder)->pieces(), {}};
    double worst = 0;
    for (int64_t position = 0; position < kTrackMs; position += 100)
        worst = std::max(worst, std::abs(static_cast<double>(when_at(track, position) - kHeardMs) -
                                         static_cast<double>(position) / kFast));
    std::printf("times of the track: off by %.1f ms at most\n", worst);
    recorder->reset();

    const double held = resident_mb();
    TrackPlayer player(track, [&](SoundId) { return *SoundReader::open(directory / "long.opus"); });
    std::vector<float> out(static_cast<size_t>(kSoundRate / 20));
    std::vector<double> times;
    for (int i = 0; i < kSeeks; ++i) {
        const auto to = static_cast<int64_t>(random() % kTrackMs);
        QElapsedTimer timer;
        timer.start();
        player.seek(to);
        player.read(out);
        times.push_back(ms_of(timer));
    }
    std::printf("seek, and the first 50 ms of sound: median %.1f ms, worst %.1f ms\n", quantile(times, 0.5),
                quantile(times, 1));
    player.set_speed(1.5);
    player.seek(0);
    double most = resident_mb();
    const double began = cpu_seconds();
    for (int i = 0; i < 20 * 600; ++i) {
        player.read(out);
        most = std::max(most, resident_mb());
    }
    std::printf("ten minutes played at 1.5 times: %.1f %% of a core, %.1f MB more than before\n",
                100 * (cpu_seconds() - began) / 600, most - held);
}
