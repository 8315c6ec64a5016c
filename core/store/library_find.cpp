// Finding: pages by what they say in any of their readings, and by what is known of them.
//
// Each item of a query gives places of words, or pages. Pages are worked out for the few that can be among the hits
// only: those of the list of items with the fewest places.
#include <algorithm>
#include <iterator>
#include <set>
#include <unordered_map>
#include <unordered_set>

#include "base/text.h"
#include "finding/near_words.h"
#include "sound/heard_times.h"
#include "store/codec.h"
#include "store/library.h"
#include "store/records.h"

namespace fernleaf {
namespace {

// Near misses are looked for where the word itself stands in fewer places than this; each edit costs them certainty.
constexpr size_t kPlenty = 10;
constexpr double kNearCertainty = 0.3;
constexpr size_t kLinesOfAPage = 20;  // about

using Pages = std::unordered_set<PageId>;

std::string next_word(std::string word) {  // the first text after all that word begins
    word.push_back(static_cast<char>(0xFF));
    return word;
}

// Where a phrase stands; a word may stand in very many lines.
struct WordPlace {
    double certainty = 0;
    int64_t line = 0, position = 0;  // of its first word
    size_t words = 1;
};

std::vector<WordPlace> places_of(Database& db, const Phrase& phrase) {
    std::vector<WordPlace> places;
    const auto end_of = [&](size_t i) {
        const bool prefix = i + 1 == phrase.words.size() && !phrase.whole;
        return prefix ? next_word(phrase.words[i]) : phrase.words[i] + '\x01';
    };
    Statement first = db.prepare("SELECT line, position, certainty FROM term WHERE word >= ? AND word < ?");
    Statement follow =
        db.prepare("SELECT max(certainty) FROM term WHERE line = ? AND position = ? AND word >= ? AND word < ?");
    first.bind(phrase.words[0]).bind(end_of(0));
    while (first.step()) {
        WordPlace place{first.real(2), first.integer(0), first.integer(1), phrase.words.size()};
        size_t i = 1;
        for (; i < phrase.words.size(); ++i) {
            follow.reset()
                .bind(place.line)
                .bind(place.position + static_cast<int64_t>(i))
                .bind(phrase.words[i])
                .bind(end_of(i));
            if (!follow.step() || follow.real(0) <= 0) break;
            place.certainty = std::min(place.certainty, follow.real(0));
        }
        if (i == phrase.words.size()) places.push_back(place);
    }
    return places;
}

// Words of the index with the first letter of the one looked for that are few edits away from it. (Other first letters
// would have the whole vocabulary gone through.)
std::vector<std::pair<std::string, int>> near_words(Database& db, const std::string& word) {
    std::vector<std::pair<std::string, int>> out;
    const std::u32string wanted = decode_utf8(word);
    const int most = most_edits(wanted);
    if (most == 0 || !(is_letter(wanted[0]) || is_digit(wanted[0]))) return out;
    const std::string beginning = encode_utf8(std::u32string_view(wanted).substr(0, 1));
    const std::string end = next_word(beginning);
    Statement next = db.prepare("SELECT min(word) FROM term WHERE word > ? AND word < ?");
    for (std::string at = beginning; next.reset().bind(at).bind(end).step();) {
        std::string found = next.text(0);
        if (found.empty()) break;
        if (const int edits = edits_between(wanted, decode_utf8(found), most); edits > 0 && edits <= most)
            out.emplace_back(found, edits);
        at = std::move(found);
    }
    return out;
}

void add_near_places(Database& db, const Phrase& phrase, std::vector<WordPlace>& places) {
    if (phrase.whole || phrase.words.size() != 1 || places.size() >= kPlenty) return;
    std::set<std::pair<int64_t, int64_t>> known;
    for (const WordPlace& place : places) known.emplace(place.line, place.position);
    for (const auto& [word, edits] : near_words(db, phrase.words[0]))
        for (WordPlace place : places_of(db, {{word}, true})) {
            if (!known.emplace(place.line, place.position).second) continue;
            for (int i = 0; i < edits; ++i) place.certainty *= kNearCertainty;
            places.push_back(place);
        }
}

Pages pages_in(Statement& rows) {
    Pages out;
    while (rows.step()) out.insert(rows.integer(0));
    return out;
}

Pages tagged(Database& db, const std::string& name) {
    Statement exact = db.prepare("SELECT 1 FROM tag WHERE folded = ?");
    const std::string end = exact.bind(name).step() ? name + '\x01' : next_word(name);
    Statement s = db.prepare(
        "WITH wanted AS (SELECT id FROM tag WHERE folded >= ?1 AND folded < ?2) "
        "SELECT page FROM page_tag WHERE tag IN wanted UNION SELECT p.id FROM notebook_tag t JOIN page p ON p.notebook "
        "= t.notebook WHERE t.tag IN wanted");
    s.bind(name).bind(end);
    return pages_in(s);
}

// Notebooks whose title, or that of a folder they are in, begins so.
std::vector<NotebookId> notebooks_in(Database& db, const std::string& folder) {
    std::unordered_map<FolderId, FolderId> parent;
    std::unordered_set<FolderId> wanted;
    Statement folders = db.prepare("SELECT id, parent, title FROM folder");
    while (folders.step()) {
        parent[folders.integer(0)] = folders.integer(1);
        if (fold(folders.text(2)).starts_with(folder)) wanted.insert(folders.integer(0));
    }
    std::vector<NotebookId> out;
    Statement notebooks = db.prepare("SELECT id, folder FROM notebook");
    while (notebooks.step()) {
        FolderId in = notebooks.integer(1);
        // Not for ever, whatever a damaged library says.
        for (size_t depth = 0; depth <= parent.size() && in != kNoFolder && !wanted.contains(in); ++depth)
            in = parent.contains(in) ? parent[in] : kNoFolder;
        if (wanted.contains(in)) out.push_back(notebooks.integer(0));
    }
    return out;
}

Pages pages_of(Database& db, const std::vector<NotebookId>& notebooks) {
    Pages out;
    Statement s =
        db.prepare("SELECT id FROM page WHERE notebook = ?1 UNION SELECT page FROM sheaf_page WHERE notebook = ?1");
    for (const NotebookId notebook : notebooks) out.merge(pages_in(s.reset().bind(notebook)));
    return out;
}

template <typename Is>
Pages of_notebooks(Database& db, Is is) {
    std::vector<NotebookId> out;
    Statement s = db.prepare("SELECT id, title, language FROM notebook");
    while (s.step())
        if (is(s.text(1), language_codes(s.text(2)))) out.push_back(s.integer(0));
    return pages_of(db, out);
}

Pages heard(Database& db, const std::vector<VoiceTrack>& tracks) {
    const HeardTimes times(tracks);
    Pages out;
    Statement s = db.prepare("SELECT page, first, last FROM written");
    while (s.step())
        if (times.meets(s.integer(1), s.integer(2))) out.insert(s.integer(0));
    return out;
}

Pages with_regions(Database& db, RegionKind kind) {
    // Both conditions: the index is of all that is no text.
    Statement s = db.prepare("SELECT DISTINCT page FROM reading_line WHERE kind <> 0 AND kind = ?");
    return pages_in(s.bind(static_cast<int>(kind)));
}

}  // namespace

std::vector<PageId> Library::filtered(const PageFilter& filter) const {
    using Kind = PageFilter::Kind;
    const auto pages = [&]() -> Pages {
        switch (filter.kind) {
            case Kind::tag:
                return tagged(*db_, filter.text);
            case Kind::notebook:
                return of_notebooks(
                    *db_, [&](const std::string& title, const auto&) { return fold(title).starts_with(filter.text); });
            case Kind::language:
                return of_notebooks(*db_, [&](const auto&, const std::vector<std::string>& languages) {
                    return std::ranges::find(languages, filter.text) != languages.end();
                });
            case Kind::folder:
                return pages_of(*db_, notebooks_in(*db_, filter.text));
            case Kind::before: {
                Statement s = db_->prepare("SELECT id FROM page WHERE created < ?");
                return pages_in(s.bind(filter.number));
            }
            case Kind::after: {
                Statement s = db_->prepare("SELECT id FROM page WHERE created >= ?");
                return pages_in(s.bind(filter.number));
            }
            case Kind::day: {
                Statement s = db_->prepare("SELECT page FROM written WHERE day = ?");
                return pages_in(s.bind(filter.number));
            }
            case Kind::sound:
                return heard(*db_, tracks_locked());
            case Kind::drawing:
                return with_regions(*db_, RegionKind::drawing);
            case Kind::math:
                return with_regions(*db_, RegionKind::math);
            case Kind::table:
                return with_regions(*db_, RegionKind::table);
            case Kind::picture: {
                Statement s = db_->prepare(
                    "SELECT id FROM page WHERE EXISTS (SELECT 1 FROM element e WHERE e.page = page.id AND e.live = 1 "
                    "AND e.kind = ?)");
                return pages_in(s.bind(static_cast<int>(ElementKind::picture)));
            }
            case Kind::todo: {
                Statement s = db_->prepare("SELECT DISTINCT page FROM reading_line WHERE ticked >= 0");
                return pages_in(s);
            }
        }
        return {};
    }();
    return {pages.begin(), pages.end()};
}

namespace {

// What one item of a query comes to.
struct Found {
    bool phrase = false, without = false;
    std::vector<WordPlace> places;  // of a phrase
    Pages pages;                    // of a filter; of a phrase, once they are known
};

// The pages of a query of several items, and for a phrase the lines on them.
class Narrowing {
public:
    Narrowing(Database& db, std::vector<std::vector<Found>>& lists) : db_(db), lists_(lists) {}

