// Word lists and hands: what a person adds to what the reader knows.
#include <algorithm>

#include "base/now.h"
#include "base/text.h"
#include "store/library.h"

namespace fernleaf {
namespace {

constexpr size_t kLongestWord = 200;  // bytes
constexpr int kExampleHeight = 40;

bool is_valid(const std::string& word) {
    return !word.empty() && word.size() <= kLongestWord && valid_utf8(word) && word.find(' ') == std::string::npos;
}

bool is_valid(const KeptExample& example) {
    return example.width > 0 && example.pixels.size() == static_cast<size_t>(example.width) * kExampleHeight &&
           !example.text.empty();
}

}  // namespace

Result<std::vector<std::string>> Library::words(NotebookId notebook) const {
    const Turn turn(mutex_, db_);
    std::vector<std::string> out;
    Statement s = db_->prepare("SELECT word FROM own_word WHERE notebook = ? ORDER BY word");
    s.bind(notebook);
    while (s.step()) out.push_back(s.text(0));
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Status Library::set_words(NotebookId notebook, const std::vector<std::string>& words) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (const auto bad = std::ranges::find_if_not(words, [](const auto& word) { return is_valid(word); });
        bad != words.end())
        return Error{"\"" + bad->substr(0, kLongestWord) + "\" is not a word: a word list holds one word a line."};
    Transaction transaction(*db_);
    db_->prepare("DELETE FROM own_word WHERE notebook = ?").bind(notebook).run();
    Statement insert = db_->prepare("INSERT OR IGNORE INTO own_word (notebook, word) VALUES (?, ?)");
    for (const std::string& word : words) insert.reset().bind(notebook).bind(word).run();
    return transaction.commit();
}

Status Library::add_word(NotebookId notebook, const std::string& word) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (!is_valid(word)) return Error{"\"" + word.substr(0, kLongestWord) + "\" is not a word."};
    Transaction transaction(*db_);
    db_->prepare("INSERT OR IGNORE INTO own_word (notebook, word) VALUES (?, ?)").bind(notebook).bind(word).run();
    return transaction.commit();
}

Result<std::vector<HandInfo>> Library::hands() const {
    const Turn turn(mutex_, db_);
    std::vector<HandInfo> out;
    Statement s = db_->prepare(
        "SELECT h.id, h.name, (SELECT count(*) FROM example e WHERE e.hand = h.id), h.examples, h.errors_before, "
        "h.errors_after FROM hand h ORDER BY h.id");
    while (s.step())
        out.push_back({s.integer(0), s.text(1), static_cast<size_t>(s.integer(2)), static_cast<size_t>(s.integer(3)),
                       s.real(4), s.real(5)});
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<HandId> Library::add_hand(const std::string& name) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (trimmed(name).empty()) return Error{"A hand needs a name."};
    Transaction transaction(*db_);
    db_->prepare("INSERT INTO hand (name) VALUES (?)").bind(trimmed(name)).run();
    const HandId id = db_->last_id();
    if (Status status = transaction.commit(); !status) return status.error();
    return id;
}

Status Library::rename_hand(HandId hand, const std::string& name) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (trimmed(name).empty()) return Error{"A hand needs a name."};
    Transaction transaction(*db_);
    db_->prepare("UPDATE hand SET name = ? WHERE id = ?").bind(trimmed(name)).bind(hand).run();
    return transaction.commit();
}

Status Library::add_examples(HandId hand, const std::vector<KeptExample>& examples) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    Statement insert = db_->prepare("INSERT INTO example (hand, width, pixels, text, made) VALUES (?, ?, ?, ?, ?)");
    for (const KeptExample& e : examples) {
        if (!is_valid(e)) return Error{"An example to teach with is damaged."};
        insert.reset().bind(hand).bind(e.width).bind_blob(e.pixels).bind(e.text).bind(now_ms()).run();
    }
    return transaction.commit();
}

Result<std::vector<KeptExample>> Library::examples(HandId hand) const {
    const Turn turn(mutex_, db_);
    std::vector<KeptExample> out;
    Statement s = db_->prepare("SELECT width, pixels, text FROM example WHERE hand = ? ORDER BY id");
    s.bind(hand);
    while (s.step()) {
        KeptExample example{static_cast<int>(s.integer(0)), std::string(s.blob(1)), s.text(2)};
        if (is_valid(example)) out.push_back(std::move(example));
    }
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Status Library::save_hand(const HandInfo& hand, const std::string& taught) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("UPDATE hand SET taught = ?, examples = ?, errors_before = ?, errors_after = ? WHERE id = ?")
        .bind_blob(taught)
        .bind(static_cast<int64_t>(hand.learnt_from))
        .bind(hand.errors_before)
        .bind(hand.errors_after)
        .bind(hand.id)
        .run();
    return transaction.commit();
}

Result<std::string> Library::taught_hand(HandId hand) const {
    const Turn turn(mutex_, db_);
    Statement s = db_->prepare("SELECT taught FROM hand WHERE id = ?");
    s.bind(hand);
    std::string bytes;
    if (s.step()) bytes = std::string(s.blob(0));
    if (Status status = db_->take_status(); !status) return status.error();
    return bytes;
}

Status Library::reset_hand(HandId hand) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("DELETE FROM example WHERE hand = ?").bind(hand).run();
    db_->prepare("UPDATE hand SET taught = NULL, examples = 0, errors_before = 0, errors_after = 0 WHERE id = ?")
        .bind(hand)
        .run();
    return transaction.commit();
}

Result<Preferences> Library::preferences(NotebookId notebook) const {
    const auto found = this->notebook(notebook);
    if (!found) return found.error();
    Preferences out{found->languages, found->language_weight, {}, {}, found->working};
    for (const NotebookId list : {kPersonsWords, notebook}) {
        auto listed = words(list);
        if (!listed) return listed.error();
        out.words.insert(out.words.end(), listed->begin(), listed->end());
    }
    auto hand = taught_hand(found->hand);
    if (!hand) return hand.error();
    out.hand = *std::move(hand);
    return out;
}

}  // namespace fernleaf
