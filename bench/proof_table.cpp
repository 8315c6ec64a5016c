#include "proof_table.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <numbers>
#include <random>

#include "demo/demo_library.h"
#include "demo/hand.h"
#include "figures.h"
#include "ink/underline.h"
#include "transcript/proof_mark.h"

using namespace fernleaf;

namespace {

constexpr double kSmallMm = 2.1;  // the height of small letters that hands are asked for, and of type
constexpr double kPitchMm = 9;
constexpr std::array kNames = {"strike out", "insert", "separate", "close up", "run on",
                               "paragraph",  "italic", "bold",     "heading"};

struct Count {
    size_t made = 0, recognised = 0, other = 0;
};

// Draws marks as hands do: never quite level, straight or where they should be.
class Marker {
public:
    explicit Marker(unsigned seed) : random_(seed) {}

    double some(double from, double to) { return std::uniform_real_distribution(from, to)(random_); }
    int any(int below) { return static_cast<int>(random_() % static_cast<unsigned>(below)); }

    // Along a curve given by points: sampled as a pen does, trembling, from either end.
    Stroke drawn(const std::vector<Point>& through) {
        Stroke s;
        const double phase = some(0, 6), swing = some(0.02, 0.12), pace = some(0.4, 1.2);
        double way = 0;
        for (size_t i = 1; i < through.size(); ++i) {
            const double length = distance(through[i - 1], through[i]);
            const int steps = std::max(1, static_cast<int>(length / 0.4));
            for (int k = 0; k < steps; ++k) {
                const Point p = through[i - 1] + (through[i] - through[i - 1]) * (static_cast<double>(k) / steps);
                const double w = (way + length * k / steps) * pace + phase;
                s.points.push_back({p + Point{swing * std::sin(1.3 * w), swing * std::cos(w)}});
            }
            way += length;
        }
        s.points.push_back({through.back()});
        if (any(4) == 0) std::ranges::reverse(s.points.change());
        return s;
    }

    std::vector<Point> level(double left, double right, double y) {
        const double rise = some(-0.05, 0.05) * (right - left), bow = some(-0.04, 0.04) * (right - left);
        std::vector<Point> points;
        for (int i = 0; i <= 10; ++i) {
            const double t = i / 10.0;
            points.push_back({left + (right - left) * t, y + rise * (t - 0.5) + 4 * bow * t * (1 - t)});
        }
        return points;
    }

    std::vector<Point> wave(double left, double right, double y) {
        const double swing = some(0.35, 0.8), length = some(2, 4);
        std::vector<Point> points;
        for (double x = left; x < right; x += 0.3)
            points.push_back({x, y + swing * std::sin(2 * std::numbers::pi * (x - left) / length)});
        return points;
    }

    std::vector<Point> caret(Point apex, double height) {
        const double half = some(0.35, 0.7) * height;
        return {{apex.x - half * some(0.8, 1.2), apex.y + height},
                apex,
                {apex.x + half * some(0.8, 1.2), apex.y + height * some(0.8, 1.2)}};
    }

    std::vector<Point> bow(double left, double right, double y, double sagitta) {
        std::vector<Point> points;
        for (int i = 0; i <= 16; ++i)
            points.push_back({left + (right - left) * i / 16.0, y - 4 * sagitta * i / 16.0 * (1 - i / 16.0)});
        return points;
    }

