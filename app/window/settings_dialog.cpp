#include "window/settings_dialog.h"

#include <QFormLayout>
#include <QHBoxLayout>
#include <QPushButton>
#include <QScrollArea>
#include <QSettings>
#include <cmath>

#include "exchange/mail_message.h"
#include "look/dialog_parts.h"
#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr int kCurveSteps = 20;  // to each side of an even hand

// A slider's place and the power of the pressure it stands for: even steps of its logarithm.
double curve_at(int step) {
    const double most = step < 0 ? kLightestCurve : kHeaviestCurve;
    return std::pow(most, std::abs(step) / static_cast<double>(kCurveSteps));
}
int step_of(double curve) {
    const double most = curve < 1 ? std::log(kLightestCurve) : std::log(kHeaviestCurve);
    const int steps = static_cast<int>(std::lround(std::log(curve) / most * kCurveSteps));
    return curve < 1 ? -steps : steps;
}

}  // namespace

SettingsDialog::SettingsDialog(Session& session, ToolTray& tray, QWidget* parent)
    : QDialog(parent), session_(session), tray_(tray) {
    setWindowTitle(tr("Settings"));
    resize(620, 620);
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(22, 18, 22, 16);
    whole->setSpacing(12);
    search_ = new QLineEdit;
    search_->setPlaceholderText(tr("Find a setting"));
    search_->setAccessibleName(search_->placeholderText());
    search_->setClearButtonEnabled(true);
    search_->addAction(icon(QStringLiteral("find")), QLineEdit::LeadingPosition);
    whole->addWidget(search_);
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setStyleSheet(QStringLiteral("QScrollArea, #settingsPage { background: transparent; }"));
    auto* page = new QWidget;
    page->setObjectName(QStringLiteral("settingsPage"));
    column_ = new QVBoxLayout(page);
    column_->setContentsMargins(0, 0, 10, 0);
    column_->setSpacing(8);
    add_writing();
    add_erasing();
    add_reading();
    add_paper();
    add_errands();
    add_backup();
    begin(tr("Look"));
    add_choice(
        tr("Colours"), {tr("Light"), tr("Dark")}, theme().dark ? 1 : 0, [this](int i) { emit look_chosen(i == 1); },
        tr("scheme theme night"));
    nothing_ = new QLabel(tr("No matching settings."));
    nothing_->setAlignment(Qt::AlignCenter);
    nothing_->hide();
    column_->addWidget(nothing_);
    column_->addStretch();
    scroll->setWidget(page);
    whole->addWidget(scroll, 1);
    whole->addLayout(closing_foot(*this, remark(tr("Changes take effect at once."))));
    connect(search_, &QLineEdit::textChanged, this, &SettingsDialog::find);
    search_->setFocus();
}

void SettingsDialog::begin(const QString& heading) {
    auto* label = fernleaf::heading(heading, kTextFace, 17);
    label->setContentsMargins(0, sections_.empty() ? 0 : 12, 0, 2);
    column_->addWidget(label);
    sections_.push_back({label, {}});
}

void SettingsDialog::add(const QString& name, QWidget* field, const QString& also_found_by) {
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    if (!name.isEmpty()) {
        auto* label = new QLabel(name);
        label->setFixedWidth(190);
        line->addWidget(label);
        if (field->accessibleName().isEmpty()) field->setAccessibleName(name);
    }
    line->addWidget(field, 1);
    column_->addWidget(row);
    sections_.back().rows.push_back({row, name + ' ' + also_found_by});
}

QCheckBox* SettingsDialog::add_switch(const QString& name, bool on, std::function<void(bool)> take,
                                      const QString& words) {
    auto* box = new QCheckBox(name);
    box->setChecked(on);
    connect(box, &QCheckBox::toggled, this, std::move(take));
    add({}, box, name + ' ' + words);
    return box;
}

QComboBox* SettingsDialog::add_choice(const QString& name, const QStringList& choices, int chosen,
                                      std::function<void(int)> take, const QString& words) {
    auto* box = new QComboBox;
    box->addItems(choices);
    box->setCurrentIndex(chosen);
    connect(box, &QComboBox::activated, this, std::move(take));
    add(name, box, choices.join(' ') + ' ' + words);
    return box;
}

