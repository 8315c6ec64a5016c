#include "window/notebook_dialog.h"

#include <QButtonGroup>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QVBoxLayout>

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

NotebookDialog::NotebookDialog(const std::vector<std::string>& languages, QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("New notebook"));
    setMinimumWidth(420);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 18);
    column->setSpacing(14);
    column->addWidget(dialog_heading(tr("A new notebook")));
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
    covers_.front()->setChecked(true);
    form->addRow(tr("Cover"), covers);
    sheet_ = new SheetForm(*form, usual_sheet(), this);
    language_ = new QComboBox;
    for (const std::string& code : languages) language_->addItem(language_name(code), QString::fromStdString(code));
    if (languages.empty()) language_->addItem(language_name("en"), "en");
    language_->model()->sort(0);
    const QString own = QLocale().name().section('_', 0, 0);
    const int index = language_->findData(language_->findData(own) >= 0 ? own : QStringLiteral("en"));
    language_->setCurrentIndex(std::max(index, 0));
    form->addRow(tr("Language"), language_);
    column->addLayout(form);
    make_ = deciding_foot(*this, *column, tr("Make notebook"));
    make_->setEnabled(false);
    connect(make_, &QPushButton::clicked, this, &QDialog::accept);
    connect(title_, &QLineEdit::textChanged, this,
            [this](const QString& text) { make_->setEnabled(!text.trimmed().isEmpty()); });
}

Notebook NotebookDialog::notebook() const {
    Notebook n;
    n.title = title_->text().trimmed().toStdString();
    for (size_t i = 0; i < covers_.size(); ++i)
        if (covers_[i]->isChecked()) n.cover = kCovers[i].colour;
    n.sheet = sheet_->sheet();
    n.languages = {language_->currentData().toString().toStdString()};
    return n;
}

}  // namespace fernleaf
