#include "document/text/replacing.h"

#include <algorithm>

namespace fernleaf {
namespace {

void append(std::vector<TextRun>& runs, std::string_view text, const TextStyle& style) {
    if (text.empty()) return;
    if (!runs.empty() && runs.back().style == style)
        runs.back().text += text;
    else
        runs.push_back({std::string(text), style});
}

size_t replace_in(Paragraph& paragraph, const std::string& find, const std::string& by) {
    std::string all;
    for (const TextRun& run : paragraph.runs) all += run.text;
    std::vector<TextRun> out;
    size_t count = 0, at = 0;
    size_t run = 0, run_end = paragraph.runs.empty() ? 0 : paragraph.runs[0].text.size();
    // Takes what stands before a place over, or passes over it.
    const auto advance = [&](size_t to, bool keep) {
        while (at < to) {
            while (run_end <= at) run_end += paragraph.runs[++run].text.size();
            const size_t end = std::min(to, run_end);
            if (keep) append(out, std::string_view(all).substr(at, end - at), paragraph.runs[run].style);
            at = end;
        }
    };
    for (size_t found = all.find(find); found != std::string::npos; found = all.find(find, found + find.size())) {
        advance(found, true);
        while (run_end <= at) run_end += paragraph.runs[++run].text.size();
        append(out, by, paragraph.runs[run].style);
        advance(found + find.size(), false);
        ++count;
    }
    if (count == 0) return 0;
    advance(all.size(), true);
    if (out.empty()) out.push_back({"", paragraph.runs.front().style});
    paragraph.runs = std::move(out);
    return count;
}

}  // namespace

size_t replace_text(TextBlock& block, const std::string& find, const std::string& by) {
    if (find.empty()) return 0;
    size_t count = 0;
    for (Paragraph& paragraph : block.paragraphs) count += replace_in(paragraph, find, by);
    return count;
}

}  // namespace fernleaf