// Leads to settings that have a window of their own.
void SettingsDialog::add_way(const QString& name, const QString& words, bool enabled, std::function<void()> go) {
    auto* way = new QPushButton(name);
    way->setProperty("secondary", true);
    way->setAutoDefault(false);
    way->setEnabled(enabled);
    connect(way, &QPushButton::clicked, this, [this, go = std::move(go)] {
        accept();
        go();
    });
    add({}, way, words);
}

void SettingsDialog::change(const std::function<void(Tools&)>& change) {
    Tools tools = tray_.tools();
    change(tools);
    tray_.set_tools(tools);
}

void SettingsDialog::add_writing() {
    const Tools& tools = tray_.tools();
    begin(tr("Writing"));
    auto* curve = new QWidget;
    auto* row = new QHBoxLayout(curve);
    row->setContentsMargins(0, 0, 0, 0);
    auto* slider = new QSlider(Qt::Horizontal);
    slider->setObjectName(QStringLiteral("pressureCurve"));
    slider->setRange(-kCurveSteps, kCurveSteps);
    slider->setValue(step_of(tools.tablet.pressure_curve));
    slider->setAccessibleName(tr("Pressure"));
    slider->setFixedHeight(26);
    row->addWidget(new QLabel(tr("light hand")));
    row->addWidget(slider, 1);
    row->addWidget(new QLabel(tr("heavy hand")));
    connect(slider, &QSlider::valueChanged, this,
            [this](int step) { change([step](Tools& t) { t.tablet.pressure_curve = curve_at(step); }); });
    add(tr("Pressure"), curve, tr("curve tablet pen light heavy hand"));
    const QStringList does = {tr("Nothing"), tr("Erases"), tr("Works as the lasso"), tr("Moves the page")};
    add_choice(
        tr("Pen barrel button"), does, static_cast<int>(tools.tablet.barrel),
        [this](int i) { change([i](Tools& t) { t.tablet.barrel = static_cast<ButtonDoes>(i); }); },
        tr("tablet stylus"));
    add_choice(
        tr("The pen's other end"), does, static_cast<int>(tools.tablet.eraser_end),
        [this](int i) { change([i](Tools& t) { t.tablet.eraser_end = static_cast<ButtonDoes>(i); }); },
        tr("tablet stylus eraser end"));
    add_switch(
        tr("Hand rest: ignore touch on the lower part of the ink leaf  (H)"), tools.tablet.hand_rest > 0,
        [this](bool on) { change([on](Tools& t) { t.tablet.hand_rest = on ? kUsualHandRest : 0; }); },
        tr("palm touch finger"));
}

void SettingsDialog::add_erasing() {
    const Tools& tools = tray_.tools();
    begin(tr("Erasing"));
    add_choice(tr("The eraser removes"), {tr("Parts of strokes"), tr("Strokes"), tr("Words")},
               static_cast<int>(tools.eraser.takes),
               [this](int i) { change([i](Tools& t) { t.eraser.takes = static_cast<EraserTakes>(i); }); });
    add_choice(
        tr("Its size"), {tr("Small"), tr("Middle"), tr("Large"), tr("By speed")}, static_cast<int>(tools.eraser.size),
        [this](int i) { change([i](Tools& t) { t.eraser.size = static_cast<EraserSize>(i); }); }, tr("eraser"));
    add_switch(
        tr("Highlighter only"), tools.eraser.highlighter_only,
        [this](bool on) { change([on](Tools& t) { t.eraser.highlighter_only = on; }); }, tr("eraser"));
    add_switch(
        tr("Then return to the previous tool"), tools.eraser.then_back,
        [this](bool on) { change([on](Tools& t) { t.eraser.then_back = on; }); }, tr("eraser"));
    begin(tr("Gestures"));
    auto* all = add_switch(
        tr("Pen gestures"), tools.gestures, [this](bool on) { change([on](Tools& t) { t.gestures = on; }); },
        tr("master switch"));
    auto* scribble = add_switch(
        tr("Scribbling over ink erases it"), tools.eraser.scribbles,
        [this](bool on) { change([on](Tools& t) { t.eraser.scribbles = on; }); }, tr("scratch out"));
    scribble->setEnabled(tools.gestures);
    connect(all, &QCheckBox::toggled, scribble, &QWidget::setEnabled);
    add_way(tr("Proof marks: what each does, and which are on …"),
            tr("strike out insert caret separate close up paragraph italic bold heading"), true,
            [this] { emit proof_sheet_wanted(); });
}

