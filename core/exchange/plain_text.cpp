#include "exchange/plain_text.h"

#include <utility>

#include "base/quantile.h"
#include "exchange/table_file.h"
#include "transcript/written_line.h"

namespace fernleaf {

std::string plain_text(const Reading& reading) {
    std::string out, results;
    const ReadLine* last = nullptr;
    int region = 0;
    for (size_t i = 0; i < reading.lines.size(); ++i) {
        const ReadLine& line = reading.lines[i];
        const bool divider = line.kind == RegionKind::divider;
        const bool says =
            (line.kind == RegionKind::text || line.kind == RegionKind::math) && line.cell < 0 && !line.words.empty();
        if (!divider && !line.table && !says) continue;
        // Words about a formula stand in one line with it, what it comes to below them.
        const bool same_line = last && goes_on(*last, line);
        if (same_line) {
            out.back() = ' ';
        } else {
            out += std::exchange(results, {});
            if (!out.empty() && line.region != region) out += '\n';
        }
        last = &line;
        region = line.region;
        if (line.table) {
            out += table_text(table_at(reading, i), ".md");
            continue;
        }
        out += (divider ? ElementTraits<Divider>::plain_text({}) : line.text()) + '\n';
        if (!line.result.empty()) results += "= " + line.result + '\n';
    }
    return out + results;
}

std::string plain_text(const std::vector<Reading>& pages) {
    std::string out;
    for (size_t i = 0; i < pages.size(); ++i) {
        if (i > 0) out += '\f';
        out += plain_text(pages[i]);
    }
    return out;
}

std::string form_text(const Reading& reading) {
    std::string out;
    for (const ReadLine& line : reading.lines) {
        if (line.kind != RegionKind::text || line.words.empty()) continue;
        std::vector<double> heights;
        for (const ReadWord& word : line.words) heights.push_back(word.box.height());
        const double gap = median(std::move(heights));
        std::vector<std::string> cells;
        const ReadWord* before = nullptr;
        for (const ReadWord& word : line.words) {
            if (!before || word.box.left - before->box.right > gap)
                cells.push_back(word.text);
            else
                cells.back() += ' ' + word.text;
            before = &word;
        }
        for (size_t i = 0; i < cells.size(); ++i) {
            if (i + 1 < cells.size() && cells[i].size() > 1 && cells[i].ends_with(':')) cells[i].pop_back();
            out += (i > 0 ? "\t" : "") + cells[i];
        }
        out += '\n';
    }
    return out;
}

}  // namespace fernleaf
