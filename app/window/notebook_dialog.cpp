#include "window/notebook_dialog.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QPainter>

#include "look/cover_look.h"
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

constexpr int kOwnPicture = -1;

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
    begin_pattern(*form);
    return form;
}

void NotebookDialog::begin_pattern(QFormLayout& form) {
    pattern_ = new QComboBox;
    pattern_->setIconSize({64, 26});
    pattern_->setAccessibleName(tr("Cover pattern"));
    for (int i = 0; i <= static_cast<int>(kLastCoverPattern); ++i)
        pattern_->addItem(cover_pattern_name(static_cast<CoverPattern>(i)), i);
    pattern_->addItem(tr("Your own picture …"), kOwnPicture);
    form.addRow(tr("Pattern"), pattern_);
    connect(pattern_, &QComboBox::activated, this, [this] {
        if (pattern_->currentData().toInt() == kOwnPicture && cover_picture_.empty()) emit picture_wanted();
    });
    for (QPushButton* cover : covers_) connect(cover, &QPushButton::toggled, this, &NotebookDialog::show_pattern);
}

// In the colour that is chosen.
void NotebookDialog::show_pattern() {
    uint32_t colour = before_.cover;
    for (size_t i = 0; i < covers_.size(); ++i)
        if (covers_[i]->isChecked()) colour = kCovers[i].colour;
    for (int i = 0; i < pattern_->count(); ++i) {
        QPixmap sample(pattern_->iconSize());
        sample.fill(Qt::transparent);
        QPainter painter(&sample);
        if (pattern_->itemData(i).toInt() != kOwnPicture)
            paint_cover(painter, sample.rect(), QColor::fromRgb(colour),
                        static_cast<CoverPattern>(pattern_->itemData(i).toInt()));
        painter.end();
        pattern_->setItemIcon(i, sample);
    }
}

void NotebookDialog::set_cover_picture(const std::string& file) {
    cover_picture_ = file;
    if (file.empty() && pattern_->currentData().toInt() == kOwnPicture) pattern_->setCurrentIndex(0);
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
    show_pattern();
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
    cover_picture_ = notebook.cover_picture;
    pattern_->setCurrentIndex(
        pattern_->findData(cover_picture_.empty() ? static_cast<int>(notebook.cover_pattern) : kOwnPicture));
    show_pattern();
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
    const int pattern = pattern_->currentData().toInt();
    n.cover_picture = pattern == kOwnPicture ? cover_picture_ : std::string();
    if (pattern != kOwnPicture) n.cover_pattern = static_cast<CoverPattern>(pattern);
    n.sheet = sheet_->sheet();
    if (language_) n.languages = {language_->currentData().toString().toStdString()};
    return n;
}

}  // namespace fernleaf
