#include "transcript/proof_edit.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <span>

#include "document/elements.h"
#include "document/text/rewording.h"
#include "ink/erasing.h"
#include "transcript/inserted_space.h"

namespace fernleaf {
namespace {

constexpr double kWordGap = 0.35;       // between words, to the height of their line
constexpr double kLetterGap = 0.06;     // what closing up leaves
constexpr double kInsertRoom = 3;       // opened for what is to be inserted, to the height of its line
constexpr double kLeastInsertRoom = 1;  // less is not worth opening
constexpr double kBeginsAtMm = 6;       // of ink that begins a paragraph at its line's beginning
constexpr double kFreePitch = 1.4;      // from line to line on paper without rules, to the line's height
constexpr double kMarginMm = 2;         // from the sheet's right edge
constexpr double kCutMm = 0.02;         // the width of the cut through a stroke
constexpr std::array kHeadingSizes = {1.5, 1.25, 1.1};  // of the three levels, to the type around them

// By the mark's number.
constexpr std::array<const char*, kProofMarks> kLabels = {"Strike out",    "Insert", "Separate", "Close up", "Run on",
                                                          "New paragraph", "Italic", "Bold",     "Heading"};
const char* label_of(ProofMark mark) { return kLabels[static_cast<size_t>(mark)]; }

class ProofEditor {
public:
    ProofEditor(const Page& page, const Reading& reading, const Proof& proof, const Stroke& mark,
                const TypeMeans& means)
        : page_(page), reading_(reading), proof_(proof), mark_(mark), means_(means) {}

    // All but the mark's own going.
    std::optional<Edit> edit() {
        switch (proof_.mark) {
            case ProofMark::strike_out:
                return strike_out();
            case ProofMark::insert:
                return insert();
            case ProofMark::separate:
                return first().block != 0 ? separate_type() : separate_ink();
            case ProofMark::close_up:
                return close_up();
            case ProofMark::run_on:
                return run_on();
            case ProofMark::paragraph:
                return first().block != 0 ? paragraph_in_type() : paragraph_in_ink();
            case ProofMark::italic:
                return styled([](TextStyle& s) { s.italic = true; });
            case ProofMark::bold:
                return styled([](TextStyle& s) { s.bold = true; });
            case ProofMark::heading:
                return heading();
        }
        return {};
    }

private:
    const ReadLine& line() const { return reading_.lines[static_cast<size_t>(proof_.line)]; }
    const ReadWord& word(int w) const { return line().words[static_cast<size_t>(w)]; }
    const ReadWord& first() const { return word(proof_.first); }
    Edit labelled() const { return {label_of(proof_.mark)}; }

    // Where room is made, the mark must not be in the way; other edits don't come upon it, and need no copy of the
    // page.
    const Page& without_mark() {
        if (!without_mark_) {
            without_mark_ = page_;
            apply(*without_mark_, {"", {}, {{mark_}}});
        }
        return *without_mark_;
    }

    const TextBlock* block(TextId id) const {
        const auto found = std::ranges::find(page_.texts, id, &TextBlock::id);
        return found == page_.texts.end() ? nullptr : &*found;
    }

    // Adds a changed block in its own stead; or takes it away when nothing is left in it.
    void put(Edit& edit, const TextBlock& before, TextBlock after) const {
        edit.removed.texts.push_back(before);
        if (!has_text(after)) return;
        after.z = z_of(before);
        after.id = means_.new_id();
        means_.lay_out(after);
        edit.added.texts.push_back(std::move(after));
    }

    std::optional<Edit> in_block(const ReadWord& of, const std::function<bool(TextBlock&, size_t)>& change) const {
        const TextBlock* before = block(of.block);
        if (!before || of.block_word < 0) return {};
        TextBlock after = *before;
        if (!change(after, static_cast<size_t>(of.block_word))) return {};
        Edit edit = labelled();
        put(edit, *before, std::move(after));
        return edit;
    }

    // The mark's typed words, changed block by block; false where one can't be.
    bool change_typed(Edit& edit,
                      const std::function<bool(TextBlock&, const std::vector<size_t>& words)>& change) const {
        std::map<TextId, std::vector<size_t>> typed;
        for (int w = proof_.first; w <= proof_.last; ++w)
            if (word(w).block != 0) typed[word(w).block].push_back(static_cast<size_t>(word(w).block_word));
        for (const auto& [id, words] : typed) {
            const TextBlock* before = block(id);
            if (!before) return false;
            TextBlock after = *before;
            if (!change(after, words)) return false;
            put(edit, *before, std::move(after));
        }
        return true;
    }

