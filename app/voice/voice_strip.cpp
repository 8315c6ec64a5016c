#include "voice/voice_strip.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLocale>
#include <QMenu>
#include <QSettings>
#include <QVBoxLayout>
#include <array>

#include "look/elided_label.h"
#include "look/theme.h"
#include "voice/track_name.h"

namespace fernleaf {
namespace {

constexpr std::array kSpeedsOfSound{0.5, 0.75, 1.0, 1.25, 1.5, 2.0};
constexpr std::array kSpeedsOfInk{1.0, 2.0, 4.0, 8.0, 16.0, 32.0, 64.0};

QString times(double speed) { return QLocale().toString(speed) + QStringLiteral(" ×"); }

}  // namespace

VoiceStrip::VoiceStrip(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName(QStringLiteral("voiceStrip"));
    setAttribute(Qt::WA_StyledBackground);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(16, 8, 12, 8);
    row->setSpacing(4);
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
    row->addSpacing(6);
    row->addLayout(says);
    row->addSpacing(6);
    band_ = new SoundBand(session_.listening());
    row->addWidget(band_, 1);
    row->addSpacing(4);
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

QToolButton* VoiceStrip::add_button(const QString& icon_name, const QString& tip) {
    auto* button = new QToolButton;
    if (!icon_name.isEmpty()) button->setProperty("icon_name", icon_name);
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    button->setIconSize({22, 22});
    layout()->addWidget(button);
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
