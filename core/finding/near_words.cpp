#include "finding/near_words.h"

#include <algorithm>
#include <cstdlib>
#include <utility>
#include <vector>

namespace fernleaf {

int most_edits(std::u32string_view word) { return word.size() < 4 ? 0 : word.size() < 8 ? 1 : 2; }

int edits_between(std::u32string_view a, std::u32string_view b, int most) {
    const int rows = static_cast<int>(a.size()), columns = static_cast<int>(b.size());
    if (std::abs(rows - columns) > most) return most + 1;
    const auto width = b.size() + 1;
    std::vector<int> before(width), row(width), next(width);
    for (int j = 0; j <= columns; ++j) row[static_cast<size_t>(j)] = j;
    for (int i = 1; i <= rows; ++i) {
        next[0] = i;
        int least = i;
        for (size_t j = 1; j < width; ++j) {
            const char32_t c = a[static_cast<size_t>(i - 1)];
            int edits = std::min({row[j] + 1, next[j - 1] + 1, row[j - 1] + (c == b[j - 1] ? 0 : 1)});
            if (i > 1 && j > 1 && c == b[j - 2] && a[static_cast<size_t>(i - 2)] == b[j - 1])
                edits = std::min(edits, before[j - 2] + 1);
            next[j] = edits;
            least = std::min(least, edits);
        }
        if (least > most) return most + 1;
        std::swap(before, row);
        std::swap(row, next);
    }
    return std::min(row.back(), most + 1);
}

}  // namespace fernleaf
