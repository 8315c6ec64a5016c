// What the cards beside something read share: what it was read as, what else it may be, and a field to say it oneself.
// UI thread only.
#pragma once

#include <QFrame>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <functional>

#include "leaves/choice_list.h"
#include "transcript/reading.h"

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

    // How alternatives are shown.
    struct AlternativesAs {
        std::function<Choice(const std::string& text)> shown;  // as text or picture; the rest is filled in
        QString unlikely;                                      // what stands beside those that are hardly so
    };
    // title, more_keys: rich text; what else keys do than to confirm and to choose.
    void show_what(const QString& title, const std::vector<Alternative>& alternatives, const AlternativesAs& as,
                   const QString& in_field, const QString& more_keys, bool read_only);
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

}  // namespace fernleaf