    std::vector<Stroke> ink_of(std::span<const ReadWord> words) const {
        std::vector<StrokeId> ids;
        for (const ReadWord& w : words) ids.insert(ids.end(), w.strokes.begin(), w.strokes.end());
        return picked(page_, ids).strokes;
    }

    std::optional<Edit> strike_out() const {
        Edit edit = labelled();
        const auto begin = line().words.begin();
        edit.removed.strokes = ink_of({begin + proof_.first, begin + proof_.last + 1});
        const bool changed = change_typed(edit, [](TextBlock& block, const std::vector<size_t>& words) {
            return std::all_of(words.rbegin(), words.rend(), [&](size_t n) { return remove_words(block, n, n); });
        });
        if (!changed || edit.removed.empty()) return {};
        return edit;
    }

    // How far what stands right of a place in the line can move, mm.
    double free_right(const InsertedSpace& room) const {
        Box moving = drawn_box(room.moving);
        return moving.empty() ? 0 : page_.info.width_mm - kMarginMm - moving.right;
    }

    Edit moved(const Page& page, const Reading& reading, const InsertedSpace& room, double by) const {
        Edit edit = make_space_edit(page, reading, room, by, means_.new_id);
        edit.label = label_of(proof_.mark);
        return edit;
    }

    std::optional<Edit> insert() {
        if (first().block != 0 && first().block == word(proof_.last).block) return labelled();  // it is typed there
        const InsertedSpace room = space_at(without_mark(), reading_, proof_.at, Push::right);
        const double height = line().box.height(), by = std::min(kInsertRoom * height, free_right(room));
        if (room.moving.empty() || by < kLeastInsertRoom * height) return {};
        return moved(without_mark(), reading_, room, by);
    }

    std::optional<Edit> separate_type() const {
        return in_block(first(), [&](TextBlock& block, size_t n) {
            // As many letters stand left of the mark as have their middle there.
            const std::string& text = first().text;
            const double whole = means_.measure(text, {}),
                         part = (proof_.at.x - first().box.left) / first().box.width();
            size_t characters = 0;
            double before = 0;
            for (size_t i = 1; i <= text.size(); ++i) {
                if (i < text.size() && (static_cast<unsigned char>(text[i]) & 0xC0) == 0x80) continue;
                const double to = means_.measure(text.substr(0, i), {}) / std::max(0.1, whole);
                if ((before + to) / 2 < part) ++characters;
                before = to;
            }
            return split_word(block, n, characters);
        });
    }

    // What is right of the mark moves away from what is left of it; strokes across it are cut there.
    std::optional<Edit> separate_ink() {
        const double x = proof_.at.x, far = 1000;
        Edit cut = labelled();
        Page parted = without_mark();
        Reading reading = reading_;
        auto& words = reading.lines[static_cast<size_t>(proof_.line)].words;
        ReadWord left = first(), right = first();
        left.strokes.clear();
        right.strokes.clear();
        left.box = right.box = Box();
        for (const StrokeId id : first().strokes) {
            const auto stroke = std::ranges::find(page_.strokes, id, &Stroke::id);
            if (stroke == page_.strokes.end()) return {};
            std::vector<Stroke> pieces = {*stroke};
            const Box box = stroke->box();
            if (box.left < x && box.right > x)
                pieces = erased_along(*stroke, {x, box.top - far}, {x, box.bottom + far}, kCutMm / 2);
            const bool is_cut = pieces.size() > 1;
            if (is_cut) cut.removed.strokes.push_back(*stroke);
            for (Stroke& piece : pieces) {
                if (is_cut) {
                    piece.z = z_of(*stroke);
                    piece.id = means_.new_id();
                    cut.added.strokes.push_back(piece);
                }
                ReadWord& side = piece.box().centre().x < x ? left : right;
                side.strokes.push_back(piece.id);
                side.box.include(piece.box());
            }
        }
        if (left.strokes.empty() || right.strokes.empty()) return {};
        apply(parted, cut);
        words[static_cast<size_t>(proof_.first)] = left;
        words.insert(words.begin() + proof_.first + 1, right);
        InsertedSpace room = space_at(parted, reading, proof_.at, Push::right);
        const double by = kWordGap * line().box.height() - std::max(0.0, right.box.left - left.box.right);
        if (by <= 0 || free_right(room) < by) return {};
        return joined(std::move(cut), moved(parted, reading, room, by));
    }

