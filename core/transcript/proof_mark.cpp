#include "transcript/proof_mark.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <unordered_map>
#include <unordered_set>

#include "base/quantile.h"
#include "ink/sign.h"

namespace fernleaf {
namespace {

constexpr double kWrittenOver = 0.25;  // of a word's box that another line's word may cover
constexpr double kLeastGap = 0.15;     // of a small letter's height
constexpr double kBelowFeet = 0.2;     // of it

// In small letters' heights of the line, unless said otherwise.
constexpr double kCoveredToStrike = 0.6, kCoveredToStyle = 0.5;  // of a word's width
constexpr double kSpared = 0.45;                                 // of a word's width, at most, where it is not meant
constexpr double kOverrun = 2.5;                                 // beyond the words, at either end
constexpr double kShortestLine = 2.2;                            // a bar across a letter is shorter
constexpr double kTopQuantile = 0.3, kFootQuantile = 0.85;       // of the ink's edges, measured: tall letters, tails
constexpr size_t kMostLines = 3;                                 // a mark may belong to
constexpr double kColumnMm = 0.3;                                // the ink's edges are taken so far apart
constexpr double kTypedTop = 0.36, kTypedFoot = 0.75;            // of a typed word's height

int index(auto position) { return static_cast<int>(position); }

// The frame in which a line's marks are measured: its slope taken out, 0 at the foot of its small letters, their
// height the unit, upwards negative as on the page.
struct LineFrame {
    double slope = 0, x0 = 0, foot = 0, unit = 1;
    double level(Point p) const { return (p.y - slope * (p.x - x0) - foot) / unit; }
};

// The upper and the lower edge of a line's ink, column by column.
class Contour {
public:
    explicit Contour(const Box& line)
        : left_(line.left),
          columns_(static_cast<size_t>(std::clamp(line.width(), 0.0, kMostSheetMm) / kColumnMm) + 1) {}

    void add(const Stroke& stroke, const LineFrame& frame) {
        for (size_t i = 1; i < stroke.points.size(); ++i) {
            const Point a = stroke.points[i - 1].at, b = stroke.points[i].at;
            const int steps = 1 + static_cast<int>(std::abs(b.x - a.x) / kColumnMm);
            for (int k = 0; k <= steps; ++k) {
                const Point p = a + (b - a) * (static_cast<double>(k) / steps);
                const double y = p.y - frame.slope * (p.x - frame.x0), column = (p.x - left_) / kColumnMm;
                if (column < 0 || column >= static_cast<double>(columns_.size())) continue;
                Column& at = columns_[static_cast<size_t>(column)];
                at.top = std::min(at.top, y);
                at.foot = std::max(at.foot, y);
            }
        }
    }
    bool empty() const { return std::ranges::none_of(columns_, &Column::inked); }
    double top() const { return quantile(&Column::top, kTopQuantile); }
    double foot() const { return quantile(&Column::foot, kFootQuantile); }

private:
    struct Column {
        double top = std::numeric_limits<double>::infinity(), foot = -std::numeric_limits<double>::infinity();
        bool inked() const { return top <= foot; }
    };
    double quantile(double Column::*edge, double part) const {
        std::vector<double> values;
        for (const Column& column : columns_)
            if (column.inked()) values.push_back(column.*edge);
        return fernleaf::quantile(std::move(values), part);
    }

    double left_;
    std::vector<Column> columns_;
};

class Marks {
public:
    Marks(const Stroke& newest, const Page& page, const Reading& reading, ProofMarks wanted)
        : newest_(newest), page_(page), reading_(reading), wanted_(wanted), box_(newest.box()) {}

