#include "voice/voice_strip.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLocale>
#include <QMenu>
#include <QSettings>
#include <QVBoxLayout>
#include <array>
#include <cmath>

#include "look/elided_label.h"
#include "look/theme.h"
#include "voice/track_name.h"

namespace fernleaf {
namespace {

constexpr std::array kSpeedsOfSound{0.5, 0.75, 1.0, 1.25, 1.5, 2.0};
constexpr std::array kShifts{-1.0, -0.1, 0.1, 1.0};  // seconds
constexpr std::array kSpeedsOfInk{1.0, 2.0, 4.0, 8.0, 16.0, 32.0, 64.0};

QString times(double speed) { return QLocale().toString(speed) + QStringLiteral(" ×"); }

}  // namespace

VoiceStrip::VoiceStrip(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName(QStringLiteral("voiceStrip"));
    setAttribute(Qt::WA_StyledBackground);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 8, 12, 8);
    column->setSpacing(6);
    match_row_ = make_match_row();
    column->addWidget(match_row_);
    row_ = new QHBoxLayout;
    row_->setSpacing(4);
    column->addLayout(row_);
    back_ = add_button(QStringLiteral("back-ten"), tr("Back 10 seconds"));
    play_ = add_button(QStringLiteral("play"), tr("Play or pause  (Alt+P)"));
    play_->setObjectName(QStringLiteral("playButton"));
    forward_ = add_button(QStringLiteral("forward-ten"), tr("Forward 10 seconds"));
    auto* says = new QVBoxLayout;
    says->setSpacing(0);
    name_ = new ElidedLabel;
    QFont strong = name_->font();
    strong.setWeight(QFont::DemiBold);
    name_->setFont(strong);
    name_->setMinimumWidth(130);
    name_->setMaximumWidth(190);
    time_ = new QLabel;
    says->addWidget(name_);
    says->addWidget(time_);
    row_->addSpacing(6);
    row_->addLayout(says);
    row_->addSpacing(6);
    band_ = new SoundBand(session_.listening());
    row_->addWidget(band_, 1);
    row_->addSpacing(4);
    speed_ = add_button({}, tr("Speed"));
    speed_->setPopupMode(QToolButton::InstantPopup);
    speed_->setMenu(new QMenu(speed_));
    speed_->setToolButtonStyle(Qt::ToolButtonTextOnly);
    speed_->setMinimumWidth(58);
    skip_ = add_button(QStringLiteral("skip-silence"), tr("Skip silence"));
    skip_->setCheckable(true);
    mark_ = add_button(QStringLiteral("bookmark"), tr("Add a bookmark here"));
    more_ = add_button(QStringLiteral("list"), tr("More"));
    more_->setPopupMode(QToolButton::InstantPopup);
    more_->setMenu(new QMenu(more_));
    close_ = add_button(QStringLiteral("close"), tr("Close  (Esc)"));
    auto* leave = new QAction(this);
    leave->setShortcut(Qt::Key_Escape);
    leave->setShortcutContext(Qt::WidgetWithChildrenShortcut);
    addAction(leave);

    ListeningDesk& desk = session_.listening();
    connect(back_, &QToolButton::clicked, &desk, [&desk] { desk.step(-kStepMs); });
    connect(forward_, &QToolButton::clicked, &desk, [&desk] { desk.step(kStepMs); });
    connect(play_, &QToolButton::clicked, &desk, [&desk] { desk.set_playing(!desk.playing()); });
    connect(skip_, &QToolButton::clicked, &desk, &ListeningDesk::set_skips_silence);
    connect(mark_, &QToolButton::clicked, this, &VoiceStrip::ask_bookmark);
    connect(close_, &QToolButton::clicked, &desk, &ListeningDesk::close);
    connect(leave, &QAction::triggered, &desk, &ListeningDesk::close);
    connect(speed_->menu(), &QMenu::aboutToShow, this, &VoiceStrip::fill_speeds);
    connect(more_->menu(), &QMenu::aboutToShow, this, &VoiceStrip::fill_more);
    connect(&desk, &ListeningDesk::opened, this, &VoiceStrip::show_all);
    connect(&desk, &ListeningDesk::changed, this, &VoiceStrip::show_all);
    connect(&desk, &ListeningDesk::moved, this, &VoiceStrip::show_time);
    show_all();
}

