#include "leaves/word_card.h"

#include <QKeyEvent>
#include <QToolButton>

#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {

WordCard::WordCard(QWidget* parent) : QFrame(parent) {
    setObjectName(QStringLiteral("wordCard"));
    setFixedWidth(268);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 10, 12, 10);
    column->setSpacing(6);
    title_ = new QLabel;
    title_->setWordWrap(true);
    column->addWidget(title_);
    list_ = new QVBoxLayout;
    list_->setSpacing(2);
    column->addLayout(list_);
    field_ = new QLineEdit;
    field_->setAccessibleName(tr("What the word says"));
    field_->setFont(QFont(kTextFace, 13));
    field_->installEventFilter(this);
    column->addWidget(field_);
    hint_ = new QLabel;
    hint_->setWordWrap(true);
    column->addWidget(hint_);
    connect(field_, &QLineEdit::returnPressed, this, [this] {
        if (!field_->text().trimmed().isEmpty()) emit taken(field_->text());
    });
    hide();
}

void WordCard::show_word(const ReadWord& word, bool read_only) {
    const Theme& t = theme();
    setStyleSheet(QStringLiteral("#wordCard { background: %1; border: 1px solid %2; border-radius: 10px; }").arg(t.card.name(), t.line.name()));
    const QString text = QString::fromStdString(word.text);
    title_->setText(word.corrected ? tr("You said that this is <b>%1</b>.").arg(text.toHtmlEscaped())
                                   : tr("Read as <b>%1</b>, %2 % sure.").arg(text.toHtmlEscaped()).arg(qRound(100 * word.certainty)));
    while (QLayoutItem* item = list_->takeAt(0)) {
        item->widget()->deleteLater();
        delete item;
    }
    alternatives_.clear();
    for (const Alternative& a : word.alternatives) {
        if (alternatives_.size() == kMostAlternatives) break;
        alternatives_.push_back(QString::fromStdString(a.text));
        auto* button = new QToolButton;
        const QString shown = QString(alternatives_.back()).replace(QStringLiteral("&"), QStringLiteral("&&"));
        const QString share = a.certainty < 0.005 ? tr("as spelt") : tr("%1 %").arg(qRound(100 * a.certainty));
        button->setText(QStringLiteral("%1   %2   ·  %3").arg(alternatives_.size()).arg(shown, share));
        button->setToolButtonStyle(Qt::ToolButtonTextOnly);
        button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        button->setStyleSheet(QStringLiteral("QToolButton { text-align: left; font-size: 14px; }"));
        button->setEnabled(!read_only);
        connect(button, &QToolButton::clicked, this, [this, value = alternatives_.back()] { emit taken(value); });
        list_->addWidget(button);
    }
    field_->setText(text);
    field_->setEnabled(!read_only);
    QString keys = tr("<b>Enter</b> it is right");
    if (!alternatives_.empty()) keys += tr(" · <b>1–%1</b> take").arg(alternatives_.size());
    keys += tr(" · <b>type</b> to replace · <b>Tab</b> next unsure word");
    hint_->setText(QStringLiteral("<span style='color:%1; font-size:11px'>%2</span>").arg(t.quiet_text.name(), read_only ? tr("The library is open for reading only.") : keys));
    layout()->activate();
    adjustSize();
    show();
    raise();
}

void WordCard::type(const QString& text) {
    field_->setFocus(Qt::OtherFocusReason);
    if (text.isEmpty())
        field_->selectAll();
    else
        field_->setText(text);
}

QString WordCard::alternative(int number) const {
    return number >= 1 && number <= static_cast<int>(alternatives_.size()) ? alternatives_[static_cast<size_t>(number - 1)] : QString();
}

bool WordCard::eventFilter(QObject* object, QEvent* event) {
    if (object == field_ && event->type() == QEvent::KeyPress && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape) {
        emit closed();
        return true;
    }
    return QFrame::eventFilter(object, event);
}

}  // namespace fernleaf
