#include "window/reading_dialog.h"

#include <QFile>
#include <QFileDialog>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLocale>
#include <QMessageBox>
#include <QPointer>
#include <QTabBar>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "base/file.h"
#include "base/text.h"
#include "look/dialog_parts.h"
#include "look/language_name.h"
#include "look/theme.h"
#include "paper/examples.h"
#include "reading/decoder.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr int kLeanSteps = 10;
constexpr int kLanguageWidth = 194;  // px: three columns
constexpr int kLanguageHeight = 32;
constexpr qint64 kLargestList = 5'000'000;  // bytes

QPushButton* button(const QString& text) {
    auto* made = new QPushButton(text);
    made->setProperty("secondary", true);
    made->setAutoDefault(false);
    return made;
}

}  // namespace

ReadingDialog::ReadingDialog(Session& session, QWidget* parent)
    : QDialog(parent), session_(session), notebook_(session.document().notebook()) {
    setWindowTitle(tr("How this notebook is read"));
    resize(660, 640);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 18);
    column->setSpacing(12);
    column->addWidget(dialog_heading(tr("How “%1” is read").arg(QString::fromStdString(notebook_.title))));
    auto* tabs = new QTabWidget;
    tabs->setDocumentMode(true);
    tabs->tabBar()->setDrawBase(false);
    tabs->tabBar()->setExpanding(false);
    tabs->addTab(build_languages(), tr("&Languages"));
    tabs->addTab(build_words(), tr("&Word lists"));
    tabs->addTab(build_hand(), tr("&Hand"));
    tabs->addTab(build_math(), tr("&Math"));
    column->addWidget(tabs, 1);
    QPushButton* done = deciding_foot(*this, *column, tr("Read it this way"));
    connect(done, &QPushButton::clicked, this, &QDialog::accept);
    connect(&session_.teaching(), &TeachingDesk::hands_changed, this, [this] {
        session_.teaching().list_hands([self = QPointer(this)](const std::vector<HandInfo>& hands) {
            if (self) self->show_hands(hands);
        });
    });
    session_.teaching().list_hands([self = QPointer(this)](const std::vector<HandInfo>& hands) {
        if (self) self->show_hands(hands);
    });
}

QWidget* ReadingDialog::build_languages() {
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 14, 0, 4);
    column->setSpacing(10);
    column->addWidget(remark(tr("Each word may be in any of these languages. Fewer languages give a surer reading.")));
    languages_ = new QListWidget;
    languages_->setAccessibleName(tr("Languages"));
    languages_->setFlow(QListView::LeftToRight);
    languages_->setWrapping(true);
    languages_->setResizeMode(QListView::Adjust);
    languages_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    std::vector<std::pair<QString, std::string>> named;
    std::vector<std::string> codes = session_.readings().languages();
    for (const std::string& code : notebook_.languages)
        if (std::ranges::find(codes, code) == codes.end()) codes.push_back(code);
    for (const std::string& code : codes) named.emplace_back(language_name(code), code);
    // Those in use first, then by name.
    const auto used = [&](const std::string& code) {
        return std::ranges::find(notebook_.languages, code) != notebook_.languages.end();
    };
    std::ranges::sort(named, [&](const auto& a, const auto& b) {
        if (used(a.second) != used(b.second)) return used(a.second);
        return a.first.localeAwareCompare(b.first) < 0;
    });
    for (const auto& [name, code] : named) {
        const bool ready =
            std::ranges::find(session_.readings().languages(), code) != session_.readings().languages().end();
        auto* item = new QListWidgetItem(ready ? name : tr("%1 (its data is missing)").arg(name), languages_);
        item->setSizeHint({kLanguageWidth, kLanguageHeight});
        item->setData(Qt::UserRole, QString::fromStdString(code));
        item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
        item->setCheckState(used(code) ? Qt::Checked : Qt::Unchecked);
    }
    connect(languages_, &QListWidget::itemChanged, this, &ReadingDialog::keep_few_languages);
    column->addWidget(languages_, 1);
    languages_note_ = remark({});
    languages_note_->hide();
    column->addWidget(languages_note_);
    column->addWidget(heading(tr("How far to lean on the language"), kInterfaceFace, 13));
    auto* row = new QHBoxLayout;
    language_weight_ = new QSlider(Qt::Horizontal);
    language_weight_->setRange(0, kLeanSteps);
    language_weight_->setPageStep(1);
    language_weight_->setMinimumHeight(28);
    language_weight_->setValue(static_cast<int>(std::lround(notebook_.language_weight * kLeanSteps)));
    language_weight_->setAccessibleName(tr("Lean"));
    row->addWidget(remark(tr("literal")));
    row->addWidget(language_weight_, 1);
    row->addWidget(remark(tr("strong")));
    column->addLayout(row);
    column->addWidget(
        remark(tr("Literal spells what it sees, which suits codes and names. Strong prefers known words.")));
    return page;
}

