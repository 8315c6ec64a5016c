// The characters a reader knows. Symbol 0 is the CTC blank; symbol i is the i-th character.
//
// Letters with marks are spelt as their letter and then their marks, as Unicode decomposes them: a network that has
// learnt a mark on one letter knows it on all, and the languages' many letters need few symbols.
#pragma once

#include <string>
#include <string_view>
#include <unordered_map>

namespace fernleaf {

class Alphabet {
public:
    Alphabet() = default;
    explicit Alphabet(std::u32string characters);

    int size() const { return static_cast<int>(characters_.size()) + 1; }  // with the blank
    char32_t character(int symbol) const { return characters_[static_cast<size_t>(symbol - 1)]; }
    // 0 for a character it does not know.
    int symbol(char32_t c) const;
    const std::u32string& characters() const { return characters_; }

    // A text as the reader spells it: decomposed but for what the alphabet has whole. Characters that it can't spell
    // stay as they are.
    std::u32string spelt(std::u32string_view text) const;

private:
    std::u32string characters_;
    std::unordered_map<char32_t, int> symbols_;
};

}  // namespace fernleaf
