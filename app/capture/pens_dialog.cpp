#include "capture/pens_dialog.h"

#include <QDateTime>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLocale>
#include <QMessageBox>
#include <QSignalBlocker>
#include <QVBoxLayout>
#include <algorithm>
#include <array>
#include <cmath>

#include "look/dialog_parts.h"
#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr int kListWidth = 210;
constexpr std::array kPowerOffMinutes{5, 10, 20, 60, 120};
constexpr uint8_t kLowBattery = 15;  // percent

QProgressBar* gauge() {
    auto* out = new QProgressBar;
    out->setTextVisible(false);
    out->setRange(0, 100);
    out->setFixedHeight(8);
    return out;
}

QString size_of(uint32_t kb) { return QLocale().formattedDataSize(qint64{kb} * 1024, 0, QLocale::DataSizeSIFormat); }

}  // namespace

QString standing_of(const ShownPen& pen) {
    if (!pen.near) return pen.paired ? QObject::tr("Away") : QObject::tr("Out of reach");
    switch (pen.stage) {
        case LinkStage::linked:
            if (pen.to_come > 0) return QObject::tr("Syncing, %1 left").arg(pen.to_come);
            return pen.drained ? QObject::tr("Linked, up to date") : QObject::tr("Linked");
        case LinkStage::locked:
            return QObject::tr("Not paired");
        case LinkStage::greeting:
        case LinkStage::proving:
            return QObject::tr("Linking …");
        case LinkStage::ended:
            return QObject::tr("Out of reach");
    }
    return {};
}

PensDialog::PensDialog(PenDesk& pens, bool read_only, QWidget* parent) : QDialog(parent), pens_(pens) {
    setWindowTitle(tr("Pens"));
    resize(680, 480);
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(22, 18, 22, 16);
    whole->setSpacing(12);
    auto* row = new QHBoxLayout;
    row->setSpacing(22);
    list_ = new QListWidget;
    list_->setFixedWidth(kListWidth);
    list_->setAccessibleName(tr("Pens"));
    list_->setIconSize({22, 22});
    row->addWidget(list_);
    stack_ = new QStackedWidget;
    stack_->addWidget(make_nothing());
    stack_->addWidget(make_pairing());
    stack_->addWidget(make_pen());
    row->addWidget(stack_, 1);
    whole->addLayout(row, 1);
    follow_ = new QCheckBox(tr("Turn to the page a pen writes on"));
    follow_->setChecked(PenDesk::follows());
    connect(follow_, &QCheckBox::toggled, this, [](bool on) { PenDesk::set_follows(on); });
    whole->addWidget(follow_);
    whole->addLayout(closing_foot(
        *this, remark(read_only ? tr("This library is read-only here. Pens link to the window that can change it.")
                                : tr("Paired pens link automatically when they are near."))));
    connect(list_, &QListWidget::currentRowChanged, this, [this] {
        if (!filling_) show_pen();
    });
    connect(&pens_, &PenDesk::changed, this, &PensDialog::refresh);
    refresh();
}

QWidget* PensDialog::make_nothing() {
    auto* out = new QWidget;
    auto* column = new QVBoxLayout(out);
    column->addStretch();
    auto* sign = new QLabel;
    sign->setPixmap(icon(QStringLiteral("pen-link")).pixmap(48, 48));
    sign->setAlignment(Qt::AlignCenter);
    column->addWidget(sign);
    auto* text = remark(tr("No pens nearby. Turn your pen on and hold it near this computer; it will appear here."));
    text->setAlignment(Qt::AlignCenter);
    column->addWidget(text);
    column->addStretch();
    return out;
}

QWidget* PensDialog::make_pairing() {
    auto* out = new QWidget;
    auto* column = new QVBoxLayout(out);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(10);
    pairing_name_ = dialog_heading({});
    column->addWidget(pairing_name_);
    auto* says =
        new QLabel(tr("To pair this pen, enter its passcode. It is on the card that came with the pen, unless "
                      "you have chosen another."));
    says->setWordWrap(true);
    column->addWidget(says);
    auto* row = new QHBoxLayout;
    passcode_ = new QLineEdit;
    passcode_->setObjectName(QStringLiteral("passcode"));
    passcode_->setPlaceholderText(tr("Passcode"));
    passcode_->setAccessibleName(tr("Passcode"));
    passcode_->setEchoMode(QLineEdit::PasswordEchoOnEdit);
    passcode_->setMaxLength(32);
    pair_ = new QPushButton(tr("Pair"));
    pair_->setProperty("primary", true);
    pair_->setDefault(true);
    row->addWidget(passcode_, 1);
    row->addWidget(pair_);
    column->addLayout(row);
    pairing_problem_ = new QLabel;
    pairing_problem_->setWordWrap(true);
    column->addWidget(pairing_problem_);
    column->addWidget(remark(
        tr("Ink in the pen's memory is then copied to its pages here. The pen deletes it only once it is saved.")));
    column->addStretch();
    connect(passcode_, &QLineEdit::textChanged, this,
            [this](const QString& text) { pair_->setEnabled(!text.trimmed().isEmpty()); });
    connect(pair_, &QPushButton::clicked, this, [this] {
        const ShownPen* pen = chosen();
        if (!pen || passcode_->text().trimmed().isEmpty()) return;
        pens_.pair(std::string(pen->pen.serial), passcode_->text().trimmed());
        pairing_problem_->setText(tr("Linking …"));
    });
    return out;
}