void ReadingDialog::keep_few_languages(QListWidgetItem* changed) {
    int ticked = 0;
    for (int i = 0; i < languages_->count(); ++i) ticked += languages_->item(i)->checkState() == Qt::Checked;
    if (ticked > static_cast<int>(kMostLanguages)) changed->setCheckState(Qt::Unchecked);
    languages_note_->setVisible(ticked > static_cast<int>(kMostLanguages) || ticked == 0);
    languages_note_->setText(ticked == 0 ? tr("Without a language, every letter is read as it is seen.")
                                         : tr("Four languages at most. Untick one to choose another."));
}

QWidget* ReadingDialog::word_box(WordBox& box, const QString& text) {
    auto* whole = new QWidget;
    auto* column = new QVBoxLayout(whole);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(heading(text, kInterfaceFace, 13));
    box.text = new QPlainTextEdit;
    box.text->setEnabled(false);  // until the list is there
    box.text->setPlaceholderText(tr("One word per line"));
    box.text->setAccessibleName(text);
    column->addWidget(box.text, 1);
    auto* row = new QHBoxLayout;
    auto* bring = button(tr("Import …"));
    auto* save = button(tr("Export …"));
    row->addWidget(bring);
    row->addWidget(save);
    row->addStretch();
    column->addLayout(row);
    connect(bring, &QPushButton::clicked, this, [this, &box] { bring_words(box); });
    connect(save, &QPushButton::clicked, this, [this, &box] { save_words(box); });
    session_.teaching().list_words(box.notebook, [self = QPointer(this), &box](const QStringList& words) {
        if (!self) return;
        box.before = words;
        box.loaded = true;
        box.text->setPlainText(words.join('\n'));
        box.text->setEnabled(true);
    });
    return whole;
}

QWidget* ReadingDialog::build_words() {
    notebook_words_.notebook = notebook_.id;
    persons_words_.notebook = kPersonsWords;
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 14, 0, 4);
    column->setSpacing(10);
    column->addWidget(
        remark(tr("Names and terms no dictionary knows. Words you correct are added to the notebook's list.")));
    auto* row = new QHBoxLayout;
    row->setSpacing(16);
    row->addWidget(word_box(notebook_words_, tr("In this notebook")));
    row->addWidget(word_box(persons_words_, tr("In everything you write")));
    column->addLayout(row, 1);
    return page;
}

void ReadingDialog::bring_words(WordBox& box) {
    const QString path =
        QFileDialog::getOpenFileName(this, tr("Import a word list"), {}, tr("Text (*.txt);;All files (*)"));
    if (path.isEmpty()) return;
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly) || file.size() > kLargestList) {
        QMessageBox::warning(this, tr("Import a word list"), tr("%1 can't be read.").arg(path));
        return;
    }
    const QByteArray bytes = file.readAll();
    if (!valid_utf8(std::string_view(bytes.data(), static_cast<size_t>(bytes.size())))) {
        QMessageBox::warning(this, tr("Import a word list"),
                             tr("%1 isn't UTF-8 text. Save it as UTF-8 with one word per line.").arg(path));
        return;
    }
    QStringList words = words_of(box.text->toPlainText() + '\n' + QString::fromUtf8(bytes));
    words.sort();
    box.text->setPlainText(words.join('\n'));
}

void ReadingDialog::save_words(const WordBox& box) {
    const QString path = QFileDialog::getSaveFileName(this, tr("Export the word list"), tr("words.txt"));
    if (path.isEmpty()) return;
    const QByteArray bytes = (words_of(box.text->toPlainText()).join('\n') + '\n').toUtf8();
    const Status status =
        write_whole(path.toStdString(), std::string_view(bytes.data(), static_cast<size_t>(bytes.size())));
    if (!status) QMessageBox::warning(this, tr("Export the word list"), QString::fromStdString(status.error().message));
}