    // A cubic Bézier curve.
    static std::vector<Point> curve(Point a, Point b, Point c, Point d) {
        std::vector<Point> points;
        for (int i = 0; i <= 30; ++i) {
            const double t = i / 30.0, u = 1 - t;
            points.push_back(a * (u * u * u) + b * (3 * u * u * t) + c * (3 * u * t * t) + d * (t * t * t));
        }
        return points;
    }

private:
    std::mt19937 random_;
};

// How large a hand really writes its small letters, and how far below its line they stand.
struct Letters {
    double height = kSmallMm, foot = 0;  // mm
};

Letters letters_of(const Hand& hand) {
    std::vector<double> tops, feet;
    for (const char* letter : {"a", "c", "e", "m", "n", "o", "r", "s", "u", "v", "x", "z"}) {
        std::mt19937 random(1);
        Box box;
        for (const Stroke& s :
             hand.write(letter, {0, 0}, {.x_height_mm = kSmallMm, .pen = {}, .unevenness = 0}, random))
            box.include(s.box());
        if (box.empty()) continue;
        tops.push_back(box.top);
        feet.push_back(box.bottom);
    }
    if (tops.empty()) return {};
    const double top = quantile(tops, 0.5), foot = quantile(feet, 0.5);
    return {foot - top, foot};
}

struct Written {
    Page page;
    Reading reading;
    std::vector<double> feet;  // of each line: its baseline
    size_t strokes = 0, misread = 0;
};

// A page written stroke by stroke, each looked at as the newest on it.
Written write(const Hand& hand, const DemoPage& text, std::mt19937& random, std::array<size_t, kProofMarks>& as) {
    Written out;
    double y = 20;
    for (const std::string& line_text : text.lines) {
        Point at{20, y};
        out.reading.lines.emplace_back();
        for (size_t begin = 0; begin < line_text.size();) {
            const size_t end = std::min(line_text.find(' ', begin), line_text.size());
            ReadWord word;
            word.text = line_text.substr(begin, end - begin);
            for (Stroke& s : hand.write(word.text, at, {.x_height_mm = kSmallMm, .pen = {}}, random)) {
                s.id = static_cast<StrokeId>(++out.strokes);
                out.page.strokes.push_back(s);
                if (const auto proof = proof_mark(s, out.page, out.reading, all_proof_marks())) {
                    ++out.misread;
                    ++as[static_cast<size_t>(proof->mark)];
                }
                // What has been read so far: the word as far as it has come.
                auto& words = out.reading.lines.back().words;
                if (!word.strokes.empty()) words.pop_back();
                word.strokes.push_back(s.id);
                word.box.include(s.box());
                out.reading.lines.back().box.include(s.box());
                words.push_back(word);
            }
            begin = end + 1;
            if (!word.strokes.empty()) at.x = word.box.right + 2;
        }
        if (out.reading.lines.back().words.empty())
            out.reading.lines.pop_back();
        else
            out.feet.push_back(y);
        y += kPitchMm;
    }
    return out;
}

// The same words in type.
Reading in_type(const Written& written) {
    Reading typed = written.reading;
    for (size_t l = 0; l < typed.lines.size(); ++l) {
        int n = 0;
        typed.lines[l].box = {};
        for (ReadWord& word : typed.lines[l].words) {
            word.strokes.clear();
            word.block = 1;
            word.block_word = n++;
            word.box.top = written.feet[l] - 4;
            word.box.bottom = written.feet[l] + 1.3;
            typed.lines[l].box.include(word.box);
        }
    }
    return typed;
}

class Table {
public:
    Table(Written& written, Reading reading, const Letters& letters, unsigned seed,
          std::array<Count, kProofMarks>& counts)
        : page_(written.page),
          reading_(std::move(reading)),
          feet_(written.feet),
          letters_(letters),
          draw_(seed),
          counts_(counts) {}

    void mark_up(bool typed) {
        for (size_t l = 0; l < reading_.lines.size(); ++l) {
            const auto& words = reading_.lines[l].words;
            const int count = static_cast<int>(words.size());
            const double small = letters_.height, foot = feet_[l] + letters_.foot, top = foot - small;
            const int first = draw_.any(count), last = std::min(count - 1, first + draw_.any(3));
            const double left = words[static_cast<size_t>(first)].box.left,
                         right = words[static_cast<size_t>(last)].box.right;
            const double from = left + draw_.some(-1.5, 0.4), to = right + draw_.some(-0.4, 1.5);
            if (right - left > 5) {
                expect(ProofMark::strike_out, l, first, last,
                       draw_.level(from, to, foot - small * draw_.some(0.3, 0.75)));
                const double under = foot + small * draw_.some(0.3, 1.1);
                if (typed) {
                    expect(ProofMark::italic, l, first, last, draw_.level(from, to, under));
                    expect(ProofMark::bold, l, first, last, draw_.wave(from, to, under));
                } else {
                    emphasise(ProofMark::italic, l, first, last, draw_.level(from, to, under));
                    emphasise(ProofMark::bold, l, first, last, draw_.wave(from, to, under));
                }
            }
            const Box& word = words[static_cast<size_t>(first)].box;
            if (word.width() > 5) {
                const double x = word.left + word.width() * draw_.some(0.25, 0.75), slant = draw_.some(-1, 1);
                expect(ProofMark::separate, l, first, first,
                       {{x + slant, word.top - draw_.some(0.5, 2)}, {x - slant, word.bottom + draw_.some(0.3, 1.5)}});
            }
            const double leg = draw_.some(3, 7);
            const Point corner{word.left - draw_.some(0.2, 1), top - small * draw_.some(0.2, 1.3)};
            expect(ProofMark::paragraph, l, first, first,
                   {{corner.x + draw_.some(-0.3, 0.3), foot + small * draw_.some(0, 0.7)},
                    corner,
                    {corner.x + leg, corner.y + draw_.some(-0.4, 0.4)}});
            if (first + 1 < count) {
                const double gap_left = word.right, gap_right = words[static_cast<size_t>(first) + 1].box.left;
                const double middle = (gap_left + gap_right) / 2;
                expect(ProofMark::insert, l, first, first + 1,
                       draw_.caret({middle + draw_.some(-0.3, 0.3), foot + small * draw_.some(-0.4, 0.3)},
                                   small * draw_.some(0.9, 1.7)));
                const double a = gap_left - draw_.some(0.3, 1.5), b = gap_right + draw_.some(0.3, 1.5);
                const double sagitta = (b - a) * draw_.some(0.25, 0.5);
                const bool over = draw_.any(2) == 0;
                expect(ProofMark::close_up, l, first, first + 1,
                       draw_.bow(a, b, over ? top - small * draw_.some(0, 0.8) : foot + small * draw_.some(0, 0.5),
                                 over ? sagitta : -sagitta));
            }
            if (l + 1 < reading_.lines.size()) {
                const Point a{words.back().box.right + draw_.some(0.2, 2), foot - small * draw_.some(0.2, 0.8)};
                const Point d{reading_.lines[l + 1].words.front().box.left - draw_.some(0.2, 2),
                              feet_[l + 1] + letters_.foot - small * draw_.some(0.2, 0.8)};
                const double bulge = draw_.some(6, 20);
                if (a.x - d.x > 15)
                    expect(ProofMark::run_on, l, count - 1, count - 1,
                           Marker::curve(a, {a.x + bulge, a.y + 4}, {d.x - bulge, d.y - 4}, d));
            }
        }
    }

private:
    void expect(ProofMark mark, size_t line, int first, int last, const std::vector<Point>& through) {
        Stroke s = draw_.drawn(through);
        s.id = 1'000'000;
        const auto proof = proof_mark(s, page_, reading_, all_proof_marks());
        Count& count = counts_[static_cast<size_t>(mark)];
        ++count.made;
        const bool right = proof && proof->mark == mark && proof->line == static_cast<int>(line) &&
                           proof->first == first && proof->last == last;
        count.recognised += right;
        count.other += proof && !right;
    }