QWidget* PensDialog::make_pen() {
    auto* out = new QWidget;
    auto* column = new QVBoxLayout(out);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    name_ = dialog_heading({});
    standing_ = new QLabel;
    problem_ = new QLabel;
    problem_->setWordWrap(true);
    seen_ = remark({});
    column->addWidget(name_);
    column->addWidget(standing_);
    column->addWidget(problem_);
    auto* gauges = new QFormLayout;
    gauges->setHorizontalSpacing(16);
    gauges->setVerticalSpacing(8);
    gauges->setContentsMargins(0, 6, 0, 0);
    const auto add_gauge = [&](const QString& name, QProgressBar*& bar, QLabel*& text) {
        bar = gauge();
        bar->setAccessibleName(name);
        text = new QLabel;
        text->setMinimumWidth(120);
        auto* line = new QHBoxLayout;
        line->setSpacing(12);
        line->addWidget(bar, 1);
        line->addWidget(text);
        gauges->addRow(name, line);
    };
    add_gauge(tr("Battery"), battery_, battery_text_);
    add_gauge(tr("Memory"), memory_, memory_text_);
    column->addLayout(gauges);
    column->addWidget(seen_);
    column->addSpacing(6);
    settings_ = new QWidget;
    auto* form = new QFormLayout(settings_);
    form->setContentsMargins(0, 0, 0, 0);
    form->setHorizontalSpacing(16);
    sound_ = new QCheckBox(tr("Sounds"));
    power_off_ = new QComboBox;
    for (const int minutes : kPowerOffMinutes) power_off_->addItem(tr("after %n minute(s)", nullptr, minutes), minutes);
    sensitivity_ = new QSlider(Qt::Horizontal);
    sensitivity_->setRange(1, 5);
    sensitivity_->setPageStep(1);
    sensitivity_->setFixedHeight(26);
    sensitivity_->setAccessibleName(tr("Pressure it takes to write"));
    auto* touch = new QHBoxLayout;
    touch->setSpacing(10);
    touch->addWidget(new QLabel(tr("firm")));
    touch->addWidget(sensitivity_, 1);
    touch->addWidget(new QLabel(tr("light")));
    form->addRow(tr("Turns off"), power_off_);
    form->addRow(tr("Pressure to write"), touch);
    form->addRow(QString(), sound_);
    column->addWidget(settings_);
    settings_when_ = remark(tr("A pen's settings can be changed while it is linked."));
    column->addWidget(settings_when_);
    column->addStretch();
    auto* foot = new QHBoxLayout;
    foot->addStretch();
    forget_ = new QPushButton(tr("Forget this pen …"));
    forget_->setProperty("secondary", true);
    forget_->setAutoDefault(false);
    foot->addWidget(forget_);
    column->addLayout(foot);
    connect(sound_, &QCheckBox::toggled, this, &PensDialog::change_settings);
    connect(power_off_, &QComboBox::activated, this, &PensDialog::change_settings);
    connect(sensitivity_, &QSlider::valueChanged, this, &PensDialog::change_settings);
    connect(forget_, &QPushButton::clicked, this, &PensDialog::ask_to_forget);
    return out;
}

const ShownPen* PensDialog::chosen() const {
    const QListWidgetItem* item = list_->currentItem();
    if (!item) return nullptr;
    const std::string serial = item->data(Qt::UserRole).toString().toStdString();
    for (const ShownPen& pen : pens_.pens())
        if (pen.pen.serial == serial) return &pen;
    return nullptr;
}

void PensDialog::refresh() {
    filling_ = true;
    const QString before = list_->currentItem() ? list_->currentItem()->data(Qt::UserRole).toString() : QString();
    int current = -1, fresh = -1;
    while (list_->count() > static_cast<int>(pens_.pens().size())) delete list_->takeItem(list_->count() - 1);
    for (size_t i = 0; i < pens_.pens().size(); ++i) {
        const ShownPen& pen = pens_.pens()[i];
        const int at = static_cast<int>(i);
        if (at == list_->count()) list_->addItem(new QListWidgetItem);
        QListWidgetItem* item = list_->item(at);
        const QString serial = QString::fromStdString(pen.pen.serial);
        item->setText(QString::fromStdString(pen.pen.name) + '\n' + standing_of(pen));
        item->setIcon(icon(QStringLiteral("pen-link")));
        item->setSizeHint({kListWidth - 20, 48});
        item->setData(Qt::UserRole, serial);
        if (serial == before) current = at;
        if (fresh < 0 && pen.near) fresh = at;
    }
    if (current < 0) current = fresh >= 0 ? fresh : list_->count() - 1;
    list_->setCurrentRow(current);
    list_->setVisible(list_->count() > 0);
    filling_ = false;
    show_pen();
}