QWidget* ReadingDialog::build_hand() {
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 14, 0, 4);
    column->setSpacing(10);
    column->addWidget(
        remark(tr("Every correction is kept as an example of the hand. After about ten lines, the reader learns the "
                  "hand by itself, and uses what it learnt where that reads better.")));
    auto* row = new QHBoxLayout;
    hand_ = new QComboBox;
    hand_->setAccessibleName(tr("Whose hand this notebook is written in"));
    auto* fresh = button(tr("Another hand …"));
    row->addWidget(hand_, 1);
    row->addWidget(fresh);
    column->addLayout(row);
    hand_state_ = new QLabel;
    hand_state_->setWordWrap(true);
    column->addWidget(hand_state_);
    auto* buttons = new QHBoxLayout;
    learn_ = button(tr("Learn now"));
    forget_ = button(tr("Forget …"));
    save_ = button(tr("Save …"));
    load_ = button(tr("Load …"));
    for (QPushButton* b : {learn_, forget_, save_, load_}) buttons->addWidget(b);
    buttons->addStretch();
    column->addLayout(buttons);
    column->addSpacing(6);
    column->addWidget(heading(tr("Quick start: copy these eight lines by hand"), kInterfaceFace, 13));
    QStringList lines;
    for (const std::string& line : lines_to_copy()) lines << QString::fromStdString(line).toHtmlEscaped();
    auto* text = new QLabel(QStringLiteral("<div style=\"font-family:'%1'; font-size:14px; line-height:135%\">%2</div>")
                                .arg(kTextFace, lines.join("<br>")));
    text->setTextInteractionFlags(Qt::TextSelectableByMouse);
    text->setStyleSheet(QStringLiteral("background: %1; border: 1px solid %2; border-radius: 6px; padding: 10px 14px;")
                            .arg(theme().card.name(), theme().line.name()));
    column->addWidget(text);
    column->addWidget(
        remark(tr("Write them on a page of this notebook or scan them from paper, then open that page and choose:")));
    learn_page_ = button(tr("Learn from the open page"));
    auto* last = new QHBoxLayout;
    last->addWidget(learn_page_);
    last->addStretch();
    column->addLayout(last);
    column->addStretch();
    TeachingDesk& desk = session_.teaching();
    connect(hand_, &QComboBox::currentIndexChanged, this, [this] { show_hand_state(); });
    connect(fresh, &QPushButton::clicked, this, [this] { ask_for_hand_name(); });
    connect(learn_, &QPushButton::clicked, this, [this, &desk] { desk.teach(chosen_hand()); });
    connect(forget_, &QPushButton::clicked, this, [this, &desk] {
        QMessageBox box(
            QMessageBox::Question, tr("Forget this hand"),
            tr("Everything learnt of this hand, and its examples, will be deleted. Your notes stay as they are."),
            QMessageBox::Cancel, this);
        const auto* yes = box.addButton(tr("Forget"), QMessageBox::AcceptRole);
        box.exec();
        if (box.clickedButton() == yes) desk.reset(chosen_hand());
    });
    connect(save_, &QPushButton::clicked, this, [this, &desk] {
        const QString path = QFileDialog::getSaveFileName(this, tr("Save the learnt hand"), tr("hand.fernhand"));
        if (!path.isEmpty()) desk.save_hand_to(chosen_hand(), path);
    });
    connect(load_, &QPushButton::clicked, this, [this, &desk] {
        const QString path = QFileDialog::getOpenFileName(this, tr("Load a learnt hand"), {},
                                                          tr("Learnt hands (*.fernhand);;All files (*)"));
        if (!path.isEmpty()) desk.load_hand_from(chosen_hand(), path);
    });
    connect(learn_page_, &QPushButton::clicked, &session_.correcting(), &CorrectionDesk::learn_copied_page);
    return page;
}

