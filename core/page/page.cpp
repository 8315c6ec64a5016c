#include "page/page.h"

#include <algorithm>
#include <set>

namespace fernleaf {
namespace {

// The share of strokes two sets have in common that makes them the same word, though a dot was added later.
constexpr double kSameInk = 0.6;
constexpr double kSamePlace = 0.5;

double likeness(const std::vector<StrokeId>& a, const std::vector<StrokeId>& b) {
    const std::set<StrokeId> first(a.begin(), a.end());
    const auto shared = std::ranges::count_if(b, [&](StrokeId id) { return first.contains(id); });
    return static_cast<double>(shared) / static_cast<double>(first.size() + b.size() - static_cast<size_t>(shared));
}

}  // namespace

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
                if (ink == word.strokes.empty()) continue;
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