QWidget* VoiceStrip::make_match_row() {
    auto* out = new QWidget;
    auto* row = new QHBoxLayout(out);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    match_says_ = new QLabel(tr("Tap the ink you hear, or move the sound:"));
    row->addWidget(match_says_);
    ListeningDesk& desk = session_.listening();
    for (const double by : kShifts) {
        const QString seconds = QLocale().toString(std::abs(by));
        auto* button = new QPushButton((by < 0 ? QStringLiteral("−%1 s") : QStringLiteral("+%1 s")).arg(seconds));
        button->setToolTip(by < 0 ? tr("Move the sound %1 s earlier").arg(seconds)
                                  : tr("Move the sound %1 s later").arg(seconds));
        button->setAccessibleName(button->toolTip());
        button->setProperty("secondary", true);
        connect(button, &QPushButton::clicked, &desk,
                [&desk, by] { desk.try_shift(static_cast<int64_t>(std::lround(by * 1000))); });
        row->addWidget(button);
    }
    shift_ = new QLabel;
    row->addWidget(shift_);
    row->addStretch();
    keep_ = new QPushButton(tr("Keep"));
    cancel_ = new QPushButton(tr("Cancel"));
    cancel_->setProperty("secondary", true);
    keep_->setProperty("primary", true);
    row->addWidget(cancel_);
    row->addWidget(keep_);
    connect(keep_, &QPushButton::clicked, &desk, [&desk] { desk.end_matching(true); });
    connect(cancel_, &QPushButton::clicked, &desk, [&desk] { desk.end_matching(false); });
    return out;
}

QToolButton* VoiceStrip::add_button(const QString& icon_name, const QString& tip) {
    auto* button = new QToolButton;
    if (!icon_name.isEmpty()) button->setProperty("icon_name", icon_name);
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    button->setIconSize({22, 22});
    row_->addWidget(button);
    return button;
}

void VoiceStrip::restyle() {
    setStyleSheet(QStringLiteral("#voiceStrip { background: %1; border-top: 1px solid %2; }")
                      .arg(theme().ground.name(), theme().line.name()));
    time_->setStyleSheet(QStringLiteral("color: %1").arg(theme().quiet_text.name()));
    const auto buttons = findChildren<QToolButton*>();
    for (QToolButton* b : buttons)
        if (const QString name = b->property("icon_name").toString(); !name.isEmpty()) b->setIcon(icon(name));
    band_->update();
}

void VoiceStrip::show_all() {
    const ListeningDesk& desk = session_.listening();
    setVisible(desk.open());
    if (!desk.open()) return;
    const bool track = desk.track() != nullptr;
    match_row_->setVisible(desk.matching());
    const int64_t by = desk.tried_shift_ms();
    const QString seconds = QLocale().toString(static_cast<double>(std::abs(by)) / 1000, 'f', 1);
    shift_->setText(by == 0  ? tr("Not moved yet")
                    : by < 0 ? tr("%1 s earlier").arg(seconds)
                             : tr("%1 s later").arg(seconds));
    keep_->setEnabled(by != 0);
    name_->setText(track ? QString::fromStdString(desk.track()->name) : tr("Replay of this page"));
    play_->setProperty("icon_name", desk.playing() ? QStringLiteral("pause") : QStringLiteral("play"));
    skip_->setChecked(desk.skips_silence());
    for (QToolButton* b : {skip_, mark_, more_}) b->setVisible(track);
    mark_->setEnabled(!session_.read_only());
    speed_->setText(times(desk.speed()));
    restyle();
    show_time();
}

void VoiceStrip::show_time() {
    const ListeningDesk& desk = session_.listening();
    time_->setText(tr("%1 of %2").arg(clock_text(desk.position_ms()), clock_text(desk.length_ms())));
}

void VoiceStrip::fill_speeds() {
    QMenu* menu = speed_->menu();
    menu->clear();
    ListeningDesk& desk = session_.listening();
    const auto add = [&](double speed) {
        QAction* action = menu->addAction(times(speed), &desk, [&desk, speed] { desk.set_speed(speed); });
        action->setCheckable(true);
        action->setChecked(speed == desk.speed());
    };
    if (desk.track())
        for (const double s : kSpeedsOfSound) add(s);
    else
        for (const double s : kSpeedsOfInk) add(s);
}

