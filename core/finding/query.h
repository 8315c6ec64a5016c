// What a person looks for, and the words of a reading under which it is found.
//
// Handwriting is indexed by everything the reader thought possible, each with its certainty (probabilistic indexing:
// Vidal, Toselli & Puigcerver 2015 onwards), so that a word is found though another reading was the best.
#pragma once

#include <cstdint>
#include <string>
#include <string_view>
#include <variant>
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

// What must be true of a page.
struct PageFilter {
    enum class Kind {
        tag,       // text: the folded name of one of its tags or its notebook's, or how it begins
        notebook,  // text: how the folded title begins
        folder,    // the same, of a folder it is in
        language,  // text: a code, "de", of its notebook's
        before,    // number: ms since 1970; it was begun earlier
        after,     // the same; not earlier
        day,       // number: a day as by local_day(), on which something was written on it
        sound,     // recorded while it was written
        drawing,
        math,
        table,
        picture,
        todo,  // a box to tick
    };
    Kind kind = Kind::tag;
    std::string text = {};
    int64_t number = 0;
    friend bool operator==(const PageFilter&, const PageFilter&) = default;
};

struct SearchItem {
    std::variant<Phrase, PageFilter> what;
    bool without = false;  // it must not be on the page
};

struct Query {
    // Of each list one item must be on the page. At least one list is without items that must not be there.
    std::vector<std::vector<SearchItem>> all_of;
};

// Understands words, "several words", fro* (as fro), a link of a drawing (pump → tank, or pump -> tank), tag:frost,
// notebook:title, folder:title, lang:de, before:2026-05-01, after:…, day:… (also day:today, day:yesterday), has:sound,
// drawing, math, table, picture or todo; -word leaves out, OR joins what stands on either side. A query with nothing to
// look for, an ill-formed date and an unknown has: are errors. now_ms: what today is.
Result<Query> parse_query(std::string_view text, int64_t now_ms);
Result<Query> parse_query(std::string_view text);  // now

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
