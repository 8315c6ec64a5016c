// The card beside a chosen word: what else it may say, and a field to say it oneself. UI thread only.
#pragma once

#include "finding/useful.h"
#include "leaves/correction_card.h"
#include "transcript/reading.h"

namespace fernleaf {

class WordCard : public CorrectionCard {
    Q_OBJECT

public:
    explicit WordCard(QWidget* parent);

    // can_join: whether there is a word after it to join it with; can_split: whether it is of several strokes.
    // What the word is part of that can be used elsewhere; shown with what can be done with it.
    void show_useful(const std::optional<Useful>& useful);
    void show_word(const ReadWord& word, bool read_only, bool can_join, bool can_split);

signals:
    void join_wanted();
    void split_wanted();
    void copy_wanted(const Useful& useful);
    void save_wanted(const Useful& useful);
    void open_wanted(const Useful& useful);

private:
    QPushButton *join_, *split_;
    QWidget* useful_row_;
    QLabel* useful_text_;
    QPushButton *copy_, *save_, *open_;
    Useful useful_;
};

}  // namespace fernleaf
