// What a person looks for, and the words of a reading under which it is found.
//
// Handwriting is indexed by everything the reader thought possible, each with its certainty (probabilistic indexing:
// Vidal, Toselli & Puigcerver 2015 onwards), so that a word is found though another reading was the best.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "document/page.h"
#include "transcript/reading.h"

namespace fernleaf {

// Words that must follow one another. The last one matches words it begins, unless the phrase stood in quotes.
struct Phrase {
    std::vector<std::string> words;  // folded; of a link (pump → tank) as in_outline() gives them
    bool whole = false;
};

struct Query {
    std::vector<Phrase> phrases;          // all of them must be on the page
    std::optional<std::string> notebook;  // folded beginning of the title
    std::optional<int64_t> before_ms;
    std::optional<int64_t> after_ms;
};

// Understands words, "several words", a link of a drawing (pump → tank, or pump -> tank), notebook:title,
// before:2026-05-01 and after:2026-05-01. A query with nothing to look for and an ill-formed date are errors.
Result<Query> parse_query(std::string_view text);

struct Term {
    std::string word;  // folded
    int position = 0;  // in the line; neighbours differ by one
    double certainty = 0;
};

enum class LineKind {
    on_page,
    outline,  // of a drawing: what leads to what, whose words stand on the page as well
};

// The terms of a line: of every word its text and its alternatives. Those of an outline are found only as links.
std::vector<Term> terms_of(const ReadLine& line, LineKind kind = LineKind::on_page);

// A folded word as it is indexed in an outline.
std::string in_outline(const std::string& word);

}  // namespace fernleaf