    // Pages for which every list has an item.
    Pages pages() {
        std::vector<Found>* fewest = nullptr;
        for (auto& list : lists_)
            if (std::ranges::none_of(list, &Found::without) && (!fewest || cost(list) < cost(*fewest))) fewest = &list;
        Pages candidates;
        if (!fewest) return candidates;
        Statement page_of_line = db_.prepare("SELECT page FROM reading_line WHERE id = ?");
        for (const Found& item : *fewest) {
            candidates.insert(item.pages.begin(), item.pages.end());
            for (const WordPlace& place : item.places)
                if (!page_of_.contains(place.line) && page_of_line.reset().bind(place.line).step())
                    candidates.insert(page_of_[place.line] = page_of_line.integer(0));
        }
        // Words of the other lists are looked up by the lines of these pages.
        if (std::ranges::any_of(
                lists_, [&](const auto& list) { return &list != fewest && std::ranges::any_of(list, &Found::phrase); }))
            find_lines(candidates);
        for (auto& list : lists_)
            for (Found& item : list)
                for (const WordPlace& place : item.places)
                    if (const auto on = page_of_.find(place.line); on != page_of_.end()) item.pages.insert(on->second);
        std::erase_if(candidates, [&](PageId page) {
            return !std::ranges::all_of(lists_, [&](const auto& list) {
                return std::ranges::any_of(
                    list, [&](const Found& item) { return item.pages.contains(page) != item.without; });
            });
        });
        return candidates;
    }
    // Of a line on one of the pages that were looked at; 0: on none.
    PageId page_of(int64_t line) const {
        const auto found = page_of_.find(line);
        return found == page_of_.end() ? 0 : found->second;
    }

private:
    // Of looking through a list's pages: where words of other lists are looked for, all of their lines count.
    size_t cost(const std::vector<Found>& list) const {
        size_t places = 0, pages = 0;
        for (const Found& item : list) places += item.places.size(), pages += item.pages.size();
        const bool phrases_elsewhere = std::ranges::any_of(
            lists_, [&](const auto& other) { return &other != &list && std::ranges::any_of(other, &Found::phrase); });
        return phrases_elsewhere ? kLinesOfAPage * (places + pages) : places + pages;
    }
    void find_lines(const Pages& pages) {
        Statement lines = db_.prepare("SELECT id FROM reading_line WHERE page = ?");
        for (const PageId page : pages) {
            lines.reset().bind(page);
            while (lines.step()) page_of_[lines.integer(0)] = page;
        }
    }