void VoiceStrip::fill_more() {
    QMenu* menu = more_->menu();
    menu->clear();
    ListeningDesk& desk = session_.listening();
    const VoiceTrack* track = desk.track();
    if (!track) return;
    const bool may = !session_.read_only();
    TracksDesk& tracks = session_.tracks();
    if (!track->bookmarks.empty()) {
        QMenu* marks = menu->addMenu(tr("Bookmarks"));
        for (const Bookmark& b : track->bookmarks) {
            const auto position = position_of(*track, b.at_ms);
            if (!position) continue;
            const QString name = b.name.empty() ? tr("Bookmark") : QString::fromStdString(b.name);
            marks->addAction(QStringLiteral("%1  %2").arg(clock_text(*position), name), &desk,
                             [&desk, at = *position] { desk.seek(at); });
        }
        QMenu* remove = menu->addMenu(tr("Remove bookmark"));
        remove->setEnabled(may);
        for (const Bookmark& b : track->bookmarks)
            remove->addAction(b.name.empty() ? tr("Bookmark") : QString::fromStdString(b.name), &tracks,
                              [&tracks, id = track->id, b] { tracks.remove_bookmark(id, b); });
        menu->addSeparator();
    }
    menu->addAction(tr("Rename …"), this, [this, id = track->id] { ask_track_name(this, session_.tracks(), id); })
        ->setEnabled(may);
    menu->addAction(tr("Trim everything before this moment"), &tracks,
                    [&tracks, &desk] { tracks.trim(desk.track()->id, desk.position_ms(), desk.length_ms()); })
        ->setEnabled(may && desk.position_ms() > 0);
    menu->addAction(tr("Trim everything after this moment"), &tracks,
                    [&tracks, &desk] { tracks.trim(desk.track()->id, 0, desk.position_ms()); })
        ->setEnabled(may && desk.position_ms() > 0);
    menu->addAction(tr("Match sound to ink …"), this,
                    [this, &desk] {
                        desk.begin_matching();
                        if (desk.matching()) emit matching();
                    })
        ->setEnabled(may);
    menu->addAction(tr("Export sound …"), this, &VoiceStrip::ask_export);
    menu->addAction(tr("Export page with sound …"), this, &VoiceStrip::ask_page_export)
        ->setEnabled(desk.replay() != nullptr);
    menu->addSeparator();
    menu->addAction(tr("Move to the bin"), &tracks, [&tracks, id = track->id] { tracks.bin(id); })->setEnabled(may);
}

void VoiceStrip::ask_bookmark() {
    ListeningDesk& desk = session_.listening();
    if (!desk.track()) return;
    const TrackId id = desk.track()->id;
    const int64_t at = desk.position_ms();
    bool yes = false;
    const QString name = QInputDialog::getText(
        this, tr("Bookmark"), tr("Name of the bookmark at %1:").arg(clock_text(at)), QLineEdit::Normal, {}, &yes);
    if (yes) session_.tracks().add_bookmark(id, at, name);
}

// Empty: nothing was chosen.
QString VoiceStrip::ask_path(const QString& title, const QString& ending, const QString& kinds) {
    QString usual = QString::fromStdString(session_.listening().track()->name);
    usual.replace(QLatin1Char('/'), QLatin1Char('-'));
    QString path =
        QFileDialog::getSaveFileName(this, title, QSettings().value("folder").toString() + "/" + usual + ending, kinds);
    if (!path.isEmpty()) QSettings().setValue("folder", QFileInfo(path).absolutePath());
    return path;
}

void VoiceStrip::ask_export() {
    if (!session_.listening().track()) return;
    const TrackId id = session_.listening().track()->id;
    const QString path =
        ask_path(tr("Export sound"), QStringLiteral(".opus"), tr("Opus (*.opus);;WAV (*.wav);;FLAC (*.flac)"));
    if (!path.isEmpty()) session_.tracks().export_track(id, path);
}

void VoiceStrip::ask_page_export() {
    if (!session_.listening().track() || !session_.page()) return;
    const TrackId id = session_.listening().track()->id;
    const PageId page = session_.page()->info.id;
    const QString path = ask_path(tr("Export page with sound"), QStringLiteral(".html"), tr("Web page (*.html)"));
    if (!path.isEmpty()) session_.tracks().export_page(id, page, path);
}

}  // namespace fernleaf
