// What a person says of words and ink, and what is learnt of it.
#pragma once

#include <QObject>
#include <QString>
#include <QStringList>
#include <optional>
#include <vector>

#include "desk/desk.h"
#include "desk/teaching_desk.h"

namespace fernleaf {

// UI thread only, but for what it posts to the reader's.
class CorrectionDesk : public Desk {
    Q_OBJECT

public:
    CorrectionDesk(const DeskParts& parts, TeachingDesk& teaching, QObject* parent = nullptr);

    // A person says what a word, or a sign of a formula, is; it takes effect at once and outlasts every later reading.
    // A formula is said in LaTeX or in a plain form, a sign by its name in LaTeX (math/math_signs.h).
    void correct(ReadPlace place, const QString& text);
    // A word and the next in its line are one; or a word is two, parted where its ink has the widest gap.
    bool can_join(ReadPlace place) const;
    void join_with_next(ReadPlace place);
    bool can_split(ReadPlace place) const;
    void split_word(ReadPlace place);
    // Some ink is text, math, a drawing, or one line by itself, whatever it was taken for.
    void say_kind(const std::vector<StrokeId>& strokes, InkClass kind);
    // A figure is of another kind; without one it is left as ink.
    void say_shape(ReadPlace place, std::optional<ShapeKind> kind);
    // Lines of a page, which need not be open, say what was typed for each: a step of undo of that page. corrected()
    // tells that it is done.
    void correct_lines(PageId page, const std::vector<ReadLine>& lines, const QStringList& said);
    // Opens the notebook's next page that has unsure words; next_unsure_page() tells which, or 0 for none at all.
    void open_next_unsure();
    // Lets the reader learn from the open page, which was copied from lines_to_copy().
    void learn_copied_page();

signals:
    void next_unsure_page(PageId page);
    void page_wanted(PageId page);
    void corrected(PageId page);

private:
    // Whether a place is no formula.
    bool is_of_words(ReadPlace place) const;
    void keep_corrections(const char* label, std::vector<Correction> corrections);
    void correct_sign(const ReadWord& sign, const std::string& text);
    void retype(const ReadWord& word, const std::string& text);
    void learn_from(const ReadWord& word);

    TeachingDesk& teaching_;
};

}  // namespace fernleaf
