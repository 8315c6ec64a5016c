#include "finding/query.h"

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <map>
#include <optional>
#include <utility>

#include "base/local_day.h"
#include "base/now.h"
#include "base/text.h"

namespace fernleaf {
namespace {

constexpr double kLeastCertainty = 0.002;

constexpr int64_t kMsADay = 86'400'000;

// The number of days from 1 January 1970 to a day as it is written.
Result<int64_t> day_number(const std::string& text, int64_t now_ms) {
    if (fold(text) == "today") return local_day(now_ms);
    if (fold(text) == "yesterday") return local_day(now_ms) - 1;
    int year = 0;
    unsigned month = 0, day = 0;
    char rest = 0;
    if (std::sscanf(text.c_str(), "%4d-%2u-%2u%c", &year, &month, &day, &rest) == 3) {
        const std::chrono::year_month_day date{std::chrono::year(year), std::chrono::month(month),
                                               std::chrono::day(day)};
        if (date.ok()) return std::chrono::sys_days(date).time_since_epoch().count();
    }
    return Error{"\"" + text + "\" is not a day; write it like 2026-05-01."};
}

constexpr std::string_view kArrow = "→";

// With one sign for each arrow that people type.
std::string with_arrows(std::string_view text) {
    std::string out;
    for (size_t i = 0; i < text.size();) {
        size_t length = 0;
        for (const std::string_view sign :
             {std::string_view("-->"), std::string_view("->"), std::string_view("=>"), kArrow})
            if (length == 0 && text.substr(i).starts_with(sign)) length = sign.size();
        if (length > 0)
            out.append(" ").append(kArrow).append(" ");
        else
            out += text[i];
        i += std::max<size_t>(1, length);
    }
    return out;
}

// Adds what stands before and after each arrow as a link, and what stands at none by itself. An arrow that nothing
// follows yet says nothing.
class Building {
public:
    void add(SearchItem item) {
        auto* phrase = std::get_if<Phrase>(&item.what);
        auto* before = last_ ? std::get_if<Phrase>(&last_->what) : nullptr;
        if (phrase && before && arrow_) {
            Phrase link{{}, phrase->whole};
            for (const auto* side : {&before->words, &phrase->words})
                for (const std::string& word : *side) link.words.push_back(in_outline(word));
            put({std::move(link), item.without || last_->without});
            linked_ = true;
        } else {
            finish();
            linked_ = false;
        }
        last_ = std::move(item);
        arrow_ = false;
    }
    void add_arrow() { arrow_ = true; }
    void add_or() {
        if (!last_) return;
        finish();
        or_ = !query_.all_of.empty();
    }
    Query take() {
        finish();
        return std::move(query_);
    }

private:
    void put(SearchItem item) {
        if (!std::exchange(or_, false)) query_.all_of.emplace_back();
        query_.all_of.back().push_back(std::move(item));
    }
    void finish() {
        if (last_ && !linked_) put(*std::move(last_));
        last_.reset();
    }