    // Under ink, marks are emphasis: most of the words' ink must be said to stand on it, and no other word's.
    void emphasise(ProofMark mark, size_t line, int first, int last, const std::vector<Point>& through) {
        page_.strokes.push_back(draw_.drawn(through));
        page_.strokes.back().id = 1'000'000;
        Count& count = counts_[static_cast<size_t>(mark)];
        ++count.made;
        bool right = false, found = false;
        for (const Underline& u : underlines_in(page_.strokes)) {
            if (u.stroke + 1 != page_.strokes.size()) continue;
            found = true;
            right = u.wave == (mark == ProofMark::bold);
            const auto& words = reading_.lines[line].words;
            for (int w = 0; w < static_cast<int>(words.size()); ++w) {
                const auto& ids = words[static_cast<size_t>(w)].strokes;
                const auto on = std::ranges::count_if(
                    u.over, [&](size_t i) { return std::ranges::find(ids, page_.strokes[i].id) != ids.end(); });
                right = right && (2 * on > std::ssize(ids)) == (w >= first && w <= last);
            }
        }
        count.recognised += right;
        count.other += found && !right;
        page_.strokes.pop_back();
    }

    Page& page_;
    Reading reading_;
    std::vector<double> feet_;
    Letters letters_;
    Marker draw_;
    std::array<Count, kProofMarks>& counts_;
};

void print(const char* where, const std::array<Count, kProofMarks>& counts) {
    Count all;
    for (size_t m = 0; m < kProofMarks; ++m) {
        const Count& c = counts[m];
        if (c.made == 0) continue;
        all.made += c.made, all.recognised += c.recognised, all.other += c.other;
        std::printf("  %s, %-10s %5zu made, recognised %5.1f %%, taken for another %4.1f %%\n", where, kNames[m],
                    c.made, 100.0 * static_cast<double>(c.recognised) / static_cast<double>(c.made),
                    100.0 * static_cast<double>(c.other) / static_cast<double>(c.made));
    }
    std::printf("  %s, all        %5zu made, recognised %5.1f %%\n", where, all.made,
                100.0 * static_cast<double>(all.recognised) / static_cast<double>(all.made));
}

}  // namespace

void proof_table(const std::filesystem::path& hands) {
    size_t strokes = 0, misread = 0, underlines = 0;
    std::array<size_t, kProofMarks> as{};
    std::array<Count, kProofMarks> ink{}, type{};
    unsigned seed = 11;
    for (const auto& entry : std::filesystem::directory_iterator(hands)) {
        if (entry.path().extension() != ".json") continue;
        const Hand hand = *Hand::load(entry.path());
        const Letters letters = letters_of(hand);
        std::mt19937 random(3);
        for (const DemoPage& text : *demo_texts()) {
            Written written = write(hand, text, random, as);
            strokes += written.strokes;
            misread += written.misread;
            underlines += underlines_in(written.page.strokes).size();
            Table(written, written.reading, letters, ++seed, ink).mark_up(false);
            Table(written, in_type(written), {}, ++seed, type).mark_up(true);
        }
    }
    std::printf("proof marks: of %zu strokes of writing %zu taken for one (%.3f %%), %zu for an underline\n", strokes,
                misread, 100.0 * static_cast<double>(misread) / static_cast<double>(strokes), underlines);
    for (size_t m = 0; m < kProofMarks; ++m)
        if (as[m] > 0) std::printf("  as %s: %zu\n", kNames[m], as[m]);
    print("on ink", ink);
    print("on type", type);
}