void SettingsDialog::add_reading() {
    begin(tr("Reading"));
    add_choice(
        tr("Read handwriting"), {tr("While writing"), tr("Paused"), tr("Only when asked")},
        static_cast<int>(session_.readings().mode()),
        [this](int i) { session_.readings().set_mode(static_cast<ReadingMode>(i)); }, tr("recognition on off live"));
    add_way(tr("Languages, lean, word lists and hand of this notebook …"), tr("language lean word list teach hand"),
            session_.page() != nullptr, [this] { emit reading_wanted(); });
}

void SettingsDialog::add_paper() {
    begin(tr("Paper of new notebooks"));
    auto* box = new QWidget;
    auto* form = new QFormLayout(box);
    form->setContentsMargins(0, 0, 0, 0);
    form->setHorizontalSpacing(16);
    auto* sheet = new SheetForm(*form, usual_sheet(), box);
    connect(sheet, &SheetForm::changed, this, [sheet] { keep_usual_sheet(sheet->sheet()); });
    add({}, box, tr("paper size spacing colour ruled squared dotted plain endless default A4 A5 Letter"));
}

void SettingsDialog::add_errands() {
    begin(tr("Errands of addressed paper"));
    auto* address = new QLineEdit(MailDesk::errand_address());
    address->setObjectName(QStringLiteral("errandAddress"));
    address->setPlaceholderText(tr("Nobody"));
    connect(address, &QLineEdit::editingFinished, this, [this, address] {
        const QString typed = address->text().trimmed();
        const auto known = mail_addresses(typed.toStdString());
        if (!typed.isEmpty() && !known) {
            address->setText(MailDesk::errand_address());
            return session_.messages().tell_problem(known.error());
        }
        MailDesk::set_errand_address(typed);
        session_.mail().mail_errands();  // that wait
    });
    add(tr("Box “send” mails the page to"), address, tr("errand box tick mail send address smart pen"));
    for (const Errand errand : {Errand::tag_a, Errand::tag_b, Errand::tag_c}) {
        auto* name = new QLineEdit(KeepingDesk::errand_tag(errand));
        name->setObjectName(QStringLiteral("errandTag%1").arg(static_cast<int>(errand)));
        name->setMaxLength(static_cast<int>(kLongestTagName));
        connect(name, &QLineEdit::editingFinished, this,
                [name, errand] { KeepingDesk::set_errand_tag(errand, name->text()); });
        const QString letter(QChar('A' + static_cast<int>(errand) - static_cast<int>(Errand::tag_a)));
        add(tr("Box %1 adds the tag").arg(letter), name, tr("errand box tick tag smart pen"));
    }
}

void SettingsDialog::add_backup() {
    begin(tr("Backup"));
    add_way(tr("Backup …"), tr("backup restore copy safe folder drive snapshot"), true,
            [this] { emit backups_wanted(); });
}

void SettingsDialog::find(const QString& text) {
    const QStringList wanted = text.toLower().split(' ', Qt::SkipEmptyParts);
    bool any = false;
    for (const Section& section : sections_) {
        bool some = false;
        for (const Row& row : section.rows) {
            const QString words = (row.words + ' ' + section.heading->text()).toLower();
            const bool matches = std::ranges::all_of(wanted, [&](const QString& w) { return words.contains(w); });
            row.widget->setVisible(matches);
            some = some || matches;
        }
        section.heading->setVisible(some);
        any = any || some;
    }
    nothing_->setVisible(!any);
}

}  // namespace fernleaf
