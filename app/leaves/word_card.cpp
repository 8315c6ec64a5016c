#include "leaves/word_card.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

#include "look/theme.h"

namespace fernleaf {

WordCard::WordCard(QWidget* parent)
    : CorrectionCard(QStringLiteral("wordCard"), tr("What the word says"), parent),
      join_(quiet_button(tr("Join with next"))),
      split_(quiet_button(tr("Split"))) {
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    join_->setToolTip(tr("Join with the next word  (Ctrl+J)"));
    split_->setToolTip(tr("Split into two words at the widest gap  (Ctrl+Shift+J)"));
    row->addWidget(join_);
    row->addWidget(split_);
    connect(join_, &QPushButton::clicked, this, &WordCard::join_wanted);
    connect(split_, &QPushButton::clicked, this, &WordCard::split_wanted);
    column()->addLayout(row);
    useful_row_ = new QWidget;
    auto* useful_column = new QVBoxLayout(useful_row_);
    useful_column->setContentsMargins(0, 2, 0, 2);
    useful_column->setSpacing(4);
    useful_text_ = new QLabel;
    useful_text_->setWordWrap(true);
    useful_column->addWidget(useful_text_);
    auto* useful_buttons = new QHBoxLayout;
    useful_buttons->setSpacing(4);
    copy_ = quiet_button(tr("Copy"));
    save_ = quiet_button({});
    open_ = quiet_button(tr("Open"));
    for (QPushButton* b : {copy_, save_, open_}) useful_buttons->addWidget(b);
    useful_column->addLayout(useful_buttons);
    connect(copy_, &QPushButton::clicked, this, [this] { emit copy_wanted(useful_); });
    connect(save_, &QPushButton::clicked, this, [this] { emit save_wanted(useful_); });
    connect(open_, &QPushButton::clicked, this, [this] { emit open_wanted(useful_); });
    column()->addWidget(useful_row_);
}

void WordCard::show_useful(const std::optional<Useful>& useful) {
    useful_row_->setVisible(useful.has_value());
    if (!useful) return;
    useful_ = *useful;
    const char* const names[] = {QT_TR_NOOP("Telephone"), QT_TR_NOOP("Mail"), QT_TR_NOOP("Web"), QT_TR_NOOP("Date")};
    const bool time_only = useful_.kind == UsefulKind::moment && !useful_.date;
    useful_text_->setText(QStringLiteral("<span style='color:%1; font-weight:600'>%2</span>  %3")
                              .arg(theme().act.name(),
                                   time_only ? tr("Time") : tr(names[static_cast<int>(useful_.kind)]),
                                   QString::fromStdString(useful_.text).toHtmlEscaped()));
    save_->setText(useful_.kind == UsefulKind::moment ? tr("As event …") : tr("As contact …"));
    save_->setVisible(useful_.kind != UsefulKind::web);
    open_->setVisible(useful_.kind == UsefulKind::web);
}

void WordCard::show_word(const ReadWord& word, bool read_only, bool can_join, bool can_split) {
    const QString text = QString::fromStdString(word.text);
    join_->setVisible(!read_only && can_join);
    split_->setVisible(!read_only && can_split);
    const QString title =
        word.block != 0  ? tr("Typed: <span style='font-weight:600'>%1</span>").arg(text.toHtmlEscaped())
        : word.corrected ? tr("Corrected to <span style='font-weight:600'>%1</span>").arg(text.toHtmlEscaped())
                         : tr("Read as <span style='font-weight:600'>%1</span> · %2 % sure")
                               .arg(text.toHtmlEscaped())
                               .arg(qRound(100 * word.certainty));
    const AlternativesAs as{[](const std::string& other) {
                                return Choice{{}, QString::fromStdString(other), {}};
                            },
                            tr("as spelt")};
    show_what(
        title, word.alternatives, as, text,
        tr(" · <span style='font-weight:600'>type</span> to replace · <span style='font-weight:600'>Tab</span> for "
           "the next unsure word"),
        read_only);
}

}  // namespace fernleaf
