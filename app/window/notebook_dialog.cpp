#include "window/notebook_dialog.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>

#include "look/dialog_parts.h"
#include "look/language_name.h"
#include "look/theme.h"

namespace fernleaf {
namespace {

struct Cover {
    const char* name;
    uint32_t colour;
};
constexpr Cover kCovers[] = {{QT_TRANSLATE_NOOP("NotebookDialog", "Moss"), 0x2E6B4F},
                             {QT_TRANSLATE_NOOP("NotebookDialog", "Slate"), 0x3A5A7C},
                             {QT_TRANSLATE_NOOP("NotebookDialog", "Plum"), 0x8A3B6B},
                             {QT_TRANSLATE_NOOP("NotebookDialog", "Amber"), 0xB0702C},
                             {QT_TRANSLATE_NOOP("NotebookDialog", "Olive"), 0x5B6B2E},
                             {QT_TRANSLATE_NOOP("NotebookDialog", "Heather"), 0x6A4A7C}};

}  // namespace

QFormLayout* NotebookDialog::begin(const QString& title, const QString& says) {
    setWindowTitle(title);
    setMinimumWidth(420);
    column_ = new QVBoxLayout(this);
    column_->setContentsMargins(22, 18, 22, 18);
    column_->setSpacing(14);
    column_->addWidget(dialog_heading(says));
    auto* form = new QFormLayout;
    form->setHorizontalSpacing(16);
    form->setVerticalSpacing(10);
    title_ = new QLineEdit;
    title_->setPlaceholderText(tr("What will you write in it?"));
    form->addRow(tr("Title"), title_);
    auto* covers = new QHBoxLayout;
    covers->setSpacing(6);
    auto* group = new QButtonGroup(this);
    for (const Cover& cover : kCovers) {
        auto* button = new QPushButton;
        button->setCheckable(true);
        button->setFixedSize(34, 42);
        button->setToolTip(tr(cover.name));
        button->setAccessibleName(tr("Cover: %1").arg(tr(cover.name)));
        button->setStyleSheet(
            QStringLiteral("QPushButton { background: %1; border: 2px solid transparent; border-radius: 4px; } "
                           "QPushButton:checked { border: 3px solid %2; } QPushButton:focus { border: 2px dashed %2; }")
                .arg(QColor::fromRgb(cover.colour).name(), theme().text.name()));
        group->addButton(button);
        covers->addWidget(button);
        covers_.push_back(button);
    }
    covers->addStretch();
    form->addRow(tr("Cover"), covers);
    return form;
}

void NotebookDialog::end(const QString& does) {
    make_ = deciding_foot(*this, *column_, does);
    const auto show = [this] { make_->setEnabled(!title_->text().trimmed().isEmpty()); };
    show();
    connect(make_, &QPushButton::clicked, this, &QDialog::accept);
    connect(title_, &QLineEdit::textChanged, this, show);
}

NotebookDialog::NotebookDialog(const std::vector<std::string>& languages, QWidget* parent) : QDialog(parent) {
    QFormLayout* form = begin(tr("New notebook"), tr("A new notebook"));
    covers_.front()->setChecked(true);
    sheet_ = new SheetForm(*form, usual_sheet(), this);
    language_ = new QComboBox;
    for (const std::string& code : languages) language_->addItem(language_name(code), QString::fromStdString(code));
    if (languages.empty()) language_->addItem(language_name("en"), "en");
    language_->model()->sort(0);
    const QString own = QLocale().name().section('_', 0, 0);
    const int index = language_->findData(language_->findData(own) >= 0 ? own : QStringLiteral("en"));
    language_->setCurrentIndex(std::max(index, 0));
    form->addRow(tr("Language"), language_);
    column_->addLayout(form);
    end(tr("Make notebook"));
}

NotebookDialog::NotebookDialog(const Notebook& notebook, QWidget* parent) : QDialog(parent), before_(notebook) {
    QFormLayout* form = begin(tr("Notebook"), tr("Title, cover, paper"));
    title_->setText(QString::fromStdString(notebook.title));
    for (size_t i = 0; i < covers_.size(); ++i) covers_[i]->setChecked(kCovers[i].colour == notebook.cover);
    sheet_ = new SheetForm(*form, notebook.sheet, this);
    column_->addLayout(form);
    column_->addWidget(remark(tr("The paper applies to new pages.")));
    end(tr("Save"));
}

Notebook NotebookDialog::notebook() const {
    Notebook n = before_;
    n.title = title_->text().trimmed().toStdString();
    for (size_t i = 0; i < covers_.size(); ++i)
        if (covers_[i]->isChecked()) n.cover = kCovers[i].colour;
    n.sheet = sheet_->sheet();
    if (language_) n.languages = {language_->currentData().toString().toStdString()};
    return n;
}

}  // namespace fernleaf