    // Where one text was written over another, forms meet by chance: no mark acts there.
    std::optional<Proof> find() const {
        auto proof = meant();
        if (proof && overwritten(*proof)) proof.reset();
        return proof;
    }

private:
    std::optional<Proof> meant() const {
        if (is_ring(newest_)) return wants(ProofMark::heading) ? heading() : std::nullopt;
        if (auto proof = wants(ProofMark::run_on) ? run_on() : std::nullopt) return proof;
        const bool wave = is_wave(newest_);
        if (wave || is_level(newest_)) return along(wave);
        if (is_upright(newest_)) return wants(ProofMark::separate) ? separate() : std::nullopt;
        if (const auto corner = corner_of(newest_))
            if (auto proof = wants(ProofMark::paragraph) ? paragraph(*corner) : std::nullopt) return proof;
        if (const auto caret = caret_of(newest_))
            if (auto proof = wants(ProofMark::insert) ? insert(*caret) : std::nullopt) return proof;
        if (const auto arc = arc_of(newest_)) return wants(ProofMark::close_up) ? close_up(*arc) : std::nullopt;
        return {};
    }

    bool overwritten(const Proof& proof) const {
        const auto& words = line(proof.line).words;
        if (proof.last >= index(words.size()) || word(proof.line, proof.first).block != 0)
            return false;  // type is not written over, but beside
        for (int l = 0; l < index(reading_.lines.size()); ++l) {
            if (l == proof.line || reading_.lines[static_cast<size_t>(l)].kind != RegionKind::text) continue;
            for (const ReadWord& w : line(l).words)
                for (int own = proof.first; own <= proof.last; ++own)
                    if (w.box.overlap(word(proof.line, own).box) > kWrittenOver) return true;
        }
        return false;
    }

    // Whether the gap between a word and the next is wide enough to be one, and nothing is written in it as high as the
    // small letters stand; tails of the line above may hang into it.
    bool empty_gap(int l, int w, const LineFrame& frame) const {
        const Box &before = word(l, w).box, &after = word(l, w + 1).box;
        if (after.left - before.right < kLeastGap * frame.unit) return false;
        if (word(l, w).block != 0) return true;
        std::unordered_set<StrokeId> own(word(l, w).strokes.begin(), word(l, w).strokes.end());
        own.insert(word(l, w + 1).strokes.begin(), word(l, w + 1).strokes.end());
        own.insert(newest_.id);
        const Box gap{before.right, std::min(before.top, after.top), after.left, std::max(before.bottom, after.bottom)};
        const auto inside = [&](const InkPoint& p) {
            const double level = frame.level(p.at);
            return gap.contains(p.at) && level > -1 && level < kBelowFeet;
        };
        return std::ranges::none_of(page_.strokes, [&](const Stroke& s) {
            return !own.contains(s.id) && s.box().meets(gap) && std::ranges::any_of(s.points, inside);
        });
    }

    bool wants(ProofMark mark) const { return wanted_.test(static_cast<size_t>(mark)); }

    // Strokes lie in the order of their ids, but for those that replace others and lie where these lay.
    const Stroke* stroke(StrokeId id) const {
        const auto& all = page_.strokes;
        const auto at = std::ranges::lower_bound(all, counter_of(id), {}, z_of<Stroke>);
        if (at != all.end() && at->id == id) return &*at;
        if (!moved_) {
            moved_.emplace();
            for (const Stroke& s : all)
                if (z_of(s) != counter_of(s.id)) moved_->emplace(s.id, &s);
        }
        const auto found = moved_->find(id);
        return found == moved_->end() ? nullptr : found->second;
    }

    const LineFrame& frame_of(const ReadLine& line) const {
        const auto known = frames_.find(&line);
        return known != frames_.end() ? known->second : frames_.emplace(&line, measured(line)).first->second;
    }

    LineFrame measured(const ReadLine& line) const {
        LineFrame frame;
        frame.x0 = line.box.centre().x;
        // The slope of a line through the middles of its words (least squares); few words tell none.
        if (line.words.size() > 3) {
            double xx = 0, xy = 0;
            for (const ReadWord& w : line.words) {
                const Point d = w.box.centre() - line.box.centre();
                xx += d.x * d.x, xy += d.x * d.y;
            }
            if (xx > 0) frame.slope = std::clamp(xy / xx, -0.2, 0.2);
        }
        Contour contour(line.box);
        double typed_top = 0, typed_foot = 0;
        int typed = 0;
        for (const ReadWord& word : line.words) {
            if (word.block != 0) {
                typed_top += word.box.top + kTypedTop * word.box.height();
                typed_foot += word.box.top + kTypedFoot * word.box.height();
                ++typed;
            }
            for (const StrokeId id : word.strokes)
                if (const Stroke* s = stroke(id)) contour.add(*s, frame);
        }
        double top = 0;
        if (typed > 0) {
            top = typed_top / typed;
            frame.foot = typed_foot / typed;
        } else if (!contour.empty()) {
            top = contour.top();
            frame.foot = contour.foot();
        }
        frame.unit = std::max(0.5, frame.foot - top);
        return frame;
    }

