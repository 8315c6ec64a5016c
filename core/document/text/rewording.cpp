#include "document/text/rewording.h"

#include <algorithm>
#include <optional>
#include <vector>

#include "base/text.h"

namespace fernleaf {
namespace {

bool goes_on(char c) { return (static_cast<unsigned char>(c) & 0xC0) == 0x80; }  // within a character, in UTF-8

// A paragraph's text byte by byte, each with its style.
struct Styled {
    std::string text;
    std::vector<const TextStyle*> styles;
};

// A word as a range of bytes in a paragraph.
struct Range {
    size_t paragraph = 0, begin = 0, end = 0;
};

class Words {
public:
    explicit Words(const TextBlock& block) : block_(block), styled_(block.paragraphs.size()) {
        for (size_t p = 0; p < styled_.size(); ++p) {
            for (const TextRun& run : block_.paragraphs[p].runs) {
                styled_[p].text += run.text;
                styled_[p].styles.insert(styled_[p].styles.end(), run.text.size(), &run.style);
            }
            const std::string& text = styled_[p].text;
            for (size_t i = 0; i < text.size();) {
                size_t end = i;
                while (end < text.size() && !is_blank(text[end])) ++end;
                if (end > i) ranges_.push_back({p, i, end});
                i = end + 1;
            }
        }
    }

    std::optional<Range> at(size_t n) const { return n < ranges_.size() ? std::optional(ranges_[n]) : std::nullopt; }
    const std::string& text(size_t paragraph) const { return styled_[paragraph].text; }

    // A stretch of a paragraph as runs.
    std::vector<TextRun> runs(size_t paragraph, size_t begin, size_t end) const {
        std::vector<TextRun> out;
        const Styled& from = styled_[paragraph];
        for (size_t i = begin; i < std::min(end, from.text.size()); ++i) {
            if (out.empty() || out.back().style != *from.styles[i]) out.push_back({"", *from.styles[i]});
            out.back().text += from.text[i];
        }
        return out;
    }

private:
    TextBlock block_;
    std::vector<Styled> styled_;
    std::vector<Range> ranges_;
};

void append(std::vector<TextRun>& to, std::vector<TextRun> more) {
    for (TextRun& run : more) {
        if (!to.empty() && to.back().style == run.style)
            to.back().text += run.text;
        else
            to.push_back(std::move(run));
    }
}

// A stretch of a paragraph gives way to some text in the style of its first letter.
void replace(TextBlock& block, const Words& words, const Range& range, const std::string& by) {
    std::vector<TextRun> runs = words.runs(range.paragraph, 0, range.begin);
    if (!by.empty()) append(runs, {{by, words.runs(range.paragraph, range.begin, range.begin + 1).front().style}});
    append(runs, words.runs(range.paragraph, range.end, std::string::npos));
    block.paragraphs[range.paragraph].runs = std::move(runs);
}

}  // namespace

bool replace_word(TextBlock& block, size_t n, const std::string& by) {
    const Words words(block);
    const auto range = words.at(n);
    if (!range) return false;
    replace(block, words, *range, by);
    return true;
}

bool remove_words(TextBlock& block, size_t first, size_t last) {
    if (first > last || !Words(block).at(last)) return false;
    for (size_t n = last + 1; n-- > first;) {
        const Words words(block);
        Range range = *words.at(n);
        const std::string& text = words.text(range.paragraph);
        if (range.end < text.size())
            ++range.end;
        else if (range.begin > 0)
            --range.begin;
        if (range.end - range.begin == text.size())
            block.paragraphs.erase(block.paragraphs.begin() + static_cast<std::ptrdiff_t>(range.paragraph));
        else
            replace(block, words, range, "");
    }
    return true;
}

bool split_word(TextBlock& block, size_t n, size_t characters) {
    const Words words(block);
    const auto range = words.at(n);
    if (!range || characters == 0) return false;
    const std::string& text = words.text(range->paragraph);
    size_t at = range->begin;
    for (; at < range->end; ++at)
        if (!goes_on(text[at]) && characters-- == 0) break;
    if (at == range->end) return false;
    std::vector<TextRun> runs = words.runs(range->paragraph, 0, at);
    runs.back().text += ' ';
    append(runs, words.runs(range->paragraph, at, std::string::npos));
    block.paragraphs[range->paragraph].runs = std::move(runs);
    return true;
}

bool join_words(TextBlock& block, size_t n) {
    const Words words(block);
    const auto range = words.at(n), next = words.at(n + 1);
    if (!range || !next || range->paragraph != next->paragraph) return false;
    replace(block, words, {range->paragraph, range->end, next->begin}, "");
    return true;
}

bool begin_paragraph(TextBlock& block, size_t n) {
    const Words words(block);
    const auto range = words.at(n);
    if (!range || n == 0 || words.at(n - 1)->paragraph != range->paragraph) return false;
    Paragraph& whole = block.paragraphs[range->paragraph];
    Paragraph rest = whole;
    rest.before_mm = 0;
    rest.heading = 0;
    rest.runs = words.runs(range->paragraph, range->begin, std::string::npos);
    whole.runs = words.runs(range->paragraph, 0, words.at(n - 1)->end);
    block.paragraphs.insert(block.paragraphs.begin() + static_cast<std::ptrdiff_t>(range->paragraph) + 1,
                            std::move(rest));
    return true;
}

bool run_on(TextBlock& block, size_t n) {
    const Words words(block);
    const auto range = words.at(n);
    const auto next = words.at(n + 1);
    if (!range || !next || next->paragraph != range->paragraph + 1) return false;
    std::vector<TextRun> runs = words.runs(range->paragraph, 0, std::string::npos);
    const std::string& text = words.text(range->paragraph);
    if (!is_blank(text.back())) runs.back().text += ' ';
    append(runs, words.runs(range->paragraph + 1, 0, std::string::npos));
    block.paragraphs[range->paragraph].runs = std::move(runs);
    block.paragraphs.erase(block.paragraphs.begin() + static_cast<std::ptrdiff_t>(range->paragraph) + 1);
    return true;
}

bool style_words(TextBlock& block, size_t first, size_t last, const std::function<void(TextStyle&)>& change) {
    const Words words(block);
    const auto from = words.at(first), to = words.at(last);
    if (first > last || !from || !to) return false;
    for (size_t p = from->paragraph; p <= to->paragraph; ++p) {
        const size_t begin = from->paragraph == p ? from->begin : 0;
        const size_t end = to->paragraph == p ? to->end : words.text(p).size();
        std::vector<TextRun> runs = words.runs(p, 0, begin), styled = words.runs(p, begin, end);
        for (TextRun& run : styled) change(run.style);
        append(runs, std::move(styled));
        append(runs, words.runs(p, end, std::string::npos));
        block.paragraphs[p].runs = std::move(runs);
    }
    return true;
}

bool set_heading(TextBlock& block, size_t n, int level, double growth) {
    const auto range = Words(block).at(n);
    if (!range || block.paragraphs[range->paragraph].heading == level) return false;
    Paragraph& paragraph = block.paragraphs[range->paragraph];
    const bool first_time = paragraph.heading == 0;
    paragraph.heading = level;
    for (TextRun& run : paragraph.runs) {
        run.style.bold = true;
        if (first_time) run.style.size_mm *= growth;
    }
    return true;
}

}  // namespace fernleaf
