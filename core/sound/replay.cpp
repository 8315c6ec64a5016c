#include "sound/replay.h"

#include <algorithm>

namespace fernleaf {
namespace {

constexpr double kEvenMmPerMs = 0.06;  // an unhurried hand
constexpr int64_t kBetweenMs = 150;

int64_t lasts(const Stroke& s) {
    if (s.points.empty()) return 0;
    if (const auto told = static_cast<int64_t>(s.points.back().time_ms); told > 0) return told;
    return std::max<int64_t>(30, static_cast<int64_t>(path_length(s) / kEvenMmPerMs));
}

std::vector<ReplayStroke> in_order(std::span<const Stroke* const> strokes) {
    std::vector<ReplayStroke> out;
    for (size_t i = 0; i < strokes.size(); ++i) out.push_back({i, strokes[i]->start_ms, 0});
    std::ranges::stable_sort(out, [&](const ReplayStroke& a, const ReplayStroke& b) {
        return a.begin_ms != b.begin_ms ? a.begin_ms < b.begin_ms : strokes[a.index]->id < strokes[b.index]->id;
    });
    return out;
}

}  // namespace

Replay replay_of(std::span<const Stroke* const> strokes, int64_t most_pause_ms) {
    Replay out{in_order(strokes), 0};
    int64_t written_until = 0;
    for (ReplayStroke& s : out.strokes) {
        const Stroke& stroke = *strokes[s.index];
        const int64_t began = stroke.start_ms;
        // Parts of one stroke that was cut begin before the one before them ends.
        const int64_t pause = began > 0 && written_until > 0
                                  ? std::clamp<int64_t>(began - written_until, 0, most_pause_ms)
                                  : std::min(kBetweenMs, most_pause_ms);
        s.begin_ms = out.strokes.front().index == s.index ? 0 : out.length_ms + pause;
        s.end_ms = s.begin_ms + lasts(stroke);
        out.length_ms = s.end_ms;
        written_until = began > 0 ? began + lasts(stroke) : 0;
    }
    return out;
}

Replay replay_of(std::span<const Stroke* const> strokes, const VoiceTrack& track) {
    Replay out{in_order(strokes), length_ms(track)};
    if (track.pieces.empty()) return out;
    const int64_t began = std::ranges::min_element(track.pieces, {}, &TrackPiece::began_ms)->began_ms;
    for (ReplayStroke& s : out.strokes) {
        const int64_t start = strokes[s.index]->start_ms;
        if (start < began - kTieSlackMs) {
            s.begin_ms = s.end_ms = kAlwaysThere;
        } else if (const auto position = position_of(track, start)) {
            s.begin_ms = *position;
            s.end_ms = *position + lasts(*strokes[s.index]);
        } else {
            s.begin_ms = s.end_ms = position_after(track, start) + (start >= when_at(track, out.length_ms) ? 1 : 0);
        }
    }
    return out;
}

size_t points_written(const Stroke& stroke, const ReplayStroke& when, int64_t now_ms) {
    if (now_ms >= when.end_ms) return stroke.points.size();
    if (now_ms < when.begin_ms) return 0;
    const int64_t since = now_ms - when.begin_ms, all = std::max<int64_t>(1, when.end_ms - when.begin_ms);
    const std::vector<InkPoint>& points = stroke.points;
    if (points.back().time_ms > 0) {
        const auto later =
            std::ranges::upper_bound(points, since, {}, [](const InkPoint& p) { return int64_t{p.time_ms}; });
        return static_cast<size_t>(later - points.begin());
    }
    return static_cast<size_t>(since) * points.size() / static_cast<size_t>(all);
}

}  // namespace fernleaf