    // Lines of text within reach of a height, the nearest first.
    std::vector<int> lines_near(double from, double to) const {
        std::vector<int> near;
        for (int l = 0; l < index(reading_.lines.size()); ++l) {
            const ReadLine& line = reading_.lines[static_cast<size_t>(l)];
            if (line.kind != RegionKind::text || line.words.empty()) continue;
            const double reach = 0.6 * line.box.height();
            if (line.box.top - reach > to || line.box.bottom + reach < from) continue;
            if (line.box.left - 3 * reach > box_.right || line.box.right + 3 * reach < box_.left) continue;
            near.push_back(l);
        }
        const double middle = (from + to) / 2;
        std::ranges::sort(
            near, {}, [&](int l) { return std::abs(reading_.lines[static_cast<size_t>(l)].box.centre().y - middle); });
        if (near.size() > kMostLines) near.resize(kMostLines);
        return near;
    }
    std::vector<int> lines_near() const { return lines_near(box_.top, box_.bottom); }
    const ReadLine& line(int l) const { return reading_.lines[static_cast<size_t>(l)]; }
    const ReadWord& word(int l, int w) const { return line(l).words[static_cast<size_t>(w)]; }

    // A line or a wave through words or under them.
    std::optional<Proof> along(bool wave) const {
        // Its usual height: it may bow.
        double middle = 0;
        for (const InkPoint& p : newest_.points) middle += p.at.y / static_cast<double>(newest_.points.size());
        for (const int l : lines_near()) {
            const auto is_typed = [](const ReadWord& w) { return w.block != 0; };
            if (wave && std::ranges::none_of(line(l).words, is_typed)) continue;  // under ink it is emphasis
            const LineFrame frame = frame_of(line(l));
            const double level = frame.level({box_.centre().x, middle});
            const bool through = !wave && level > -1.4 && level < -0.08;
            const bool under = level >= -0.05 && level < (wave ? 2.2 : 1.7);
            if ((!through && !under) || box_.width() < kShortestLine * frame.unit) continue;
            const ProofMark mark = through ? ProofMark::strike_out : wave ? ProofMark::bold : ProofMark::italic;
            if (!wants(mark)) continue;
            int first = -1, last = -1;
            bool halves = false, typed = true;
            Box place;
            for (int w = 0; w < index(line(l).words.size()); ++w) {
                const ReadWord& one = word(l, w);
                const double shared = std::min(box_.right, one.box.right) - std::max(box_.left, one.box.left);
                const double share = shared / std::max(0.1, one.box.width());
                if (share >= (through ? kCoveredToStrike : kCoveredToStyle)) {
                    if (first < 0) first = w;
                    last = w;
                    place.include(one.box);
                    typed = typed && one.block != 0;
                } else if (share > kSpared && through) {
                    halves = true;
                }
            }
            if (first < 0 || halves || (under && !typed)) continue;
            if (place.left - box_.left > kOverrun * frame.unit || box_.right - place.right > kOverrun * frame.unit)
                continue;
            return Proof{mark, l, first, last, 0, {}, 0, place, 0};
        }
        return {};
    }

    std::optional<Proof> separate() const {
        for (const int l : lines_near()) {
            for (int w = 0; w < index(line(l).words.size()); ++w) {
                const Box& b = word(l, w).box;
                const double x = box_.centre().x, inset = 0.12 * b.width();
                if (x < b.left + inset || x > b.right - inset) continue;
                if (box_.height() < 1.1 * b.height() || box_.height() > 4 * b.height()) continue;
                const LineFrame frame = frame_of(line(l));
                // Taller than any letter of the word: writing within a word is not.
                const double above = std::min(b.top, b.centre().y - 0.75 * frame.unit), below = b.bottom;
                if (box_.top > above - 0.1 * frame.unit || box_.bottom < below + 0.05 * frame.unit) continue;
                if (x < b.left + 0.7 * frame.unit || x > b.right - 0.7 * frame.unit) continue;
                return Proof{ProofMark::separate, l, w, w, 0, {x, b.centre().y}, 0, b, 0};
            }
        }
        return {};
    }

