#include "exports/mail_dialog.h"

#include <QFormLayout>
#include <QSettings>

#include "exchange/mail_message.h"
#include "look/dialog_parts.h"

namespace fernleaf {
namespace {

constexpr char kFormat[] = "mail/format";
constexpr int kTextRows = 90;  // px: a few lines

}  // namespace

MailDialog::MailDialog(Session& session, std::vector<PageId> pages, const QString& subject, QWidget* parent)
    : QDialog(parent), session_(session), pages_(std::move(pages)) {
    setWindowTitle(tr("Mail"));
    setMinimumWidth(520);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 16);
    column->setSpacing(12);
    column->addWidget(dialog_heading(tr("Mail %n page(s)", nullptr, static_cast<int>(pages_.size()))));
    auto* form = new QFormLayout;
    form->setHorizontalSpacing(16);
    form->setVerticalSpacing(8);
    form->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
    to_ = new QComboBox;
    to_->setEditable(true);
    to_->setInsertPolicy(QComboBox::NoInsert);
    to_->addItems(MailDesk::contacts());
    to_->setCurrentIndex(-1);
    to_->lineEdit()->setPlaceholderText(tr("ines@example.org"));
    form->addRow(tr("To"), to_);
    subject_ = new QLineEdit(subject);
    form->addRow(tr("Subject"), subject_);
    format_ = new QComboBox;
    format_->addItem(tr("PDF with searchable text"), QStringLiteral(".pdf"));
    format_->addItem(tr("Text"), QStringLiteral(".txt"));
    if (pages_.size() == 1) format_->addItem(tr("Picture"), QStringLiteral(".png"));
    format_->setCurrentIndex(std::max(0, format_->findData(QSettings().value(kFormat))));
    form->addRow(tr("Attach as"), format_);
    text_ = new QPlainTextEdit;
    text_->setTabChangesFocus(true);
    text_->setFixedHeight(kTextRows);
    form->addRow(tr("Message"), text_);
    column->addLayout(form);
    problem_ = new QLabel;
    problem_->setWordWrap(true);
    problem_->setStyleSheet(QStringLiteral("color: %1").arg(theme().unsure.name()));
    problem_->hide();
    column->addWidget(problem_);
    column->addWidget(remark(tr("The message opens in your mail program, where you can look it over and send it.")));
    column->addStretch();
    decide_ = deciding_foot(*this, *column, tr("Open message"));
    connect(decide_, &QPushButton::clicked, this, &MailDialog::decide);
    connect(to_, &QComboBox::editTextChanged, problem_, &QLabel::hide);
}

void MailDialog::decide() {
    if (const auto to = mail_addresses(to_->currentText().toStdString()); !to) {
        problem_->setText(QString::fromStdString(to.error().message));
        problem_->show();
        resize(width(), layout()->heightForWidth(width()));
        return to_->setFocus();
    }
    QSettings().setValue(kFormat, format_->currentData());
    session_.mail().mail({to_->currentText().simplified(), subject_->text().simplified(), text_->toPlainText(), pages_,
                          format_->currentData().toString()});
    accept();
}

}  // namespace fernleaf
