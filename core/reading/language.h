// What the reader knows of a language: how its characters follow one another, and its words.
//
// A language is data: CODE.ngrams.gz and CODE.words.gz (one word a line, UTF-8) in the models' language folder. Text is
// spelt as the alphabet has it, letters before their marks.
//
// Characters: a 6-gram model with interpolated Kneser-Ney smoothing (Kneser & Ney 1995; Chen & Goodman 1999), kept as
// one 64-bit number an n-gram: 48 bits for up to six symbols, 8 for the probability, 8 for the weight of backing off.
// training/language.py makes the files. Digits share one symbol: which digit follows is no matter of language.
#pragma once

#include <cstdint>
#include <filesystem>
#include <string>
#include <vector>

#include "base/result.h"
#include "reading/alphabet.h"

namespace fernleaf {

class Language {
public:
    // The last five symbols, newest in the lowest byte. A line starts after a space.
    struct Context {
        uint64_t symbols = 0;
    };

    // Reads a language of a directory, e.g. code "en".
    static Result<Language> load(const std::filesystem::path& directory, const std::string& code);

    Context start() const;
    // Natural logarithm of the probability that c follows, and the context after it.
    double step(Context& context, char32_t c) const;

    // Whether a word is known as written, or capitalised, or in capitals.
    bool knows(const std::u32string& word) const;

private:
    int symbol(char32_t c) const;
    // The entry of an n-gram, or 0.
    uint64_t find(uint64_t key) const;

    bool listed(const std::u32string& word) const;

    Alphabet alphabet_;
    std::vector<int> symbols_;     // by code point, below 0x2100
    std::vector<uint64_t> table_;  // open addressing; 0 is free
    uint64_t mask_ = 0;
    std::vector<uint64_t> words_;  // 64-bit hashes in order: lists are long, and two words hardly ever share one
};

}  // namespace fernleaf
