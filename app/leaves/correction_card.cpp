#include "leaves/correction_card.h"

#include <QKeyEvent>

#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr double kHardly = 0.005;  // certain: no percentage is told

}  // namespace

CorrectionCard::CorrectionCard(const QString& name, const QString& field_name, QWidget* parent)
    : QFrame(parent),
      column_(new QVBoxLayout(this)),
      title_(new QLabel),
      list_(new ChoiceList),
      field_(new QLineEdit),
      hint_(new QLabel) {
    setObjectName(name);
    setFixedWidth(268);
    column_->setContentsMargins(12, 10, 12, 10);
    column_->setSpacing(6);
    title_->setWordWrap(true);
    hint_->setWordWrap(true);
    column_->addWidget(title_);
    connect(list_, &ChoiceList::taken, this, [this](int choice) { emit taken(alternative(choice + 1)); });
    column_->addWidget(list_);
    QFont font(kTextFace);
    font.setPixelSize(16);
    field_->setFont(font);
    field_->setAccessibleName(field_name);
    field_->installEventFilter(this);
    column_->addWidget(field_);
    connect(field_, &QLineEdit::returnPressed, this, [this] {
        if (const QString text = meant(field_->text()); !text.isEmpty()) emit taken(text);
    });
    hide();
}

QPushButton* CorrectionCard::quiet_button(const QString& text) {
    auto* button = new QPushButton(text);
    button->setProperty("secondary", true);
    button->setStyleSheet(QStringLiteral("padding: 4px 8px;"));
    return button;
}

void CorrectionCard::show_what(const QString& title, const std::vector<Alternative>& alternatives,
                               const AlternativesAs& as, const QString& in_field, const QString& more_keys,
                               bool read_only) {
    const Theme& t = theme();
    setStyleSheet(QStringLiteral("#%1 { background: %2; border: 1px solid %3; border-radius: 10px; }")
                      .arg(objectName(), t.card.name(), t.line.name()));
    column_->addWidget(hint_);  // the last
    title_->setText(title);
    std::vector<Choice> choices;
    says_.clear();
    for (const Alternative& a : alternatives) {
        if (says_.size() == kMostAlternatives) break;
        says_.push_back(QString::fromStdString(a.text));
        Choice choice = as.shown(a.text);
        choice.key = QString::number(says_.size());
        choice.note = a.certainty < kHardly ? as.unlikely : tr("%1 %").arg(qRound(100 * a.certainty));
        choices.push_back(std::move(choice));
    }
    QString keys = tr("<span style='font-weight:600'>Enter</span> to confirm");
    if (!says_.empty()) keys += tr(" · <span style='font-weight:600'>1–%1</span> to choose").arg(says_.size());
    list_->set(std::move(choices), true, !read_only);
    field_->setText(in_field);
    field_->setEnabled(!read_only);
    hint_->setText(QStringLiteral("<span style='color:%1; font-size:11px'>%2</span>")
                       .arg(t.quiet_text.name(), read_only ? tr("This library is read-only.") : keys + more_keys));
    fit();
    show();
    raise();
}

void CorrectionCard::fit() {
    layout()->activate();
    adjustSize();
}

void CorrectionCard::type(const QString& text) {
    field_->setFocus(Qt::OtherFocusReason);
    if (text.isEmpty())
        field_->selectAll();
    else
        field_->setText(text);
}

QString CorrectionCard::alternative(int number) const {
    return number >= 1 && number <= static_cast<int>(says_.size()) ? says_[static_cast<size_t>(number - 1)] : QString();
}

bool CorrectionCard::eventFilter(QObject* object, QEvent* event) {
    if (object == field_ && event->type() == QEvent::KeyPress &&
        static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape) {
        emit closed();
        return true;
    }
    return QFrame::eventFilter(object, event);
}

}  // namespace fernleaf
