#include "drawing/shape_grouping.h"

#include <algorithm>
#include <map>
#include <set>

#include "drawing/pen_path.h"

namespace fernleaf {
namespace {

constexpr double kNearShare = 0.2, kLeastNearMm = 1.2, kMostNearMm = 6;  // of the smaller stroke: ends so near may meet
constexpr size_t kMostTogether = 6;                                      // strokes of a figure or an arrow
constexpr size_t kMostTried = 60;                                        // groups a stroke is tried in
constexpr size_t kMostTriedInAll = 3000;                                 // of a tangle
constexpr double kSureAlone = 0.03;  // of its diagonal: ink no farther off a figure is that figure by itself
constexpr double kSureGap = 0.25, kSureOpenEnded = 0.015;  // the same, where its ends are farther from one another
constexpr double kOff = 0.035;  // of the diagonal: ink so far off its shape costs as much as a group
constexpr double kMostOff = 3;
constexpr double kUnexplained = 2.6;  // a stroke in no group
constexpr double kOpenCosts = 0.35;   // what encloses nothing explains less than a figure
constexpr size_t kBeam = 24;

constexpr double kLeastAround = 0.75, kMostAround = 1.4;  // ink in a figure's sides, of the way around it
constexpr double kMostGap = 0.15, kMostGapMm = 7;         // between its sides, of its diagonal
constexpr double kLeastHalf = 0.5;                        // of the other half: its size
constexpr double kHeadReach = 0.45;                       // of a shaft: how far from its end a head reaches

struct Ink {
    PenPath path;  // a few dozen points
    double size = 0;
};

Ink ink_of(const Stroke& stroke) {
    Ink out;
    Box box;
    PenPath path;
    for (const InkPoint& p : stroke.points) path.push_back(p.at), box.include(p.at);
    out.size = std::hypot(box.width(), box.height());
    if (path.size() > 1 && out.size > 0) out.path = resampled(path, std::max(path_length(path) / 60, 0.2));
    return out;
}

double nearest(Point p, const PenPath& path) {
    double out = std::numeric_limits<double>::infinity();
    for (const Point& q : path) out = std::min(out, distance(p, q));
    return out;
}

bool meet(const Ink& a, const Ink& b) {
    const double near = std::clamp(kNearShare * std::min(a.size, b.size), kLeastNearMm, kMostNearMm);
    return std::min({nearest(a.path.front(), b.path), nearest(a.path.back(), b.path), nearest(b.path.front(), a.path),
                     nearest(b.path.back(), a.path)}) < near;
}

std::vector<PenPath> paths_of(const std::vector<size_t>& members, const std::vector<Ink>& ink) {
    std::vector<PenPath> out;
    for (const size_t m : members) out.push_back(ink[m].path);
    return out;
}

// Two halves of a figure whose ends overlap, or two ways round it: each ends on the other's way.
bool are_halves(const Ink& a, const Ink& b, double most) {
    if (std::min(a.size, b.size) < kLeastHalf * std::max(a.size, b.size)) return false;
    const auto ends_on = [&](const Ink& one, const Ink& other) {
        return nearest(one.path.front(), other.path) < most && nearest(one.path.back(), other.path) < most;
    };
    return ends_on(a, b) && ends_on(b, a);
}

// Whether strokes go round something, end to end or as halves.
bool closes(const std::vector<size_t>& members, const std::vector<Ink>& ink, double diagonal) {
    const double most = std::min(kMostGapMm, kMostGap * diagonal);
    if (members.size() == 2 && are_halves(ink[members[0]], ink[members[1]], most)) return true;
    const Chain chain = chained(paths_of(members, ink));
    return std::max(chain.gap, distance(chain.path.front(), chain.path.back())) < most;
}

// Whether all but the longest lie about its ends, as heads do.
bool has_heads(const std::vector<size_t>& members, const std::vector<Ink>& ink) {
    const size_t shaft = *std::ranges::max_element(members, {}, [&](size_t m) { return path_length(ink[m].path); });
    const double reach = kHeadReach * path_length(ink[shaft].path);
    return std::ranges::all_of(members, [&](size_t m) {
        const auto about = [&](Point end) {
            return std::ranges::all_of(ink[m].path, [&](Point p) { return distance(p, end) < reach; });
        };
        return m == shaft || about(ink[shaft].path.front()) || about(ink[shaft].path.back());
    });
}

// Several strokes make a figure if they go round it once, or an arrow. closed: they go round something.
bool makes_one(const ShapeReading& reading, const std::vector<size_t>& members, const std::vector<Ink>& ink,
               bool closed) {
    if (reading.candidates.empty()) return false;
    const Shape& shape = reading.best().shape;
    if (shape.kind == ShapeKind::arrow || shape.kind == ShapeKind::double_arrow) return true;
    if (!is_closed(shape.kind) || !closed) return false;
    const double around = path_length(outline_of(shape).front());
    double drawn = 0, least = around;
    for (const size_t m : members) {
        const double way = path_length(ink[m].path);
        drawn += way, least = std::min(least, way);
    }
    // Each of two strokes may go round it.
    const double most = members.size() == 2 && least > kLeastAround * around ? 2 * kMostAround : kMostAround;
    return drawn > kLeastAround * around && drawn < most * around;
}

struct Choice {
    std::vector<size_t> strokes;
    ShapeReading reading;
    double cost = 0;
};

double cost_of(const ShapeReading& reading, double diagonal) {
    const ShapeCandidate& best = reading.best();
    const double off = best.error / std::max(1e-9, kOff * diagonal);
    return 1 + std::min(kMostOff, off * off) + (is_closed(best.shape.kind) ? 0 : kOpenCosts);
}

double diagonal_of(const std::vector<size_t>& members, const std::vector<Ink>& ink) {
    Box box;
    for (const size_t i : members)
        for (const Point& p : ink[i].path) box.include(p);
    return std::hypot(box.width(), box.height());
}

// All groups of strokes that may be one thing.
std::vector<Choice> choices(const std::vector<const Stroke*>& strokes, const std::vector<Ink>& ink, double smallest,
                            ShapeMemory& memory) {
    std::vector<Choice> out;
    std::vector<size_t> open;
    for (size_t i = 0; i < strokes.size(); ++i) {
        if (ink[i].path.empty()) continue;
        const ShapeReading& alone = memory.read({strokes[i]});
        if (alone.candidates.empty()) continue;
        // Where its ends are far from one another another stroke may close it.
        const bool open_ended = distance(ink[i].path.front(), ink[i].path.back()) > kSureGap * ink[i].size;
        const bool figure = is_closed(alone.best().shape.kind) &&
                            alone.best().error < (open_ended ? kSureOpenEnded : kSureAlone) * ink[i].size;
        if (!figure) open.push_back(i);
        if (ink[i].size >= smallest) out.push_back({{i}, alone, cost_of(alone, ink[i].size)});
    }
    std::map<size_t, std::vector<size_t>> beside;
    for (size_t a = 0; a < open.size(); ++a)
        for (size_t b = a + 1; b < open.size(); ++b)
            if (meet(ink[open[a]], ink[open[b]]))
                beside[open[a]].push_back(open[b]), beside[open[b]].push_back(open[a]);
    std::set<std::vector<size_t>> tried;
    for (const size_t first : open) {
        // Groups grow by what meets one of theirs; only strokes behind the first are added, so that each is made once.
        std::vector<std::vector<size_t>> growing{{first}};
        size_t count = 0;
        for (size_t at = 0; at < growing.size() && count < kMostTried && tried.size() < kMostTriedInAll; ++at) {
            const std::vector<size_t> group = growing[at];
            if (group.size() == kMostTogether) continue;
            for (const size_t member : group)
                for (const size_t next : beside[member]) {
                    if (next < first || std::ranges::find(group, next) != group.end() || count >= kMostTried) continue;
                    std::vector<size_t> more = group;
                    more.insert(std::ranges::upper_bound(more, next), next);
                    if (!tried.insert(more).second) continue;
                    ++count;
                    growing.push_back(more);
                    const double diagonal = diagonal_of(more, ink);
                    const bool closed = closes(more, ink, diagonal);
                    if (diagonal < smallest || (!closed && !has_heads(more, ink))) continue;
                    std::vector<const Stroke*> members;
                    for (const size_t m : more) members.push_back(strokes[m]);
                    ShapeReading reading = memory.read(members);
                    if (!makes_one(reading, more, ink, closed)) continue;
                    const double cost = cost_of(reading, diagonal);
                    out.push_back({std::move(more), std::move(reading), cost});
                }
        }
    }
    return out;
}

struct State {
    double cost = 0;
    std::vector<bool> taken;
    std::vector<size_t> chosen;
};

}  // namespace

std::vector<ShapeGroup> grouped(const std::vector<const Stroke*>& strokes, ShapeMemory& memory, double smallest) {
    std::vector<ShapeGroup> out;
    if (strokes.empty() || strokes.size() > kMostDrawnStrokes) return out;
    std::vector<Ink> ink;
    for (const Stroke* s : strokes) ink.push_back(ink_of(*s));
    std::vector<Choice> all = choices(strokes, ink, smallest, memory);
    std::vector<std::vector<size_t>> with(strokes.size());  // choices by their first stroke
    for (size_t c = 0; c < all.size(); ++c) with[all[c].strokes.front()].push_back(c);
    std::vector<State> beam{{0, std::vector<bool>(strokes.size()), {}}};
    for (size_t i = 0; i < strokes.size(); ++i) {
        std::vector<State> next;
        for (State& state : beam) {
            if (state.taken[i]) {
                next.push_back(std::move(state));
                continue;
            }
            for (const size_t c : with[i]) {
                if (std::ranges::any_of(all[c].strokes, [&](size_t s) { return state.taken[s]; })) continue;
                State more = state;
                more.cost += all[c].cost;
                for (const size_t s : all[c].strokes) more.taken[s] = true;
                more.chosen.push_back(c);
                next.push_back(std::move(more));
            }
            state.cost += kUnexplained;
            next.push_back(std::move(state));
        }
        // A state that took later strokes already has paid for them: what is still to be paid is told for all alike.
        const auto told = [&](const State& s) {
            double ahead = s.cost;
            for (size_t k = i + 1; k < strokes.size(); ++k) ahead += s.taken[k] ? 0 : 1;
            return ahead;
        };
        if (next.size() > kBeam) {
            std::ranges::nth_element(next, next.begin() + kBeam, {}, told);
            next.resize(kBeam);
        }
        beam = std::move(next);
    }
    const State& best = *std::ranges::min_element(beam, {}, &State::cost);
    for (const size_t c : best.chosen) out.push_back({std::move(all[c].strokes), std::move(all[c].reading)});
    return out;
}

}  // namespace fernleaf