QWidget* ReadingDialog::build_math() {
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 14, 0, 4);
    column->setSpacing(10);
    column->addWidget(remark(tr("How formulas in this notebook are worked out.")));
    const WorkingManner& working = notebook_.working;
    auto* form = new QFormLayout;
    form->setHorizontalSpacing(16);
    form->setVerticalSpacing(10);
    angle_ = new QComboBox;
    for (const auto& [unit, name] :
         {std::pair(AngleUnit::radian, tr("Radians")), std::pair(AngleUnit::degree, tr("Degrees")),
          std::pair(AngleUnit::gon, tr("Gons"))})
        angle_->addItem(name, static_cast<int>(unit));
    angle_->setCurrentIndex(angle_->findData(static_cast<int>(working.angle)));
    form->addRow(tr("&Angles without a unit are in"), angle_);
    digits_ = new QSpinBox;
    digits_->setRange(WorkingManner::kFewestDigits, WorkingManner::kMostDigits);
    digits_->setValue(working.digits);
    form->addRow(tr("Significant &digits"), digits_);
    column->addLayout(form);
    decimals_ = new QCheckBox(tr("Show d&ecimals beside exact results"));
    decimals_->setChecked(!working.exact);
    column->addWidget(decimals_);
    earlier_values_ = new QCheckBox(tr("Use &values from earlier pages"));
    earlier_values_->setChecked(working.earlier_values);
    column->addWidget(earlier_values_);
    column->addWidget(
        remark(tr("a = 3 sets a for the formulas below it on the page. With this on, also for those on later pages.")));
    column->addStretch();
    return page;
}

void ReadingDialog::show_hands(const std::vector<HandInfo>& hands) {
    const HandId chosen = hands_.empty() ? notebook_.hand : chosen_hand();
    const bool one_more = !hands_.empty() && hands.size() > hands_.size();
    hands_ = hands;
    const QSignalBlocker quiet(hand_);
    hand_->clear();
    for (const HandInfo& hand : hands)
        hand_->addItem(hand.name.empty() ? tr("My hand") : QString::fromStdString(hand.name),
                       QVariant::fromValue(hand.id));
    hand_->setCurrentIndex(one_more ? hand_->count() - 1 : std::max(0, hand_->findData(QVariant::fromValue(chosen))));
    show_hand_state();
}

void ReadingDialog::show_hand_state() {
    const auto hand = std::ranges::find(hands_, chosen_hand(), &HandInfo::id);
    if (hand == hands_.end()) return;
    const QString kept = tr("%n example(s)", nullptr, static_cast<int>(hand->examples));
    const QString learnt_from = tr("%n example(s)", nullptr, static_cast<int>(hand->learnt_from));
    const auto percent = [](double value) { return QString::number(value, 'f', 1); };
    const bool better = hand->learnt_from > 0 && hand->errors_after < hand->errors_before;
    if (better)
        hand_state_->setText(tr("Learnt from %1. Letters wrong in a hundred: %2 before, %3 now. Kept in all: %4.")
                                 .arg(learnt_from, percent(hand->errors_before), percent(hand->errors_after), kept));
    else if (hand->learnt_from > 0)
        hand_state_->setText(
            tr("Tried with %1. The reader already reads this hand as well. Kept in all: %2.").arg(learnt_from, kept));
    else
        hand_state_->setText(tr("Not learnt yet. Kept so far: %1.").arg(kept));
    learn_->setEnabled(hand->examples > 0);
    forget_->setEnabled(hand->examples > 0 || hand->learnt_from > 0);
    save_->setEnabled(better);
    learn_page_->setEnabled(session_.page() != nullptr && !session_.read_only());
}

void ReadingDialog::ask_for_hand_name() {
    const QString name = QInputDialog::getText(this, tr("Another hand"), tr("Whose hand is it?")).simplified();
    if (!name.isEmpty()) session_.teaching().add_hand(name);
}

void ReadingDialog::accept() {
    Notebook changed = notebook_;
    changed.languages.clear();
    for (int i = 0; i < languages_->count(); ++i)
        if (languages_->item(i)->checkState() == Qt::Checked)
            changed.languages.push_back(languages_->item(i)->data(Qt::UserRole).toString().toStdString());
    if (language_weight_->value() != static_cast<int>(std::lround(notebook_.language_weight * kLeanSteps)))
        changed.language_weight = static_cast<double>(language_weight_->value()) / kLeanSteps;
    if (!hands_.empty()) changed.hand = chosen_hand();
    for (const WordBox* box : {&notebook_words_, &persons_words_})
        if (const QStringList words = words_of(box->text->toPlainText()); box->loaded && words != box->before)
            session_.teaching().set_words(box->notebook, words);
    changed.working = {static_cast<AngleUnit>(angle_->currentData().toInt()), digits_->value(), !decimals_->isChecked(),
                       earlier_values_->isChecked()};
    if (changed.languages != notebook_.languages || changed.language_weight != notebook_.language_weight ||
        changed.hand != notebook_.hand || changed.working != notebook_.working)
        session_.model().change_notebook(changed);
    QDialog::accept();
}

}  // namespace fernleaf
