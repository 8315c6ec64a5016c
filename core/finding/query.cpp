#include "finding/query.h"

#include <algorithm>
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
class Linking {
public:
    void add(Phrase phrase) {
        if (last_ && arrow_) {
            Phrase link{{}, phrase.whole};
            for (const auto* side : {&last_->words, &phrase.words})
                for (const std::string& word : *side) link.words.push_back(in_outline(word));
            out_.push_back(std::move(link));
            linked_ = true;
        } else {
            finish();
            linked_ = false;
        }
        last_ = std::move(phrase);
        arrow_ = false;
    }
    void add_arrow() { arrow_ = true; }
    std::vector<Phrase> take() {
        finish();
        return std::move(out_);
    }

private:
    void finish() {
        if (last_ && !linked_) out_.push_back(*std::move(last_));
        last_.reset();
    }

    std::vector<Phrase> out_;
    std::optional<Phrase> last_;
    bool arrow_ = false, linked_ = false;
};

// What one token looks for.
void add_token(Linking& linking, const std::string& token, bool whole) {
    for (size_t from = 0;;) {
        const size_t arrow = token.find(kArrow, from);
        if (auto words = fold_words(token.substr(from, arrow == std::string::npos ? arrow : arrow - from));
            !words.empty())
            linking.add({std::move(words), whole});
        if (arrow == std::string::npos) return;
        linking.add_arrow();
        from = arrow + kArrow.size();
    }
}

}  // namespace

std::string in_outline(const std::string& word) { return std::string(kArrow) + word; }

Result<Query> parse_query(std::string_view typed) {
    Query query;
    Linking linking;
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
        const size_t colon = token.find(':');
        const std::string key = colon == std::string::npos ? "" : token.substr(0, colon);
        const std::string value = colon == std::string::npos ? "" : token.substr(colon + 1);
        if (key == "notebook" && !value.empty()) {
            query.notebook = fold(value);
        } else if ((key == "before" || key == "after") && !value.empty()) {
            const auto day = day_ms(value);
            if (!day) return day.error();
            (key == "before" ? query.before_ms : query.after_ms) = *day;
        } else {
            add_token(linking, token, whole);
        }
    }
    query.phrases = linking.take();
    if (query.phrases.empty()) return Error{"There is nothing to look for: write a word."};
    return query;
}

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
