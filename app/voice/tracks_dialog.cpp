#include "voice/tracks_dialog.h"

#include <QDateTime>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLocale>
#include <QMenu>
#include <QSettings>
#include <QVBoxLayout>

#include "look/dialog_parts.h"
#include "voice/track_name.h"

namespace fernleaf {
namespace {

constexpr double kMostShiftSeconds = 86'400;

QPushButton* button(const QString& text, bool primary = false) {
    auto* out = new QPushButton(text);
    out->setProperty(primary ? "primary" : "secondary", true);
    out->setAutoDefault(false);
    return out;
}

}  // namespace

TracksDialog::TracksDialog(Session& session, QWidget* parent) : QDialog(parent), session_(session) {
    setWindowTitle(tr("Voice tracks"));
    resize(640, 460);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 16);
    column->setSpacing(12);
    auto* top = new QHBoxLayout;
    top->addWidget(dialog_heading(tr("Voice tracks")));
    top->addStretch();
    device_ = button(tr("Microphone"));
    device_->setMenu(new QMenu(device_));
    record_ = button(tr("Record"));
    record_->setIcon(icon(QStringLiteral("record")));
    import_ = button(tr("Import …"));
    for (QPushButton* b : {import_, device_, record_}) top->addWidget(b);
    column->addLayout(top);
    empty_ = remark(
        tr("Nothing recorded yet. Record while you write, or while a smart pen does; then tap what was written to hear "
           "what was said."));
    column->addWidget(empty_);
    list_ = new QListWidget;
    list_->setAccessibleName(tr("Voice tracks"));
    column->addWidget(list_, 1);
    auto* row = new QHBoxLayout;
    more_ = button(tr("Edit"));
    more_->setMenu(new QMenu(more_));
    play_ = button(tr("Play"), true);
    play_->setDefault(true);
    auto* close = button(tr("Close"));
    row->addWidget(more_);
    row->addStretch();
    row->addWidget(close);
    row->addWidget(play_);
    column->addLayout(row);
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(play_, &QPushButton::clicked, this, &TracksDialog::play);
    connect(list_, &QListWidget::itemActivated, this, &TracksDialog::play);
    connect(list_, &QListWidget::currentRowChanged, this, &TracksDialog::show_chosen);
    connect(record_, &QPushButton::clicked, this, &TracksDialog::record);
    connect(import_, &QPushButton::clicked, this, &TracksDialog::ask_import);
    connect(more_->menu(), &QMenu::aboutToShow, this, &TracksDialog::fill_more);
    connect(device_->menu(), &QMenu::aboutToShow, this, &TracksDialog::fill_devices);
    connect(&session_.tracks(), &TracksDesk::changed, this, &TracksDialog::refresh);
    record_->setEnabled(!session_.read_only() && !session_.recording().recording());
    import_->setEnabled(!session_.read_only());
    refresh();
}

const VoiceTrack* TracksDialog::chosen() const {
    const QListWidgetItem* item = list_->currentItem();
    return item ? session_.tracks().track(item->data(Qt::UserRole).toLongLong()) : nullptr;
}

void TracksDialog::refresh() {
    const QListWidgetItem* was = list_->currentItem();
    const TrackId before = was ? was->data(Qt::UserRole).toLongLong() : 0;
    list_->clear();
    for (const VoiceTrack& t : session_.tracks().tracks()) {
        const QDateTime began = QDateTime::fromMSecsSinceEpoch(when_at(t, 0));
        auto* item = new QListWidgetItem(tr("%1\n%2, %3")
                                             .arg(QString::fromStdString(t.name),
                                                  QLocale().toString(began.date(), QLocale::ShortFormat) +
                                                      QLocale().toString(began.time(), QStringLiteral(" HH:mm")),
                                                  clock_text(length_ms(t))));
        item->setData(Qt::UserRole, QVariant::fromValue<qlonglong>(t.id));
        list_->addItem(item);
        if (t.id == before) list_->setCurrentItem(item);
    }
    if (!list_->currentItem() && list_->count() > 0) list_->setCurrentRow(0);
    empty_->setVisible(list_->count() == 0);
    list_->setVisible(list_->count() > 0);
    show_chosen();
}

void TracksDialog::show_chosen() {
    const VoiceTrack* track = chosen();
    play_->setEnabled(track && !track->pieces.empty());
    more_->setEnabled(track && !session_.read_only());
}

void TracksDialog::play() {
    const VoiceTrack* track = chosen();
    if (!track) return;
    session_.listening().play_track(track->id, 0);
    accept();
}

void TracksDialog::record() {
    session_.recording().begin();
    accept();
}

void TracksDialog::fill_devices() {
    QMenu* menu = device_->menu();
    menu->clear();
    const std::vector<SoundDevice> there = session_.recording().devices().inputs();
    if (there.empty()) menu->addAction(tr("No microphone was found"))->setEnabled(false);
    QByteArray chosen = RecordingDesk::chosen_device();
    if (std::ranges::none_of(there, [&](const SoundDevice& d) { return d.id == chosen; }))
        chosen = there.empty() ? QByteArray() : there.front().id;
    for (const SoundDevice& d : there) {
        QAction* action = menu->addAction(d.name, this, [this, id = d.id] { session_.recording().choose_device(id); });
        action->setCheckable(true);
        action->setChecked(d.id == chosen);
    }
}

void TracksDialog::fill_more() {
    QMenu* menu = more_->menu();
    menu->clear();
    const VoiceTrack* track = chosen();
    if (!track) return;
    menu->addAction(tr("Rename …"), this, [this, id = track->id] { ask_track_name(this, session_.tracks(), id); });
    menu->addAction(tr("Shift in time …"), this, &TracksDialog::ask_shift);
    QMenu* join = menu->addMenu(tr("Join with"));
    for (const VoiceTrack& other : session_.tracks().tracks())
        if (other.id != track->id)
            join->addAction(QString::fromStdString(other.name), this,
                            [this, one = track->id, two = other.id] { session_.tracks().join(one, two); });
    join->setEnabled(!join->isEmpty());
    menu->addSeparator();
    menu->addAction(tr("Move to the bin"), this, [this, id = track->id] { session_.tracks().bin(id); });
}

void TracksDialog::ask_shift() {
    const VoiceTrack* track = chosen();
    if (!track) return;
    const TrackId id = track->id;
    bool yes = false;
    const double by = QInputDialog::getDouble(
        this, tr("Shift in time"), tr("Seconds by which to move the sound. Positive: later; negative: earlier."), 0,
        -kMostShiftSeconds, kMostShiftSeconds, 1, &yes, {}, 0.5);
    if (yes && by != 0) session_.tracks().shift(id, static_cast<int64_t>(by * 1000));
}

void TracksDialog::ask_import() {
    const QString path = QFileDialog::getOpenFileName(this, tr("Import sound"), QSettings().value("folder").toString(),
                                                      tr("Sound (*.opus *.ogg *.wav *.flac *.mp3 *.aiff *.au *.caf)"));
    if (path.isEmpty()) return;
    QSettings().setValue("folder", QFileInfo(path).absolutePath());
    session_.tracks().import_sound(path);
}

}  // namespace fernleaf
