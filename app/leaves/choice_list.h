// What something read may also be: a row each, with the key that takes it and what speaks for it. UI thread only.
#pragma once

#include <QPixmap>
#include <QVBoxLayout>
#include <QWidget>
#include <vector>

namespace fernleaf {

struct Choice {
    QString key, text, note;
    QPixmap picture = {};  // in the place of the text, which is what it is called then
};

class ChoiceList : public QWidget {
    Q_OBJECT

public:
    explicit ChoiceList(QWidget* parent = nullptr);

    // serif: in the face of text, as words are; else in that of the interface.
    void set(std::vector<Choice> choices, bool serif, bool enabled);
    const std::vector<Choice>& choices() const { return choices_; }

signals:
    void taken(int choice);  // counted from 0

private:
    QVBoxLayout* column_;
    std::vector<Choice> choices_;
};

}  // namespace fernleaf
