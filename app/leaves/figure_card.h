// The card beside a chosen figure of a drawing: what else it may be. UI thread only.
#pragma once

#include <QLabel>
#include <variant>

#include "leaves/choice_list.h"
#include "leaves/leaf_card.h"
#include "transcript/read_shape.h"

namespace fernleaf {

class FigureCard : public LeafCard {
    Q_OBJECT

public:
    static constexpr size_t kMostAlternatives = 6;

    explicit FigureCard(QWidget* parent);

    // What it is of: only what ink was taken for can be corrected, also once more.
    enum class Of { ink, corrected, fair, picture };
    void show_figure(const ReadShape& shape, bool read_only, Of of);
    // Takes what a key stands for; false if it stands for nothing.
    bool key(int key);

signals:
    void kind_taken(ShapeKind kind);
    void ink_wanted();    // left as it is, no figure
    void words_wanted();  // read as words

private:
    enum class Other { ink, words };
    void take(int choice);

    QLabel *title_, *hint_;
    ChoiceList* list_;
    bool may_take_ = true;
    std::vector<std::variant<ShapeKind, Other>> choices_;
};

// As a person calls it: "a rounded rectangle".
QString name_on_screen(ShapeKind kind);

}  // namespace fernleaf
