#include "paper/form_rows.h"

#include <algorithm>
#include <cmath>
#include <iterator>

#include "base/quantile.h"
#include "base/text.h"

namespace fernleaf {
namespace {

constexpr double kLevel = 0.55;       // of the higher line's height: middles of one row are no farther apart
constexpr double kBlankRow = 1.5;     // of the usual distance of rows
constexpr size_t kLeastLabels = 2;    // of a form
constexpr double kLabelShare = 0.5;   // of the neighbours in its rows
constexpr size_t kLeastShort = 4;     // and where nothing tells labels
constexpr double kShortShare = 0.8;   // of all neighbours
constexpr size_t kLongestLabel = 28;  // characters

bool is_text(const FormLine& line) { return line.line.kind == RegionKind::text && !line.line.words.empty(); }

bool all_printed(const FormLine& line, bool printed) {
    return std::ranges::all_of(line.printed, [printed](bool p) { return p == printed; });
}

bool is_short(const FormLine& line) { return decode_utf8(line.line.text()).size() <= kLongestLabel; }

bool is_label_of(const FormLine& left, const FormLine& right) {
    return is_short(left) &&
           (left.line.text().ends_with(':') || (all_printed(left, true) && all_printed(right, false)));
}

bool level(const ReadLine& a, const ReadLine& b) {
    return std::abs(a.box.centre().y - b.box.centre().y) < kLevel * std::max(a.box.height(), b.box.height());
}

// From top to bottom, where nothing is left that stands beside something else; a wide gap begins a region.
void order_rows(std::vector<FormLine>& lines) {
    for (size_t i = 0; i < lines.size(); ++i)
        for (size_t k = i + 1; k < lines.size(); ++k)
            if (is_text(lines[i]) && is_text(lines[k]) && level(lines[i].line, lines[k].line)) return;
    std::ranges::stable_sort(lines, {}, [](const FormLine& l) { return l.line.box.centre().y; });
    std::vector<double> distances;
    for (size_t i = 1; i < lines.size(); ++i)
        distances.push_back(lines[i].line.box.centre().y - lines[i - 1].line.box.centre().y);
    const double usual = median(std::move(distances));
    int region = 0;
    double above = lines.front().line.box.centre().y;
    for (FormLine& line : lines) {
        const double y = line.line.box.centre().y;
        if (y - above > kBlankRow * usual) ++region;
        line.line.region = region;
        above = y;
    }
}

}  // namespace

void join_rows(std::vector<FormLine>& lines) {
    // Rows of level lines that stand beside one another, each from left to right.
    std::vector<size_t> order;
    for (size_t i = 0; i < lines.size(); ++i)
        if (is_text(lines[i])) order.push_back(i);
    std::ranges::stable_sort(order, {}, [&](size_t i) { return lines[i].line.box.left; });
    std::vector<std::vector<size_t>> rows;
    for (const size_t i : order) {
        const auto row = std::ranges::find_if(rows, [&](const std::vector<size_t>& r) {
            const ReadLine& last = lines[r.back()].line;
            return level(last, lines[i].line) && lines[i].line.box.left >= last.box.right;
        });
        if (row == rows.end())
            rows.push_back({i});
        else
            row->push_back(i);
    }
    // What holds for most neighbours in rows holds for all: a label's colon or a word's kind may be misread.
    // And neighbours that are all short are fields, or a list of things and what belongs to them.
    size_t all = 0, pairs = 0, labels = 0, both = 0;
    for (const std::vector<size_t>& row : rows)
        for (size_t k = 1; k < row.size(); ++k) {
            ++all;
            pairs += is_short(lines[row[k - 1]]);
            both += is_short(lines[row[k - 1]]) && is_short(lines[row[k]]);
            labels += is_label_of(lines[row[k - 1]], lines[row[k]]);
        }
    const auto share = [](size_t part, size_t of) { return static_cast<double>(part) / static_cast<double>(of); };
    const bool is_form = (labels >= kLeastLabels && share(labels, pairs) >= kLabelShare) ||
                         (both >= kLeastShort && share(both, all) >= kShortShare);
    std::vector<bool> gone(lines.size(), false);
    bool joined = false;
    for (const std::vector<size_t>& row : rows) {
        bool fields = false;
        for (size_t k = 1; k < row.size(); ++k)
            fields |= is_form ? is_short(lines[row[k - 1]]) : is_label_of(lines[row[k - 1]], lines[row[k]]);
        if (!fields) continue;
        FormLine& first = lines[row[0]];
        for (size_t k = 1; k < row.size(); ++k) {
            FormLine& other = lines[row[k]];
            std::ranges::move(other.line.words, std::back_inserter(first.line.words));
            first.printed.insert(first.printed.end(), other.printed.begin(), other.printed.end());
            first.line.box.include(other.line.box);
            first.line.certainty = std::min(first.line.certainty, other.line.certainty);
            gone[row[k]] = joined = true;
        }
    }
    if (!joined) return;
    std::vector<FormLine> left;
    for (size_t i = 0; i < lines.size(); ++i)
        if (!gone[i]) left.push_back(std::move(lines[i]));
    lines = std::move(left);
    order_rows(lines);
}

}  // namespace fernleaf