    Query query_;
    std::optional<SearchItem> last_;
    bool arrow_ = false, linked_ = false, or_ = false;
};

// What one token looks for.
void add_token(Building& building, const std::string& token, bool whole, bool without) {
    for (size_t from = 0;;) {
        const size_t arrow = token.find(kArrow, from);
        if (auto words = fold_words(token.substr(from, arrow == std::string::npos ? arrow : arrow - from));
            !words.empty())
            building.add({Phrase{std::move(words), whole}, without});
        if (arrow == std::string::npos) return;
        building.add_arrow();
        from = arrow + kArrow.size();
    }
}

// Nothing, when the key is none: "7:30" is no filter.
Result<std::optional<PageFilter>> filter_of(const std::string& key, const std::string& value, int64_t now_ms) {
    using Kind = PageFilter::Kind;
    static const std::map<std::string_view, Kind> kTexts{
        {"tag", Kind::tag}, {"notebook", Kind::notebook}, {"folder", Kind::folder}, {"lang", Kind::language}};
    static const std::map<std::string_view, Kind> kDays{
        {"before", Kind::before}, {"after", Kind::after}, {"day", Kind::day}};
    static const std::map<std::string_view, Kind> kContents{{"sound", Kind::sound},     {"drawing", Kind::drawing},
                                                            {"math", Kind::math},       {"table", Kind::table},
                                                            {"picture", Kind::picture}, {"todo", Kind::todo}};
    if (value.empty()) return std::optional<PageFilter>();
    if (const auto text = kTexts.find(key); text != kTexts.end()) {
        std::string wanted = fold(value);
        wanted.erase(0, std::min(wanted.find_first_not_of("# "), wanted.size()));
        return std::optional(PageFilter{text->second, trimmed(wanted)});
    }
    if (const auto date = kDays.find(key); date != kDays.end()) {
        const auto number = day_number(value, now_ms);
        if (!number) return number.error();
        return std::optional(PageFilter{date->second, {}, date->second == Kind::day ? *number : *number * kMsADay});
    }
    if (key != "has") return std::optional<PageFilter>();
    const auto content = kContents.find(fold(value));
    if (content == kContents.end())
        return Error{"After has: write sound, drawing, math, table, picture or todo, not \"" + value + "\"."};
    return std::optional(PageFilter{content->second});
}

}  // namespace

std::string in_outline(const std::string& word) { return std::string(kArrow) + word; }

Result<Query> parse_query(std::string_view typed, int64_t now_ms) {
    Building building;
    const std::string text = with_arrows(typed);
    size_t i = 0;
    while (i < text.size()) {
        if (text[i] == ' ') {
            ++i;
            continue;
        }
        size_t end = i;
        bool quoted = false;
        std::string token;
        for (; end < text.size() && (quoted || text[end] != ' '); ++end) {
            if (text[end] == '"')
                quoted = !quoted;
            else
                token += text[end];
        }
        const bool whole = text.substr(i, end - i).find('"') != std::string::npos;
        i = end;
        if (token == "OR" && !whole) {
            building.add_or();
            continue;
        }
        const bool without = token.size() > 1 && token[0] == '-';
        if (without) token.erase(0, 1);
        const size_t colon = token.find(':');
        const auto filter = colon == std::string::npos
                                ? Result<std::optional<PageFilter>>(std::optional<PageFilter>())
                                : filter_of(token.substr(0, colon), token.substr(colon + 1), now_ms);
        if (!filter) return filter.error();
        if (*filter)
            building.add({**filter, without});
        else
            add_token(building, token, whole, without);
    }
    Query query = building.take();
    if (query.all_of.empty()) return Error{"There is nothing to look for: write a word."};
    if (std::ranges::all_of(query.all_of, [](const auto& list) {
            return std::ranges::any_of(list, [](const SearchItem& item) { return item.without; });
        }))
        return Error{"Add a word to look for, not only words to leave out."};
    return query;
}

Result<Query> parse_query(std::string_view text) { return parse_query(text, now_ms()); }

std::vector<Term> terms_of(const ReadLine& line, LineKind kind) {
    std::vector<Term> terms;
    int position = 0;
    for (const ReadWord& word : line.words) {
        std::map<std::pair<int, std::string>, double> found;
        int widest = 1;
        const auto note = [&](const std::string& text, double certainty) {
            int part = 0;
            for (std::string& term : fold_words(text))
                found[{part++, kind == LineKind::outline ? in_outline(term) : std::move(term)}] += certainty;
            widest = std::max(widest, part);
        };
        note(word.text, word.certainty);
        for (const Alternative& a : word.alternatives)
            if (a.certainty >= kLeastCertainty) note(a.text, a.certainty);
        for (auto& [place, certainty] : found)
            terms.push_back({place.second, position + place.first, std::min(certainty, 1.0)});
        position += widest;
    }
    return terms;
}

}  // namespace fernleaf