    // The two words between which a place lies, in the line: (w, w + 1); where it may reach so far into them.
    std::optional<int> gap_at(int l, double x, double reach) const {
        for (int w = 0; w + 1 < index(line(l).words.size()); ++w) {
            const double left = word(l, w).box.right, right = word(l, w + 1).box.left;
            if (x >= std::min(left, right) - reach && x <= std::max(left, right) + reach &&
                x > word(l, w).box.centre().x && x < word(l, w + 1).box.centre().x)
                return w;
        }
        return {};
    }

    std::optional<Proof> insert(const Caret& caret) const {
        const double feet = std::max(caret.left.y, caret.right.y);
        for (const int l : lines_near(caret.apex.y, caret.apex.y)) {
            const LineFrame frame = frame_of(line(l));
            const double apex = frame.level(caret.apex), foot = frame.level({caret.apex.x, feet});
            if (apex < -0.9 || apex > 0.55 || foot < 0.2 || foot > 3.5) continue;
            const auto w = gap_at(l, caret.apex.x, 0.6 * frame.unit);
            if (!w) continue;
            Box place = word(l, *w).box;
            place.include(word(l, *w + 1).box);
            const Point at{caret.apex.x, word(l, *w + 1).box.centre().y};
            return Proof{ProofMark::insert, l, *w, *w + 1, 0, at, 0, place, 0};
        }
        return {};
    }

    std::optional<Proof> close_up(const Arc& arc) const {
        for (const int l : lines_near()) {
            const LineFrame frame = frame_of(line(l));
            const double ends = (frame.level(arc.left) + frame.level(arc.right)) / 2;
            const bool placed = arc.over ? ends > -2.6 && ends < -0.5 : ends > -0.5 && ends < 1.3;
            const auto w = gap_at(l, (arc.left.x + arc.right.x) / 2, 0.4 * frame.unit);
            if (!placed || !w) continue;
            const double from = word(l, *w).box.right, to = word(l, *w + 1).box.left;
            if (!empty_gap(l, *w, frame)) continue;
            if (arc.left.x > from + 0.3 * frame.unit || arc.right.x < to - 0.3 * frame.unit) continue;
            if (arc.left.x < from - 2.5 * frame.unit || arc.right.x > to + 2.5 * frame.unit) continue;
            Box place = word(l, *w).box;
            place.include(word(l, *w + 1).box);
            return Proof{ProofMark::close_up, l, *w, *w + 1, 0, {(from + to) / 2, place.centre().y}, 0, place, 0};
        }
        return {};
    }

    std::optional<Proof> paragraph(const Corner& corner) const {
        for (const int l : lines_near()) {
            const LineFrame frame = frame_of(line(l));
            const double top = frame.level(corner.at), foot = frame.level(corner.foot);
            if (top < -3 || top > -0.5 || foot < -0.4 || foot > 1.8) continue;
            for (int w = 0; w < index(line(l).words.size()); ++w) {
                const Box& b = word(l, w).box;
                // A letter that is just being written.
                const bool newest = w + 1 == index(line(l).words.size()) && word(l, w).block == 0;
                if (newest && b.width() < 1.5 * frame.unit) continue;
                const double before = w > 0 ? word(l, w - 1).box.right - 0.5 * frame.unit : b.left - 3 * frame.unit;
                if (corner.at.x < before || corner.at.x > b.left + 0.4 * frame.unit) continue;
                if (corner.right.x < b.left + std::min(0.6 * frame.unit, 0.5 * b.width())) continue;
                return Proof{ProofMark::paragraph, l, w, w, 0, {corner.at.x, b.centre().y}, 0, b, 0};
            }
        }
        return {};
    }

