#include "reading/alphabet.h"

#include "base/text.h"

namespace fernleaf {

Alphabet::Alphabet(std::u32string characters) : characters_(std::move(characters)) {
    for (size_t i = 0; i < characters_.size(); ++i) symbols_[characters_[i]] = static_cast<int>(i) + 1;
}

int Alphabet::symbol(char32_t c) const {
    const auto found = symbols_.find(c);
    return found == symbols_.end() ? 0 : found->second;
}

std::u32string Alphabet::spelt(std::u32string_view text) const {
    std::u32string out;
    for (const char32_t c : text) {
        if (symbol(c) != 0)
            out.push_back(c);
        else
            out += decomposed(c);
    }
    return out;
}

}  // namespace fernleaf
