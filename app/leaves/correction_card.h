// What the cards beside something read share: what it was read as, what else it may be, and a field to say it oneself.
// UI thread only.
#pragma once

#include <QFrame>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "leaves/choice_list.h"

namespace fernleaf {

class CorrectionCard : public QFrame {
    Q_OBJECT

public:
    static constexpr size_t kMostAlternatives = 6;

    // Takes over typing: the field gets the focus and, if given, this text in place of its own.
    void type(const QString& text);
    // What the alternative under a number, counted from 1, says; empty when there is none.
    QString alternative(int number) const;
    QLineEdit* field() const { return field_; }

signals:
    void taken(const QString& text);
    void closed();

protected:
    // field_name: for those who can't see it.
    CorrectionCard(const QString& name, const QString& field_name, QWidget* parent);

    // Below the field, in the order in which they are added; to be followed by show_what().
    QVBoxLayout* column() const { return column_; }
    static QPushButton* quiet_button(const QString& text);

    // title, hint: rich text. says: what each choice stands for.
    void show_what(const QString& title, std::vector<Choice> choices, std::vector<QString> says,
                   const QString& in_field, const QString& hint, bool read_only);
    void set_title(const QString& title) { title_->setText(title); }
    void fit();  // after something in it was shown or hidden
    // What is meant by what is typed; empty: it can't be taken.
    virtual QString meant(const QString& typed) const { return typed.trimmed(); }

    bool eventFilter(QObject* object, QEvent* event) override;

private:
    QVBoxLayout* column_;
    QLabel* title_;
    ChoiceList* list_;
    QLineEdit* field_;
    QLabel* hint_;
    std::vector<QString> says_;
};

// Keys for a card's hint: "<b>Enter</b> to confirm · <b>1–3</b> to choose".
QString correction_keys(size_t alternatives, const QString& more);

}  // namespace fernleaf
