#include "math/number_columns.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <string_view>

namespace fernleaf {
namespace {

constexpr double kFlat = 0.15;                    // a line's height to its width
constexpr double kLeastOfColumn = 0.5;            // of the widest number's width that it runs over
constexpr double kMostOfColumn = 4;               // and it is no longer than so many of it
constexpr double kBelow = 1.1, kUnderLine = 1.4;  // of a number's height: from number to number, from the line down
constexpr double kSameEdge = 0.9;                 // of the height: how far the numbers' right ends are apart
constexpr double kInto = 0.35;                    // of it: how far a line may run into a number

// A number with a sign before it or none, in LaTeX; nothing where it is something else.
std::optional<std::string> number_in(const ReadLine& line) {
    std::string text;
    for (const ReadWord& word : line.words) {
        if (word.block != 0 || word.strokes.empty()) return {};
        text += word.text;
    }
    std::string out;
    for (const std::string_view sign : {"+", "-", "−", "–"})
        if (text.starts_with(sign)) {
            out = sign == "+" ? "+" : "-";
            text.erase(0, sign.size());
            break;
        }
    bool digit = false;
    for (size_t i = 0; i < text.size(); ++i) {
        const bool is_digit = text[i] >= '0' && text[i] <= '9';
        const bool point = (text[i] == '.' || text[i] == ',') && i > 0 && i + 1 < text.size();
        if (!is_digit && !point) return {};
        digit |= is_digit;
    }
    if (!digit) return {};
    return out + text;
}

struct Number {
    size_t line;
    std::string latex;
    Box box;
    double certainty;
};

bool stands_below(const Number& upper, const Number& lower) {
    const double high = std::max(upper.box.height(), lower.box.height());
    const double gap = lower.box.top - upper.box.bottom;
    return gap > -kInto * high && gap < kBelow * high &&
           std::abs(upper.box.right - lower.box.right) < kSameEdge * high &&
           std::min(upper.box.right, lower.box.right) > std::max(upper.box.left, lower.box.left);
}

}  // namespace

std::vector<NumberColumn> number_columns(const Reading& reading, const std::vector<std::pair<StrokeId, Box>>& loose) {
    std::vector<Number> numbers;
    for (size_t i = 0; i < reading.lines.size(); ++i) {
        const ReadLine& line = reading.lines[i];
        if (line.kind != RegionKind::text || line.cell >= 0 || line.heading != 0 || line.words.empty()) continue;
        if (auto latex = number_in(line)) numbers.push_back({i, *std::move(latex), line.box, line.certainty});
    }
    std::ranges::sort(numbers, {}, [](const Number& n) { return n.box.top; });
    std::vector<NumberColumn> out;
    std::vector<bool> taken(numbers.size());
    for (const auto& [stroke, box] : loose) {
        if (box.height() > kFlat * box.width()) continue;
        // The number that the line is drawn under, and those above it.
        std::optional<size_t> last;
        for (size_t i = 0; i < numbers.size(); ++i) {
            const Number& n = numbers[i];
            const double over = std::min(n.box.right, box.right) - std::max(n.box.left, box.left);
            const double gap = box.top - n.box.bottom;
            if (!taken[i] && over > kLeastOfColumn * n.box.width() && gap > -kInto * n.box.height() &&
                gap < kBelow * n.box.height() && (!last || n.box.bottom > numbers[*last].box.bottom))
                last = i;
        }
        if (!last) continue;
        std::vector<size_t> column{*last};
        for (bool more = true; more;) {
            more = false;
            for (size_t i = 0; i < numbers.size() && !more; ++i)
                if (!taken[i] && std::ranges::find(column, i) == column.end() &&
                    numbers[i].box.top < numbers[column.front()].box.top &&
                    stands_below(numbers[i], numbers[column.front()]))
                    column.insert(column.begin(), i), more = true;
        }
        double widest = 0;
        for (const size_t i : column) widest = std::max(widest, numbers[i].box.width());
        if (column.size() < 2 || box.width() < kLeastOfColumn * widest || box.width() > kMostOfColumn * widest)
            continue;
        NumberColumn found{{}, stroke, "\\begin{array}{r} ", 1};
        const auto take = [&](size_t i) {
            taken[i] = true;
            found.lines.push_back(numbers[i].line);
            found.certainty = std::min(found.certainty, numbers[i].certainty);
            found.latex += numbers[i].latex;
        };
        for (const size_t i : column) take(i), found.latex += " \\\\ ";
        found.latex += "\\hline";
        for (size_t i = 0; i < numbers.size(); ++i) {
            const Number& n = numbers[i];
            const double gap = n.box.top - box.bottom;
            if (taken[i] || gap < -kInto * n.box.height() || gap > kUnderLine * n.box.height() ||
                n.box.right < box.left || n.box.left > box.right)
                continue;
            found.latex += ' ';
            take(i);
            break;
        }
        found.latex += " \\end{array}";
        out.push_back(std::move(found));
    }
    return out;
}

}  // namespace fernleaf