    std::optional<Proof> run_on() const {
        Point begin = newest_.points.front().at, end = newest_.points.back().at;
        if (begin.y > end.y) std::swap(begin, end);
        for (const int l : lines_near(begin.y, begin.y)) {
            const ReadWord& last = line(l).words.back();
            // Its letters are lower than the line.
            if (std::abs(begin.x - last.box.right) > 5 * line(l).box.height()) continue;
            if (end.y < line(l).box.bottom) continue;
            const LineFrame frame = frame_of(line(l));
            const double off = (begin.x - last.box.right) / frame.unit, level = frame.level(begin);
            if (off < -1 || off > 5 || level < -1.8 || level > 0.8) continue;
            for (const int n : lines_near(end.y, end.y)) {
                if (n == l || line(n).box.centre().y <= line(l).box.centre().y) continue;
                const LineFrame next = frame_of(line(n));
                const ReadWord& first = line(n).words.front();
                const double before = (first.box.left - end.x) / next.unit, at = next.level(end);
                if (before < -1 || before > 5 || at < -1.8 || at > 0.8) continue;
                // From right to left: else it is a stroke between two lines of one word each.
                if (begin.x - end.x < 3 * frame.unit) continue;
                // Nothing stands between the two.
                const double from = line(l).box.centre().y, to = line(n).box.centre().y;
                const bool between = std::ranges::any_of(reading_.lines, [&](const ReadLine& other) {
                    const double y = other.box.centre().y;
                    return y > from + 0.5 * frame.unit && y < to - 0.5 * frame.unit && other.box.left < begin.x &&
                           other.box.right > end.x;
                });
                if (between) continue;
                Box place = last.box;
                place.include(first.box);
                const int w = index(line(l).words.size()) - 1;
                return Proof{ProofMark::run_on, l, w, w, n, {}, 0, place, 0};
            }
        }
        return {};
    }

    std::optional<Proof> heading() const {
        for (int l = 0; l < index(reading_.lines.size()); ++l)
            for (const ReadWord& one : line(l).words) {
                if (one.strokes.empty() || !box_.contains({one.box.left, one.box.top}) ||
                    !box_.contains({one.box.right, one.box.bottom}))
                    continue;
                const int level = head_level(one);
                if (level == 0) continue;
                // The typed line beside it.
                int best = -1;
                double nearest = std::numeric_limits<double>::infinity();
                for (int k = 0; k < index(reading_.lines.size()); ++k) {
                    const bool typed = std::ranges::any_of(line(k).words, [](const auto& w) { return w.block != 0; });
                    const double off = std::abs(line(k).box.centre().y - box_.centre().y);
                    if (!typed || off > 0.8 * line(k).box.height() || off >= nearest) continue;
                    best = k;
                    nearest = off;
                }
                if (best < 0) continue;
                const auto& words = line(best).words;
                const auto w =
                    index(std::ranges::find_if(words, [](const auto& x) { return x.block != 0; }) - words.begin());
                return Proof{ProofMark::heading, best, w, w, 0, {}, level, line(best).box, one.strokes.front()};
            }
        return {};
    }

    const Stroke& newest_;
    const Page& page_;
    const Reading& reading_;
    ProofMarks wanted_;
    Box box_;
    mutable std::optional<std::unordered_map<StrokeId, const Stroke*>> moved_;
    mutable std::map<const ReadLine*, LineFrame> frames_;
};

}  // namespace

int head_level(const ReadWord& letter) {
    const auto level = [](const std::string& text) {
        if (text.size() != 1) return 0;
        const char c = text[0] >= 'a' ? static_cast<char>(text[0] - 'a' + 'A') : text[0];
        return c >= 'A' && c <= 'C' ? c - 'A' + 1 : 0;
    };
    if (const int best = level(letter.text); best != 0) return best;
    for (const Alternative& a : letter.alternatives)
        if (const int other = level(a.text); other != 0) return other;
    return 0;
}

std::optional<Proof> proof_mark(const Stroke& newest, const Page& page, const Reading& reading, ProofMarks wanted) {
    if (newest.points.size() < 2 || newest.pen.kind == PenKind::highlighter || wanted.none()) return {};
    return Marks(newest, page, reading, wanted).find();
}

}  // namespace fernleaf
