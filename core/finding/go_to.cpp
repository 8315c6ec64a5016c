#include "finding/go_to.h"

#include <algorithm>

#include "base/text.h"

namespace fernleaf {
namespace {

constexpr double kAtTheBeginning = 1, kAtAWord = 0.7, kWithin = 0.2;

bool part_of_word(char c) {
    return (c >= '0' && c <= '9') || (c >= 'a' && c <= 'z') || static_cast<unsigned char>(c) >= 0x80;
}

double match_one(std::string_view word, std::string_view name) {
    double best = 0;
    for (size_t at = name.find(word); at != std::string_view::npos; at = name.find(word, at + 1)) {
        if (at == 0) return kAtTheBeginning;
        if (!part_of_word(name[at - 1])) return kAtAWord;
        best = kWithin;
    }
    return best;
}

}  // namespace

GoToQuery::GoToQuery(std::string_view typed) : words_(fold_words(typed)) {}

double GoToQuery::match(std::string_view folded) const {
    if (words_.empty()) return 0;
    double sum = 0;
    for (const std::string& word : words_) {
        const double one = match_one(word, folded);
        if (one == 0) return 0;
        sum += one;
    }
    // Of equals the shorter name: more of it was typed.
    return sum / static_cast<double>(words_.size()) -
           0.0005 * static_cast<double>(std::min<size_t>(folded.size(), 200));
}

}  // namespace fernleaf
