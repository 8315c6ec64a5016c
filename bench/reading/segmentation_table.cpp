// Pages made line by line and word by word, so that every stroke's line and word is known.
#include <cmath>
#include <cstdio>
#include <numbers>
#include <random>
#include <set>

#include "bench/reading/tables.h"
#include "demo/demo_library.h"
#include "ink/grouping.h"
#include "reading/ink_reading.h"

namespace fernleaf {
namespace {

constexpr double kDegree = std::numbers::pi / 180;

struct MadePage {
    std::vector<Stroke> strokes;
    std::vector<size_t> line_of;            // of each stroke; kNoLine for drawings
    std::vector<std::set<StrokeId>> words;  // the strokes of each word
};
constexpr size_t kNoLine = static_cast<size_t>(-1);

class PageMaker {
public:
    PageMaker(const Hand& hand, unsigned seed) : hand_(hand), random_(seed) {}

    // Writes words in a row; slope is dy / dx.
    void line(const std::string& text, Point at, double x_height = 2.1, double slope = 0, double widest = 1000) {
        std::uniform_real_distribution<double> gap(0.75, 1.4);
        const double left = at.x;
        for (size_t begin = 0; begin < text.size();) {
            const size_t end = std::min(text.find(' ', begin), text.size());
            WritingStyle style;
            style.x_height_mm = x_height;
            auto strokes = hand_.write(text.substr(begin, end - begin), at, style, random_);
            begin = end + 1;
            if (strokes.empty()) continue;
            Box box;
            for (const Stroke& s : strokes) box.include(s.box());
            if (box.right > left + widest) break;
            std::set<StrokeId> word;
            for (Stroke& s : strokes) {
                for (InkPoint& p : s.points.change()) p.at.y += slope * (p.at.x - left);
                word.insert(add(std::move(s), line_));
            }
            page.words.push_back(std::move(word));
            at.x = box.right + gap(random_) * x_height;
        }
        ++line_;
    }
    void drawing(const std::vector<Point>& corners) { add(drawn(corners, {}, 0, random_), kNoLine); }

