#include "document/text/text_block.h"

#include <algorithm>
#include <cmath>

#include "base/text.h"

namespace fernleaf {
Box TextBlock::box() const {
    const Box straight = Box::of(at.x, at.y, width_mm, height_mm);
    return turned(straight, angle, straight.centre());
}

std::string list_sign(ListKind kind, int number) {
    switch (kind) {
        case ListKind::none:
            return {};
        case ListKind::bullet:
            return "•";
        case ListKind::number:
            return std::to_string(number) + ".";
        case ListKind::check:
            return "☐";
        case ListKind::checked:
            return "☑";
    }
    return {};
}

std::string plain_text(const TextBlock& block) {
    std::string out;
    int number = 0;
    for (const Paragraph& paragraph : block.paragraphs) {
        number = paragraph.list == ListKind::number ? number + 1 : 0;
        if (&paragraph != &block.paragraphs.front()) out += '\n';
        if (const std::string sign = list_sign(paragraph.list, number); !sign.empty()) out += sign + ' ';
        for (const TextRun& run : paragraph.runs) out += run.text;
    }
    return out;
}

size_t words_in(const std::string& text) {
    size_t words = 0;
    bool in_word = false;
    for (const char c : text) {
        words += !is_blank(c) && !in_word;
        in_word = !is_blank(c);
    }
    return words;
}

std::vector<const TextStyle*> word_styles(const TextBlock& block) {
    std::vector<const TextStyle*> styles;
    for (const Paragraph& paragraph : block.paragraphs) {
        bool in_word = false;
        for (const TextRun& run : paragraph.runs)
            for (const char c : run.text) {
                if (!is_blank(c) && !in_word) styles.push_back(&run.style);
                in_word = !is_blank(c);
            }
    }
    return styles;
}

bool has_text(const TextBlock& block) {
    return std::ranges::any_of(block.paragraphs, [](const Paragraph& p) {
        return std::ranges::any_of(p.runs, [](const TextRun& r) { return !trimmed(r.text).empty(); });
    });
}

}  // namespace fernleaf
