#include "finding/written_tags.h"

#include <algorithm>

#include "base/text.h"
#include "document/tag.h"

namespace fernleaf {
namespace {

bool is_sure(const ReadWord& word) { return word.corrected || word.block != 0 || word.certainty >= kSureEnough; }

// Without what stands about it in a sentence; empty where it names nothing.
std::string name_in(const std::string& text) {
    std::u32string letters = decode_utf8(text);
    while (!letters.empty() && !is_letter(letters.back()) && !is_mark(letters.back()) &&
           !(letters.back() >= U'0' && letters.back() <= U'9'))
        letters.pop_back();
    return std::ranges::any_of(letters, is_letter) ? encode_utf8(letters) : std::string();
}

}  // namespace

std::vector<std::string> written_tags(const Reading& reading) {
    std::vector<std::string> out;
    for (const ReadLine& line : reading.lines) {
        if (line.kind == RegionKind::math) continue;
        for (size_t i = 0; i < line.words.size(); ++i) {
            const ReadWord& word = line.words[i];
            if (!word.text.starts_with('#') || !is_sure(word)) continue;
            const ReadWord* named = &word;
            if (word.text == "#") {
                if (i + 1 == line.words.size() || !is_sure(line.words[i + 1])) continue;
                named = &line.words[++i];
            }
            for (const std::string& name : tag_names(name_in(named->text)))
                if (std::ranges::find(out, name) == out.end()) out.push_back(name);
        }
    }
    return out;
}

}  // namespace fernleaf
