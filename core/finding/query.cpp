#include "finding/query.h"

#include <chrono>
#include <cstdio>
#include <map>

#include "base/text.h"

namespace fernleaf {
namespace {

constexpr double kLeastCertainty = 0.002;

Result<int64_t> day_ms(const std::string& text) {
    int year = 0;
    unsigned month = 0, day = 0;
    char rest = 0;
    if (std::sscanf(text.c_str(), "%4d-%2u-%2u%c", &year, &month, &day, &rest) == 3) {
        const std::chrono::year_month_day date{std::chrono::year(year), std::chrono::month(month),
                                               std::chrono::day(day)};
        if (date.ok())
            return std::chrono::duration_cast<std::chrono::milliseconds>(std::chrono::sys_days(date).time_since_epoch())
                .count();
    }
    return Error{"\"" + text + "\" is not a day; write it like 2026-05-01."};
}

}  // namespace

Result<Query> parse_query(std::string_view text) {
    Query query;
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
        const bool whole = text.substr(i, end - i).find('"') != std::string_view::npos;
        i = end;
        const size_t colon = token.find(':');
        const std::string key = colon == std::string::npos ? "" : token.substr(0, colon);
        const std::string value = colon == std::string::npos ? "" : token.substr(colon + 1);
        if (key == "notebook" && !value.empty()) {
            query.notebook = fold(value);
        } else if ((key == "before" || key == "after") && !value.empty()) {
            const auto day = day_ms(value);
            if (!day) return day.error();
            (key == "before" ? query.before_ms : query.after_ms) = *day;
        } else if (auto words = fold_words(token); !words.empty()) {
            query.phrases.push_back({std::move(words), whole});
        }
    }
    if (query.phrases.empty()) return Error{"There is nothing to look for: write a word."};
    return query;
}

std::vector<Term> terms_of(const ReadLine& line) {
    std::vector<Term> terms;
    int position = 0;
    for (const ReadWord& word : line.words) {
        std::map<std::pair<int, std::string>, double> found;
        int widest = 1;
        const auto note = [&](const std::string& text, double certainty) {
            int part = 0;
            for (std::string& term : fold_words(text)) found[{part++, std::move(term)}] += certainty;
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
