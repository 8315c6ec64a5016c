// The characters a reader knows. Symbol 0 is the CTC blank; symbol i is the i-th character.
#pragma once

#include <string>
#include <unordered_map>

namespace fernleaf {

class Alphabet {
public:
    Alphabet() = default;
    explicit Alphabet(std::u32string characters) : characters_(std::move(characters)) {
        for (size_t i = 0; i < characters_.size(); ++i) symbols_[characters_[i]] = static_cast<int>(i) + 1;
    }
    int size() const { return static_cast<int>(characters_.size()) + 1; }  // with the blank
    char32_t character(int symbol) const { return characters_[static_cast<size_t>(symbol - 1)]; }
    // 0 for a character it does not know.
    int symbol(char32_t c) const {
        const auto found = symbols_.find(c);
        return found == symbols_.end() ? 0 : found->second;
    }
    const std::u32string& characters() const { return characters_; }

private:
    std::u32string characters_;
    std::unordered_map<char32_t, int> symbols_;
};

}  // namespace fernleaf