    Database& db_;
    std::vector<std::vector<Found>>& lists_;
    std::unordered_map<int64_t, PageId> page_of_;
};

constexpr char kOnPage[] = " JOIN notebook n ON n.id = p.notebook WHERE p.binned = 0 AND n.binned = 0 AND ";

// Lines at places, the surest first.
class Lines {
public:
    Lines(Database& db, size_t limit)
        : row_(db.prepare(std::string("SELECT l.page, n.id, n.title, p.number, l.words FROM reading_line l JOIN page p "
                                      "ON p.id = l.page") +
                          kOnPage + "l.id = ?")),
          limit_(limit) {}

    std::vector<Hit> at(std::vector<WordPlace> places) {
        // Of equals the older, so that no line beyond the limit has to be unpacked.
        const auto less_sure = [](const WordPlace& a, const WordPlace& b) {
            return a.certainty != b.certainty ? a.certainty < b.certainty : a.line > b.line;
        };
        std::ranges::make_heap(places, less_sure);
        for (auto end = places.end(); end != places.begin() && found_.size() < limit_; --end) {
            std::ranges::pop_heap(places.begin(), end, less_sure);
            look_at(*std::prev(end));
        }
        for (const WordPlace& place : places) {
            const auto entry = looked_at_.find(place.line);
            if (entry == looked_at_.end() || !entry->second) continue;
            for (size_t k = 0; k < place.words; ++k)
                found_[*entry->second].positions.insert(place.position + static_cast<int64_t>(k));
        }
        std::vector<Hit> out;
        for (Line& line : found_) out.push_back(outlined(std::move(line)));
        return out;
    }

private:
    struct Line {
        Hit hit;
        std::vector<ReadWord> words;
        std::set<int64_t> positions;  // of what was found
    };
    void look_at(const WordPlace& place) {
        const auto [entry, unseen] = looked_at_.try_emplace(place.line);
        if (!unseen || !row_.reset().bind(place.line).step()) return;
        auto words = decode_words(row_.text(4));
        if (!words) return;
        entry->second = found_.size();
        found_.push_back({{row_.integer(0),
                           row_.integer(1),
                           row_.text(2),
                           static_cast<int>(row_.integer(3)),
                           {},
                           place.certainty,
                           {}},
                          *std::move(words),
                          {}});
    }
    static Hit outlined(Line line) {
        ReadLine read;
        read.words = std::move(line.words);
        line.hit.line = read.text();
        // Positions lead back to words: a word's terms stand from its own position on.
        int position = 0;
        for (const ReadWord& word : read.words) {
            ReadLine one;
            one.words = {word};
            int width = 1;
            for (const Term& t : terms_of(one)) width = std::max(width, t.position + 1);
            const auto from = line.positions.lower_bound(position);
            if (from != line.positions.end() && *from < position + width) line.hit.boxes.push_back(word.box);
            position += width;
        }
        return std::move(line.hit);
    }

