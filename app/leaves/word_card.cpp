#include "leaves/word_card.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QVBoxLayout>

#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

QFont sized(const QString& family, int px) {
    QFont font(family);
    font.setPixelSize(px);
    return font;
}

}  // namespace

WordCard::WordCard(QWidget* parent) : QFrame(parent) {
    setObjectName(QStringLiteral("wordCard"));
    setFixedWidth(268);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 10, 12, 10);
    column->setSpacing(6);
    title_ = new QLabel;
    title_->setWordWrap(true);
    column->addWidget(title_);
    list_ = new ChoiceList;
    connect(list_, &ChoiceList::taken, this, [this](int choice) { emit taken(alternative(choice + 1)); });
    column->addWidget(list_);
    field_ = new QLineEdit;
    field_->setAccessibleName(tr("What the word says"));
    field_->setFont(sized(kTextFace, 16));
    field_->installEventFilter(this);
    column->addWidget(field_);
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    join_ = new QPushButton(tr("Join with next"));
    join_->setToolTip(tr("Join with the next word  (Ctrl+J)"));
    split_ = new QPushButton(tr("Split"));
    split_->setToolTip(tr("Split into two words at the widest gap  (Ctrl+K)"));
    for (QPushButton* b : {join_, split_}) {
        b->setProperty("secondary", true);
        b->setStyleSheet(QStringLiteral("padding: 4px 8px;"));
        row->addWidget(b);
    }
    connect(join_, &QPushButton::clicked, this, &WordCard::join_wanted);
    connect(split_, &QPushButton::clicked, this, &WordCard::split_wanted);
    column->addLayout(row);
    useful_row_ = new QWidget;
    auto* useful_column = new QVBoxLayout(useful_row_);
    useful_column->setContentsMargins(0, 2, 0, 2);
    useful_column->setSpacing(4);
    useful_text_ = new QLabel;
    useful_text_->setWordWrap(true);
    useful_column->addWidget(useful_text_);
    auto* useful_buttons = new QHBoxLayout;
    useful_buttons->setSpacing(4);
    copy_ = new QPushButton(tr("Copy"));
    save_ = new QPushButton;
    open_ = new QPushButton(tr("Open"));
    for (QPushButton* b : {copy_, save_, open_}) {
        b->setProperty("secondary", true);
        b->setStyleSheet(QStringLiteral("padding: 4px 8px;"));
        useful_buttons->addWidget(b);
    }
    useful_column->addLayout(useful_buttons);
    connect(copy_, &QPushButton::clicked, this, [this] { emit copy_wanted(useful_); });
    connect(save_, &QPushButton::clicked, this, [this] { emit save_wanted(useful_); });
    connect(open_, &QPushButton::clicked, this, [this] { emit open_wanted(useful_); });
    column->addWidget(useful_row_);
    hint_ = new QLabel;
    hint_->setWordWrap(true);
    column->addWidget(hint_);
    connect(field_, &QLineEdit::returnPressed, this, [this] {
        if (!field_->text().trimmed().isEmpty()) emit taken(field_->text());
    });
    hide();
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
    const Theme& t = theme();
    setStyleSheet(QStringLiteral("#wordCard { background: %1; border: 1px solid %2; border-radius: 10px; }")
                      .arg(t.card.name(), t.line.name()));
    const QString text = QString::fromStdString(word.text);
    join_->setVisible(!read_only && can_join);
    split_->setVisible(!read_only && can_split);
    title_->setText(word.block != 0 ? tr("Typed: <span style='font-weight:600'>%1</span>").arg(text.toHtmlEscaped())
                    : word.corrected
                        ? tr("Corrected to <span style='font-weight:600'>%1</span>").arg(text.toHtmlEscaped())
                        : tr("Read as <span style='font-weight:600'>%1</span> · %2 % sure")
                              .arg(text.toHtmlEscaped())
                              .arg(qRound(100 * word.certainty)));
    std::vector<Choice> rows;
    for (const Alternative& a : word.alternatives) {
        if (rows.size() == kMostAlternatives) break;
        rows.push_back({QString::number(rows.size() + 1), QString::fromStdString(a.text),
                        a.certainty < 0.005 ? tr("as spelt") : tr("%1 %").arg(qRound(100 * a.certainty))});
    }
    list_->set(std::move(rows), true, !read_only);
    field_->setText(text);
    field_->setEnabled(!read_only);
    QString keys = tr("<span style='font-weight:600'>Enter</span> to confirm");
    if (!list_->choices().empty())
        keys += tr(" · <span style='font-weight:600'>1–%1</span> to choose").arg(list_->choices().size());
    keys +=
        tr(" · <span style='font-weight:600'>type</span> to replace · <span style='font-weight:600'>Tab</span> for the "
           "next unsure word");
    hint_->setText(QStringLiteral("<span style='color:%1; font-size:11px'>%2</span>")
                       .arg(t.quiet_text.name(), read_only ? tr("This library is read-only.") : keys));
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
    const std::vector<Choice>& choices = list_->choices();
    return number >= 1 && number <= static_cast<int>(choices.size()) ? choices[static_cast<size_t>(number - 1)].text
                                                                     : QString();
}

bool WordCard::eventFilter(QObject* object, QEvent* event) {
    if (object == field_ && event->type() == QEvent::KeyPress &&
        static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape) {
        emit closed();
        return true;
    }
    return QFrame::eventFilter(object, event);
}

}  // namespace fernleaf