    MadePage page;

private:
    StrokeId add(Stroke stroke, size_t line) {
        stroke.id = static_cast<StrokeId>(page.strokes.size()) + 1;
        page.strokes.push_back(std::move(stroke));
        page.line_of.push_back(line);
        return page.strokes.back().id;
    }
    const Hand& hand_;
    std::mt19937 random_;
    size_t line_ = 0;
};

using Make = void (*)(PageMaker&, const std::vector<std::string>&);

void even(PageMaker& m, const std::vector<std::string>& lines) {
    for (size_t i = 0; i < lines.size(); ++i) m.line(lines[i], {20, 20 + 8.0 * static_cast<double>(i)});
}
void tight(PageMaker& m, const std::vector<std::string>& lines) {
    for (size_t i = 0; i < lines.size(); ++i) m.line(lines[i], {20, 20 + 5.6 * static_cast<double>(i)});
}
void sloping(PageMaker& m, const std::vector<std::string>& lines) {
    for (size_t i = 0; i < lines.size(); ++i)
        m.line(lines[i], {20, 60 + 8.0 * static_cast<double>(i)}, 2.1, -std::tan(6 * kDegree));
}
void unruly(PageMaker& m, const std::vector<std::string>& lines) {
    for (size_t i = 0; i < lines.size(); ++i)
        m.line(lines[i], {20.0 + static_cast<double>(i * 7 % 5), 30 + 10.0 * static_cast<double>(i)}, 2.1,
               std::tan((static_cast<double>(i % 3) - 1) * 2.5 * kDegree));
}
void inserted(PageMaker& m, const std::vector<std::string>& lines) {
    for (size_t i = 0; i < lines.size(); ++i) {
        const double y = 20 + 10.0 * static_cast<double>(i);
        m.line(lines[i], {20, y});
        if (i % 2 == 1) m.line(lines[(i + 3) % lines.size()], {50, y - 4.8}, 1.3, 0, 30);
    }
}
void columns(PageMaker& m, const std::vector<std::string>& lines) {
    for (size_t i = 0; i < lines.size(); ++i)
        m.line(lines[i], {15.0 + 95.0 * static_cast<double>(i % 2), 20 + 9.0 * static_cast<double>(i / 2)}, 2.1, 0, 75);
}
void list(PageMaker& m, const std::vector<std::string>& lines) {
    for (size_t i = 0; i < lines.size(); ++i)
        m.line("- " + lines[i], {20.0 + 8.0 * static_cast<double>(i % 3 == 2), 20 + 8.0 * static_cast<double>(i)}, 2.1,
               0, 60);
}
void around_drawing(PageMaker& m, const std::vector<std::string>& lines) {
    for (size_t i = 0; i < lines.size(); ++i) {
        const double y = 20 + 8.0 * static_cast<double>(i) + (i >= lines.size() / 2 ? 45 : 0);
        m.line(lines[i], {20, y});
    }
    const double top = 20 + 8.0 * static_cast<double>(lines.size() / 2);
    m.drawing({{30, top}, {70, top}, {70, top + 30}, {30, top + 30}, {30, top}});
    m.drawing({{70, top + 15}, {100, top + 15}});
    m.drawing({{100, top + 5}, {120, top + 15}, {100, top + 25}, {100, top + 5}});
}
void margin_notes(PageMaker& m, const std::vector<std::string>& lines) {
    for (size_t i = 0; i < lines.size(); ++i) m.line(lines[i], {55, 20 + 8.0 * static_cast<double>(i)});
    for (size_t i = 0; i < 3 && i < lines.size(); ++i)
        m.line(lines[lines.size() - 1 - i], {8, 31 + 5.0 * static_cast<double>(i)}, 1.4, 0, 30);
}

}  // namespace

void segmentation_table(const Hands& hands, const Reader& reader) {
    const std::pair<const char*, Make> kinds[] = {{"even lines", even},
                                                  {"tight lines", tight},
                                                  {"sloping 6°", sloping},
                                                  {"unruly slopes", unruly},
                                                  {"insertions", inserted},
                                                  {"two columns", columns},
                                                  {"lists", list},
                                                  {"about a drawing", around_drawing},
                                                  {"margin notes", margin_notes}};
    std::vector<std::vector<std::string>> texts;
    for (const DemoPage& page : *demo_texts())
        if (page.language == "en" && page.lines.size() > 5) texts.push_back(page.lines);
    std::printf("\npages              strokes   in the right line    words   with the right strokes\n");
    size_t strokes_all = 0, strokes_right = 0, words_all = 0, words_right = 0;
    for (const auto& [name, make] : kinds) {
        size_t strokes = 0, right = 0, words = 0, whole = 0;
        for (const auto& [hand_name, hand] : hands)
            for (size_t t = 0; t < std::min<size_t>(texts.size(), 4); ++t) {
                PageMaker maker(hand, static_cast<unsigned>(t + 11));
                make(maker, texts[t]);
                const MadePage& page = maker.page;
                // A written line is matched with the found line that holds most of it.
                const auto groups = group_lines(page.strokes);
                std::map<size_t, std::map<size_t, size_t>> share;
                for (size_t g = 0; g < groups.size(); ++g)
                    for (const size_t m : groups[g].members)
                        if (page.line_of[m] != kNoLine) ++share[page.line_of[m]][groups[g].drawing ? kNoLine : g];
                std::set<size_t> taken;
                for (const auto& [line, found] : share) {
                    size_t best = 0, most = 0;
                    for (const auto& [g, n] : found)
                        if (g != kNoLine && n > most && !taken.contains(g)) most = n, best = g;
                    if (most > 0) taken.insert(best);
                    right += most;
                    for (const auto& [g, n] : found) strokes += n;
                }
                std::set<std::set<StrokeId>> read;
                for (const ReadLine& line : read_ink(page.strokes, reader, {}, {}))
                    for (const ReadWord& word : line.words) read.emplace(word.strokes.begin(), word.strokes.end());
                words += page.words.size();
                for (const auto& word : page.words) whole += read.contains(word);
            }
        std::printf("%-16s  %8zu             %6.2f %%  %7zu                  %6.2f %%\n", name, strokes,
                    100.0 * static_cast<double>(right) / static_cast<double>(strokes), words,
                    100.0 * static_cast<double>(whole) / static_cast<double>(words));
        std::fflush(stdout);
        strokes_all += strokes, strokes_right += right, words_all += words, words_right += whole;
    }
    std::printf("%-16s  %8zu             %6.2f %%  %7zu                  %6.2f %%\n", "all", strokes_all,
                100.0 * static_cast<double>(strokes_right) / static_cast<double>(strokes_all), words_all,
                100.0 * static_cast<double>(words_right) / static_cast<double>(words_all));
}

}  // namespace fernleaf