    Statement row_;
    size_t limit_;
    std::vector<Line> found_;
    std::unordered_map<int64_t, std::optional<size_t>> looked_at_;  // which line is which of these, if any
};

}  // namespace

Result<std::vector<Hit>> Library::find(const Query& query, size_t limit) const {
    const Turn turn(mutex_, db_);
    std::vector<std::vector<Found>> lists;
    for (const auto& items : query.all_of) {
        auto& list = lists.emplace_back();
        for (const SearchItem& item : items) {
            Found& found = list.emplace_back();
            found.without = item.without;
            if (const auto* phrase = std::get_if<Phrase>(&item.what)) {
                found.phrase = true;
                found.places = places_of(*db_, *phrase);
                if (!item.without) add_near_places(*db_, *phrase, found.places);
            } else {
                const auto pages = filtered(std::get<PageFilter>(item.what));
                found.pages = {pages.begin(), pages.end()};
            }
        }
    }
    std::vector<WordPlace> places;
    Pages bare;  // pages on which nothing but what is known of them was looked for
    if (lists.size() == 1 && lists[0].size() == 1 && lists[0][0].phrase) {
        places = std::move(lists[0][0].places);  // a word by itself: without a look at all of its pages
    } else {
        Narrowing narrowing(*db_, lists);
        bare = narrowing.pages();
        const Pages wanted = bare;
        for (const auto& list : lists)
            for (const Found& item : list)
                for (const WordPlace& place : item.places)
                    if (const PageId page = narrowing.page_of(place.line); !item.without && wanted.contains(page)) {
                        places.push_back(place);
                        bare.erase(page);
                    }
    }
    std::vector<Hit> hits = Lines(*db_, limit).at(std::move(places));
    Statement of_page = db_->prepare(std::string("SELECT n.id, n.title, p.number, p.title, p.first_line FROM page p") +
                                     kOnPage + "p.id = ?");
    for (const PageId page : bare) {
        if (!of_page.reset().bind(page).step()) continue;
        const std::string title = of_page.text(3);
        hits.push_back({page,
                        of_page.integer(0),
                        of_page.text(1),
                        static_cast<int>(of_page.integer(2)),
                        title.empty() ? of_page.text(4) : title,
                        1,
                        {}});
    }
    if (Status status = db_->take_status(); !status) return status.error();
    std::ranges::stable_sort(hits, [](const Hit& a, const Hit& b) {
        if (a.certainty != b.certainty) return a.certainty > b.certainty;
        return std::pair(a.notebook, a.page_number) < std::pair(b.notebook, b.page_number);
    });
    if (hits.size() > limit) hits.resize(limit);
    return hits;
}

}  // namespace fernleaf