void PensDialog::show_pen() {
    const ShownPen* pen = chosen();
    if (!pen) return stack_->setCurrentIndex(static_cast<int>(Shown::none));
    const QString name = QString::fromStdString(pen->pen.name);
    if (!pen->paired) {
        if (shown() != Shown::pairing || pairing_name_->text() != name) {
            passcode_->clear();
            pair_->setEnabled(false);
            pairing_problem_->clear();
        }
        pairing_name_->setText(name);
        const QString colour = theme().unsure.name();
        if (pen->wrong_passcode)
            pairing_problem_->setText(
                QStringLiteral("<span style='color:%1'>%2</span>")
                    .arg(colour, tr("Wrong passcode. %n attempt(s) left.", nullptr, pen->tries_left)));
        else if (!pen->problem.isEmpty())
            pairing_problem_->setText(
                QStringLiteral("<span style='color:%1'>%2</span>").arg(colour, pen->problem.toHtmlEscaped()));
        else if (pen->stage == LinkStage::locked)
            pairing_problem_->clear();
        const bool first = shown() != Shown::pairing;
        stack_->setCurrentIndex(static_cast<int>(Shown::pairing));
        if (first || pen->wrong_passcode) passcode_->setFocus();
        if (pen->wrong_passcode) passcode_->selectAll();
        return;
    }
    name_->setText(name);
    standing_->setText(pen->linked() && pen->taken > 0
                           ? standing_of(*pen) + QStringLiteral(" · ") +
                                 tr("%n stroke(s) received", nullptr, static_cast<int>(pen->taken))
                           : standing_of(*pen));
    problem_->setVisible(!pen->problem.isEmpty());
    problem_->setText(
        QStringLiteral("<span style='color:%1'>%2</span>").arg(theme().unsure.name(), pen->problem.toHtmlEscaped()));
    const PenState& state = pen->pen.state;
    battery_->setValue(state.battery);
    battery_text_->setText(state.battery <= kLowBattery ? tr("%1 %, charge it soon").arg(state.battery)
                                                        : tr("%1 %").arg(state.battery));
    memory_->setValue(state.room_kb == 0 ? 0 : static_cast<int>(100.0 * state.used_kb / state.room_kb));
    memory_text_->setText(state.room_kb == 0   ? tr("not known yet")
                          : state.used_kb == 0 ? tr("empty, holds %1").arg(size_of(state.room_kb))
                                               : tr("%1 of %2").arg(size_of(state.used_kb), size_of(state.room_kb)));
    seen_->setVisible(!pen->linked() && pen->pen.seen_ms > 0);
    seen_->setText(
        tr("Last seen %1")
            .arg(QLocale().toString(QDateTime::fromMSecsSinceEpoch(pen->pen.seen_ms), QLocale::ShortFormat)));
    settings_->setVisible(pen->linked());
    settings_when_->setVisible(!pen->linked());
    {
        const QSignalBlocker quiet_sound(sound_), quiet_off(power_off_), quiet_touch(sensitivity_);
        sound_->setChecked(state.settings.sound);
        const auto nearest = std::ranges::min_element(kPowerOffMinutes, {}, [&](int minutes) {
            return std::abs(minutes - static_cast<int>(state.settings.power_off_minutes));
        });
        power_off_->setCurrentIndex(static_cast<int>(nearest - kPowerOffMinutes.begin()));
        if (!sensitivity_->isSliderDown()) sensitivity_->setValue(state.settings.sensitivity);
    }
    stack_->setCurrentIndex(static_cast<int>(Shown::pen));
}

void PensDialog::change_settings() {
    const ShownPen* pen = chosen();
    if (!pen || !pen->linked()) return;
    PenSettings settings;
    settings.sound = sound_->isChecked();
    settings.power_off_minutes = static_cast<uint8_t>(power_off_->currentData().toInt());
    settings.sensitivity = static_cast<uint8_t>(sensitivity_->value());
    pens_.change_settings(std::string(pen->pen.serial), settings);
}

void PensDialog::ask_to_forget() {
    const ShownPen* pen = chosen();
    if (!pen) return;
    const std::string serial = pen->pen.serial;
    QMessageBox ask(this);
    ask.setWindowTitle(tr("Forget this pen"));
    ask.setText(tr("Forget %1?").arg(QString::fromStdString(pen->pen.name)));
    ask.setInformativeText(tr("To use it again, pair it again. Everything it wrote stays in your notebooks."));
    auto* forget = ask.addButton(tr("Forget"), QMessageBox::AcceptRole);
    ask.addButton(QMessageBox::Cancel);
    ask.exec();
    if (ask.clickedButton() == forget) pens_.forget(serial);
}

}  // namespace fernleaf
