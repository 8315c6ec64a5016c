#include "desk/correction_desk.h"

#include <algorithm>
#include <iterator>
#include <set>

#include "base/text.h"
#include "desk/text_of.h"
#include "document/text/rewording.h"
#include "ink/grouping.h"
#include "math/math_signs.h"
#include "paper/examples.h"
#include "reading/ink_reading.h"
#include "reading/reader.h"
#include "render/formula_setting.h"
#include "render/text_look.h"
#include "transcript/line_correction.h"

namespace fernleaf {
namespace {

constexpr char kUnreadable = '?';

// Of the step of undo.
const char* label_of(InkClass kind) {
    switch (kind) {
        case InkClass::text:
            return "This is text";
        case InkClass::drawing:
            return "This is a drawing";
        case InkClass::math:
            return "This is math";
        case InkClass::one_line:
            return "This is one line";
        case InkClass::table:
            return "This is a table";
        case InkClass::shape:
            return "Change a figure";
        case InkClass::sign:
            return "Correct a symbol";
    }
    return "";
}

// The words in a corrected text that nothing lists, without the punctuation about them.
std::vector<std::string> new_terms(const std::string& text, const std::function<bool(const std::string&)>& known) {
    std::vector<std::string> out;
    std::u32string word;
    const auto finish = [&] {
        while (!word.empty() && word.back() == U'\'') word.pop_back();
        const std::string term = encode_utf8(word);
        if (word.size() > 1 && !known(term)) out.push_back(term);
        word.clear();
    };
    for (const char32_t c : decode_utf8(text)) {
        if (is_letter(c) || is_mark(c) || (c == U'\'' && !word.empty()))
            word.push_back(c);
        else
            finish();
    }
    finish();
    return out;
}

}  // namespace

CorrectionDesk::CorrectionDesk(const DeskParts& parts, TeachingDesk& teaching, QObject* parent)
    : Desk(parts, parent), teaching_(teaching) {}

void CorrectionDesk::correct(ReadPlace place, const QString& text) {
    const ReadWord* word = readings_.word(place);
    const QString tidy = text.simplified();
    if (!word || tidy.isEmpty()) return;
    if (!editing_.may_change_page()) return;
    if (word->block != 0) return retype(*word, tidy.toStdString());
    if (place.sign >= 0) return correct_sign(*word, tidy.toStdString());
    keep_corrections("Correct", {{word->strokes, word->box, tidy.toStdString()}});
    if (is_of_words(place)) learn_from(*readings_.word(place));  // of LaTeX the reader of words learns nothing
}

void CorrectionDesk::correct_sign(const ReadWord& sign, const std::string& text) {
    // The bar of a fraction is a sign of its own only where it is a minus.
    const std::string latex = text == "\\frac" ? "-" : text;
    if (!sign_named(latex))
        return messages_.tell_problem(
            tr("“%1” is not a symbol Fernleaf reads in formulas.").arg(QString::fromStdString(text)));
    keep_corrections(label_of(InkClass::sign), {{sign.strokes, sign.box, latex, InkClass::sign}});
    readings_.ask_once();
}

bool CorrectionDesk::is_of_words(ReadPlace place) const {
    const auto& lines = readings_.reading().lines;
    return place.line >= 0 && static_cast<size_t>(place.line) < lines.size() &&
           lines[static_cast<size_t>(place.line)].kind != RegionKind::math;
}

// A step of undo like any other; the reading shows it at once.
void CorrectionDesk::keep_corrections(const char* label, std::vector<Correction> corrections) {
    Edit edit{label};
    edit.corrections_added = std::move(corrections);
    editing_.change(std::move(edit));
}

void CorrectionDesk::correct_lines(PageId page, const std::vector<ReadLine>& lines, const QStringList& said) {
    if (!editing_.may_change()) return;
    if (said.size() != std::ssize(lines))
        return messages_.tell_problem(tr("Keep each line on a line of its own. Nothing was changed."));
    Edit edit{"Correct"};
    for (qsizetype i = 0; i < said.size(); ++i) {
        auto found = corrections_of(lines[static_cast<size_t>(i)], said[i].toStdString());
        if (!found) return messages_.tell_problem(found.error());
        std::ranges::move(*found, std::back_inserter(edit.corrections_added));
    }
    if (edit.corrections_added.empty()) return;
    if (document_.is_open(page)) {
        editing_.change(std::move(edit));
        readings_.save_now();
        disk_.ask(  // when that is done
            this, []() -> Status { return Done{}; }, [this, page](const Status&) { emit corrected(page); });
        return;
    }
    disk_.ask(
        this,
        [this, page, edit]() mutable -> Status {
            if (Status kept = library_.commit(page, edit); !kept) return kept;
            auto reading = library_.reading(page);
            if (!reading) return reading.error();
            apply_corrections(*reading, edit.corrections_added);
            return library_.save_reading(page, *reading, kNotWhole);
        },
        [this, page](const Status& kept) {
            if (!kept) return messages_.tell_problem(kept.error());
            readings_.read_later({page});
            emit corrected(page);
        });
}

void CorrectionDesk::open_next_unsure() {
    if (!document_.page()) return;
    readings_.save_now();
    disk_.ask(
        this, [this, id = document_.page()->info.id] { return library_.next_unsure(id, kSureEnough); },
        [this](const Result<std::optional<PageId>>& page) {
            if (!page) return messages_.tell_problem(page.error());
            const PageId next = page->value_or(0);
            if (next == 0) messages_.tell(tr("Nothing is left to check in this notebook."));
            if (next != 0 && document_.page() && next != document_.page()->info.id) emit page_wanted(next);
            emit next_unsure_page(next);
        });
}

bool CorrectionDesk::can_join(ReadPlace place) const {
    const ReadWord* next = readings_.word({place.line, place.word + 1});
    return readings_.word(place) && next && !readings_.word(place)->strokes.empty() && !next->strokes.empty();
}

void CorrectionDesk::join_with_next(ReadPlace place) {
    if (!can_join(place) || !editing_.may_change_page()) return;
    const ReadWord &first = *readings_.word(place), &next = *readings_.word({place.line, place.word + 1});
    Correction whole{first.strokes, first.box, first.text + next.text};
    whole.strokes.insert(whole.strokes.end(), next.strokes.begin(), next.strokes.end());
    whole.box.include(next.box);
    keep_corrections("Join words", {whole});
}

bool CorrectionDesk::can_split(ReadPlace place) const {
    return readings_.word(place) && readings_.word(place)->strokes.size() > 1 && is_of_words(place);
}

void CorrectionDesk::split_word(ReadPlace place) {
    if (!can_split(place) || !editing_.may_change_page() || !readings_.can_read()) return;
    const ReadWord whole = *readings_.word(place);
    std::vector<Stroke> ink;
    for (const Stroke& s : document_.page()->strokes)
        if (std::ranges::find(whole.strokes, s.id) != whole.strokes.end()) ink.push_back(s);
    auto [left, right] = split_at_widest_gap(std::move(ink));
    if (left.empty() || right.empty()) return;
    reader_thread_.post([this, left = std::move(left), right = std::move(right), page = document_.page()->info.id,
                         notebook = document_.notebook().id] {
        const auto preferences = library_.preferences(notebook);
        const ReadSettings settings = readings_.reader()->prepared(preferences ? *preferences : Preferences{});
        std::vector<Correction> corrections;
        for (const std::vector<Stroke>& part : {left, right}) {
            Correction correction;
            for (const ReadLine& line : read_ink(part, *readings_.reader(), settings, {}))
                for (const ReadWord& w : line.words) correction.text += w.text;
            for (const Stroke& s : part) {
                correction.strokes.push_back(s.id);
                correction.box.include(s.box().grown(s.pen.width_mm / 2));
            }
            if (correction.text.empty()) correction.text.push_back(kUnreadable);
            corrections.push_back(std::move(correction));
        }
        QMetaObject::invokeMethod(
            this,
            [this, page, corrections = std::move(corrections)] {
                if (!document_.is_open(page)) return;
                keep_corrections("Split a word", corrections);
            },
            Qt::QueuedConnection);
    });
}

void CorrectionDesk::say_kind(const std::vector<StrokeId>& strokes, InkClass kind) {
    if (!document_.page() || strokes.empty() || !editing_.may_change_page()) return;
    const std::set<StrokeId> chosen(strokes.begin(), strokes.end());
    std::vector<Stroke> ink;
    std::ranges::copy_if(document_.page()->strokes, std::back_inserter(ink),
                         [&](const Stroke& s) { return chosen.contains(s.id); });
    keep_corrections(label_of(kind), {said_to_be(ink, kind)});
    readings_.ask_once();
}

void CorrectionDesk::say_shape(ReadPlace place, std::optional<ShapeKind> kind) {
    const ReadShape* shape = readings_.shape(place);
    if (!shape || !editing_.may_change_page()) return;
    Correction said{shape->strokes, box_of(shape->best().shape), kind ? std::string(name_of(*kind)) : "",
                    InkClass::shape};
    keep_corrections(label_of(InkClass::shape), {std::move(said)});
    readings_.ask_once();
}

// A typed word is changed where it stands, and so is a formula that is set in type.
void CorrectionDesk::retype(const ReadWord& word, const std::string& text) {
    const auto& formulas = document_.page()->formulas;
    if (const auto formula = std::ranges::find(formulas, word.block, &SetFormula::id); formula != formulas.end()) {
        SetFormula changed = *formula;
        changed.latex = text;
        if (!measure(changed)) return messages_.tell_problem(tr("This can't be set as a formula."));
        changed.z = z_of(*formula);
        changed.id = editing_.new_id();
        Edit edit{"Change a formula"};
        edit.removed.formulas = {*formula};
        edit.added.formulas = {std::move(changed)};
        return editing_.change(std::move(edit));
    }
    const auto& cards = document_.page()->cards;
    if (const auto card = std::ranges::find(cards, word.block, &Card::id); card != cards.end()) {
        QStringList name = QString::fromStdString(card->name).split(' ', Qt::SkipEmptyParts);
        if (word.block_word >= name.size()) return;
        name[word.block_word] = QString::fromStdString(text);
        Card changed = *card;
        changed.name = name.join(' ').toStdString();
        if (ElementTraits<Card>::validation_error(changed)) return messages_.tell_problem(tr("That name is too long."));
        changed.z = z_of(*card);
        changed.id = editing_.new_id();
        Edit edit{"Rename a card"};
        edit.removed.cards = {*card};
        edit.added.cards = {std::move(changed)};
        return editing_.change(std::move(edit));
    }
    const auto found = std::ranges::find(document_.page()->texts, word.block, &TextBlock::id);
    if (found == document_.page()->texts.end()) return;
    TextBlock changed = *found;
    const auto n = static_cast<size_t>(word.block_word);
    if (!replace_word(changed, n, text)) return;
    style_words(changed, n, n + words_in(text) - 1, [](TextStyle& s) { s.unsure = false; });
    changed.z = z_of(*found);
    changed.id = editing_.new_id();
    lay_out(changed);
    editing_.change({"Type", {{}, {}, {std::move(changed)}}, {{}, {}, {*found}}});
}

void CorrectionDesk::learn_from(const ReadWord& word) {
    // Only what the word is made of travels to the other thread, not the page.
    Page excerpt;
    excerpt.info = document_.page()->info;
    excerpt.pictures = document_.page()->pictures;
    for (const Stroke& stroke : document_.page()->strokes)
        if (std::ranges::find(word.strokes, stroke.id) != word.strokes.end()) excerpt.strokes.push_back(stroke);
    reader_thread_.post([this, word, excerpt = std::move(excerpt), hand = document_.notebook().hand,
                         languages = document_.notebook().languages, notebook = document_.notebook().id] {
        if (!readings_.reader()) return;
        const FileSource files = [this](const std::string& hash) { return library_.file(hash); };
        std::vector<Example> examples;
        if (auto example = example_of(excerpt, files, word)) examples.push_back(*std::move(example));
        // A word that no language lists is a name or a term: the notebook's list takes it.
        const auto terms =
            new_terms(word.text, [&](const std::string& term) { return readings_.reader()->knows(languages, term); });
        for (const std::string& term : terms) (void)static_cast<bool>(library_.add_word(notebook, term));
        QMetaObject::invokeMethod(
            this,
            [this, hand, examples = std::move(examples), news = !terms.empty()]() mutable {
                teaching_.keep(hand, std::move(examples));
                if (news) readings_.want_reading();
            },
            Qt::QueuedConnection);
    });
}

void CorrectionDesk::learn_copied_page() {
    if (!document_.page()) return;
    if (!editing_.may_change()) return;
    reader_thread_.post(
        [this, page = *document_.page(), reading = readings_.shared_reading(), hand = document_.notebook().hand] {
            const FileSource files = [this](const std::string& hash) { return library_.file(hash); };
            auto examples = copied_lines(page, files, *reading, lines_to_copy());
            QMetaObject::invokeMethod(
                this,
                [this, hand, examples = std::move(examples)]() mutable {
                    if (examples.size() < lines_to_copy().size() / 2)
                        return messages_.tell_problem(
                            tr("The lines to copy weren't found on this page. Write them one below the other, exactly "
                               "as shown."));
                    messages_.tell(
                        tr("Learning from %n line(s) of this page.", nullptr, static_cast<int>(examples.size())));
                    teaching_.keep(hand, std::move(examples));
                },
                Qt::QueuedConnection);
        });
}

}  // namespace fernleaf