    std::optional<Edit> close_up() {
        const ReadWord& next = word(proof_.last);
        if (first().block != 0 && first().block == next.block) return in_block(first(), join_words);
        InsertedSpace room = space_at(without_mark(), reading_, proof_.at, Push::right);
        const double by = next.box.left - first().box.right - kLetterGap * line().box.height();
        if (room.moving.empty() || by <= 0) return {};
        room.closes_mm = by;
        return moved(without_mark(), reading_, room, -by);
    }

    std::optional<Edit> run_on() const {
        const ReadLine& next = reading_.lines[static_cast<size_t>(proof_.next_line)];
        if (first().block != 0 && first().block == next.words.front().block) return in_block(first(), fernleaf::run_on);
        if (first().block != 0 || next.words.front().block != 0) return {};
        // As many words as find room come to the line's end.
        const double gap = kWordGap * line().box.height(), begin = first().box.right + gap;
        const double left = next.words.front().box.left;
        const auto fits = [&](const ReadWord& w) {
            return begin + w.box.right - left <= page_.info.width_mm - kMarginMm;
        };
        const auto rest = std::ranges::find_if_not(next.words, fits);
        Elements moving{ink_of({next.words.begin(), rest})};
        if (moving.empty()) return {};
        return put_at(std::move(moving), {begin - left, line().box.centre().y - next.box.centre().y});
    }

    Edit put_at(Elements elements, Point by) const {
        Edit edit = labelled();
        edit.removed = elements;
        edit.added = transformed(std::move(elements), Affine::shift(by));
        edit.replacements = renew(edit.added, means_.new_id);
        return edit;
    }

    std::optional<Edit> paragraph_in_type() const { return in_block(first(), begin_paragraph); }

    std::optional<Edit> paragraph_in_ink() {
        const double pitch = has_rules(page_.info.paper)
                                 ? std::ceil(line().box.height() / page_.info.spacing_mm * 0.8) * page_.info.spacing_mm
                                 : kFreePitch * line().box.height();
        Elements rest{ink_of(std::span(line().words).subspan(static_cast<size_t>(proof_.first)))};
        if (rest.empty()) return {};
        if (proof_.first == 0) return put_at(std::move(rest), {kBeginsAtMm, 0});
        const InsertedSpace below =
            space_at(without_mark(), reading_, {first().box.left, line().box.bottom}, Push::down);
        Edit edit = moved(without_mark(), reading_, below, pitch);
        return joined(std::move(edit),
                      put_at(std::move(rest), {line().words.front().box.left - first().box.left, pitch}));
    }

    std::optional<Edit> styled(const std::function<void(TextStyle&)>& change) const {
        Edit edit = labelled();
        const bool changed = change_typed(edit, [&](TextBlock& block, const std::vector<size_t>& words) {
            return style_words(block, words.front(), words.back(), change);
        });
        if (!changed || edit.removed.empty()) return {};
        return edit;
    }

    std::optional<Edit> heading() const {
        auto edit = in_block(first(), [&](TextBlock& block, size_t n) {
            return set_heading(block, n, proof_.level, kHeadingSizes[static_cast<size_t>(proof_.level) - 1]);
        });
        if (!edit) return {};
        for (const ReadLine& line : reading_.lines)
            for (const ReadWord& w : line.words)
                if (std::ranges::find(w.strokes, proof_.letter_of) != w.strokes.end())
                    edit->removed.strokes = ink_of({&w, 1});
        return edit;
    }

    const Page& page_;
    std::optional<Page> without_mark_;
    const Reading& reading_;
    const Proof& proof_;
    const Stroke& mark_;
    const TypeMeans& means_;
};

}  // namespace

std::optional<Edit> edit_for_proof_mark(const Page& page, const Reading& reading, const Proof& proof,
                                        const Stroke& mark, const TypeMeans& means) {
    const auto edit = ProofEditor(page, reading, proof, mark, means).edit();
    if (!edit) return {};
    return joined({label_of(proof.mark), {}, {{mark}}}, *edit);
}

}  // namespace fernleaf
