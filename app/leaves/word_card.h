// The card beside a chosen word: what else it may say, and a field to say it oneself. UI thread only.
#pragma once

#include <QFrame>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

#include "finding/useful.h"
#include "leaves/choice_list.h"

namespace fernleaf {

class WordCard : public QFrame {
    Q_OBJECT

public:
    static constexpr size_t kMostAlternatives = 6;

    explicit WordCard(QWidget* parent);

    // can_join: whether there is a word after it to join it with; can_split: whether it is of several strokes.
    // What the word is part of that can be used elsewhere; shown with what can be done with it.
    void show_useful(const std::optional<Useful>& useful);
    void show_word(const ReadWord& word, bool read_only, bool can_join, bool can_split);
    // Takes over typing: the field gets the focus and, if given, this text in place of its own.
    void type(const QString& text);
    // The alternative under a number, counted from 1; empty when there is none.
    QString alternative(int number) const;
    QLineEdit* field() const { return field_; }

signals:
    void taken(const QString& text);
    void closed();
    void join_wanted();
    void split_wanted();
    void copy_wanted(const Useful& useful);
    void save_wanted(const Useful& useful);
    void open_wanted(const Useful& useful);

protected:
    bool eventFilter(QObject* object, QEvent* event) override;

private:
    QLabel* title_;
    ChoiceList* list_;
    QLineEdit* field_;
    QPushButton *join_, *split_;
    QWidget* useful_row_;
    QLabel* useful_text_;
    QPushButton *copy_, *save_, *open_;
    Useful useful_;
    QLabel* hint_;
};

}  // namespace fernleaf
