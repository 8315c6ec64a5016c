#include "page/page.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace fernleaf {
namespace {

// The share of strokes two sets have in common that makes them the same word, though a dot was added later.
constexpr double kSameInk = 0.6;
constexpr double kSamePlace = 0.5;

constexpr double kEndlessRoomMm = 80;  // below what is on an endless page
constexpr double kEndlessStepMm = 40;
// A typed word joins a written line that it overlaps by this share of its height, no farther from its ink than this
// many heights of it.
constexpr double kSameHeight = 0.5;
constexpr double kJoinGap = 3;

// The lines of one block as it was set.
std::vector<ReadLine> lines_of(const TextBlock& block) {
    std::vector<ReadLine> lines;
    for (size_t i = 0; i < block.words.size(); ++i) {
        const PlacedWord& word = block.words[i];
        if (lines.empty() || word.line != block.words[i - 1].line) lines.emplace_back();
        ReadLine& line = lines.back();
        line.certainty = 1;
        line.box.include(word.box);
        line.words.push_back({word.text, 1, word.box, {}, {}, false, block.id, static_cast<int>(i)});
    }
    return lines;
}

double share_of_height(const Box& a, const Box& b) {
    const double shared = std::min(a.bottom, b.bottom) - std::max(a.top, b.top);
    return shared / std::max(0.1, std::min(a.height(), b.height()));
}

// The line of ink that a typed line stands in, or none.
ReadLine* line_about(Reading& reading, const Box& box) {
    ReadLine* best = nullptr;
    double most = kSameHeight;
    for (ReadLine& line : reading.lines) {
        if (line.kind != RegionKind::text || line.words.empty()) continue;
        const double reach = kJoinGap * line.box.height();
        if (box.left > line.box.right + reach || box.right < line.box.left - reach) continue;
        // Nothing is laid over what was written.
        if (std::ranges::any_of(line.words, [&](const ReadWord& w) { return w.box.overlap(box) > 0.2; })) continue;
        if (const double share = share_of_height(line.box, box); share > most) most = share, best = &line;
    }
    return best;
}

double likeness(const std::vector<StrokeId>& a, const std::vector<StrokeId>& b) {
    const std::set<StrokeId> first(a.begin(), a.end());
    const auto shared = std::ranges::count_if(b, [&](StrokeId id) { return first.contains(id); });
    return static_cast<double>(shared) / static_cast<double>(first.size() + b.size() - static_cast<size_t>(shared));
}

}  // namespace

void make_room_below(Page& page) {
    if (!page.info.endless) return;
    double bottom = 0;
    for (const Stroke& s : page.strokes) bottom = std::max(bottom, s.box().bottom);
    for (const Picture& p : page.pictures) bottom = std::max(bottom, p.box.bottom);
    for (const TextBlock& t : page.texts) bottom = std::max(bottom, t.box().bottom);
    const double wanted = std::ceil((bottom + kEndlessRoomMm) / kEndlessStepMm) * kEndlessStepMm;
    page.info.height_mm = std::max(page.info.height_mm, wanted);
}

void add_typed(Reading& reading, const std::vector<TextBlock>& texts) {
    std::vector<std::vector<ReadLine>> blocks;
    for (const TextBlock& text : texts) {
        std::vector<ReadLine> lines = lines_of(text);
        if (lines.size() == 1) {
            if (ReadLine* about = line_about(reading, lines[0].box)) {
                about->words.insert(about->words.end(), lines[0].words.begin(), lines[0].words.end());
                std::ranges::stable_sort(about->words, {}, [](const ReadWord& w) { return w.box.left; });
                about->box.include(lines[0].box);
                continue;
            }
        }
        if (!lines.empty()) blocks.push_back(std::move(lines));
    }
    if (blocks.empty()) return;
    std::ranges::stable_sort(blocks, {}, [](const auto& lines) { return lines.front().box.top; });
    // Regions keep their order; a block goes before the first that begins lower.
    std::vector<std::vector<ReadLine>> regions;
    for (ReadLine& line : reading.lines) {
        if (regions.empty() || regions.back().front().region != line.region) regions.emplace_back();
        regions.back().push_back(std::move(line));
    }
    for (auto& block : blocks) {
        const double top = block.front().box.top;
        const auto lower = std::ranges::find_if(regions, [&](const auto& region) {
            return std::ranges::all_of(region, [&](const ReadLine& line) { return line.box.top > top; });
        });
        regions.insert(lower, std::move(block));
    }
    reading.lines.clear();
    int number = 0;
    for (auto& region : regions) {
        for (ReadLine& line : region) {
            line.region = number;
            reading.lines.push_back(std::move(line));
        }
        ++number;
    }
}

std::vector<std::string> language_codes(const std::string& list) {
    std::vector<std::string> codes(1);
    for (const char c : list) {
        if (c != ',' && c != ' ' && c != '+')
            codes.back().push_back(c);
        else if (!codes.back().empty())
            codes.emplace_back();
    }
    if (codes.back().empty()) codes.pop_back();
    return codes;
}

std::string language_list(const std::vector<std::string>& codes) {
    std::string list;
    for (const std::string& code : codes) list += (list.empty() ? "" : ",") + code;
    return list;
}

std::string ReadLine::text() const {
    std::string out;
    for (const ReadWord& word : words) {
        if (!out.empty()) out += ' ';
        out += word.text;
    }
    return out;
}

void apply_corrections(Reading& reading, const std::vector<Correction>& corrections) {
    for (const Correction& correction : corrections) {
        ReadWord* best = nullptr;
        double closest = 0;
        for (ReadLine& line : reading.lines) {
            if (line.kind != RegionKind::text) continue;
            for (ReadWord& word : line.words) {
                const bool ink = !correction.strokes.empty();
                if (ink == word.strokes.empty() || word.block != 0) continue;
                const double same = ink ? likeness(correction.strokes, word.strokes) : correction.box.overlap(word.box);
                if (same >= (ink ? kSameInk : kSamePlace) && same > closest) best = &word, closest = same;
            }
        }
        if (!best) continue;
        if (best->text != correction.text) {
            std::erase_if(best->alternatives, [&](const Alternative& a) { return a.text == correction.text; });
            best->alternatives.insert(best->alternatives.begin(), {best->text, best->certainty});
        }
        best->text = correction.text;
        best->certainty = 1;
        best->corrected = true;
    }
}

}  // namespace fernleaf
