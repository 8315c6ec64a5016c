#include "leaves/choice_list.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <algorithm>

#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr int kRowPx = 30;

}  // namespace

ChoiceList::ChoiceList(QWidget* parent) : QWidget(parent), column_(new QVBoxLayout(this)) {
    column_->setContentsMargins(0, 0, 0, 0);
    column_->setSpacing(2);
}

void ChoiceList::set(std::vector<Choice> choices, bool serif, bool enabled) {
    while (QLayoutItem* item = column_->takeAt(0)) {
        item->widget()->hide();
        item->widget()->deleteLater();
        delete item;
    }
    choices_ = std::move(choices);
    const Theme& t = theme();
    for (size_t i = 0; i < choices_.size(); ++i) {
        auto* button = new QPushButton;
        button->setFixedHeight(kRowPx);
        button->setAccessibleName(tr("Take %1").arg(choices_[i].text));
        auto* row = new QHBoxLayout(button);
        row->setContentsMargins(8, 0, 8, 0);
        row->setSpacing(10);
        const auto part = [&](const QString& what, const QString& family, int px, const QColor& colour) {
            auto* label = new QLabel(what);
            label->setTextFormat(Qt::PlainText);
            QFont font(family);
            font.setPixelSize(px);
            label->setFont(font);
            label->setStyleSheet(QStringLiteral("color: %1").arg(colour.name()));
            label->setAttribute(Qt::WA_TransparentForMouseEvents);
            row->addWidget(label);
            return label;
        };
        part(choices_[i].key, kInterfaceFace, 12, t.act)->setMinimumWidth(14);
        QLabel* label = part(choices_[i].text, serif ? kTextFace : kInterfaceFace, serif ? 16 : 14, t.text);
        label->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Preferred);
        if (const QPixmap& picture = choices_[i].picture; !picture.isNull()) {
            label->setPixmap(picture);
            button->setFixedHeight(std::max(kRowPx, qRound(picture.height() / picture.devicePixelRatio()) + 10));
        }
        part(choices_[i].note, kInterfaceFace, 11, t.quiet_text);
        button->setEnabled(enabled);
        connect(button, &QPushButton::clicked, this, [this, i] { emit taken(static_cast<int>(i)); });
        column_->addWidget(button);
        button->show();  // at once, so that the card's size counts it
    }
}

}  // namespace fernleaf
