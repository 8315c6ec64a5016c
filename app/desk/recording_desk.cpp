#include "desk/recording_desk.h"

#include <QDateTime>
#include <QLocale>
#include <QSettings>

#include "desk/text_of.h"
#include "sound/recorder.h"

namespace fernleaf {
namespace {

const QString kDeviceKey = QStringLiteral("microphone");
constexpr int kSyncsForTheLibrary = 2;  // a second

}  // namespace

struct RecordingDesk::Job {
    NewRecording recording;
    std::unique_ptr<Recorder> recorder;
    int known = 0;  // to the library: of the recorder's syncs
    bool failed = false;

    Status take(Library& library, const std::vector<float>& samples, int64_t arrived_ms) {
        if (failed) return Done{};
        Status taken = recorder->take(samples, arrived_ms);
        if (taken && recorder->synced() - known >= kSyncsForTheLibrary) {
            known = recorder->synced();
            taken = library.keep_recording(recording, recorder->pieces(), recorder->levels(), false);
        }
        failed = !taken;
        return taken;
    }
    Status finish(Library& library) {
        const Status finished = recorder->finish();
        Status kept = library.keep_recording(recording, recorder->pieces(), recorder->levels(), true);
        return failed ? Status(Done{}) : !finished ? finished : kept;  // what failed before was told
    }
};

RecordingDesk::RecordingDesk(const DeskParts& parts, QObject* parent)
    : Desk(parts, parent), sound_thread_(std::make_unique<Worker>(parts.messages.teller())) {}

RecordingDesk::~RecordingDesk() {
    end();
    sound_thread_.reset();
}

const SoundDevices& RecordingDesk::devices() {
    if (!devices_) devices_ = usual_sound();
    return *devices_;
}

QByteArray RecordingDesk::chosen_device() { return QSettings().value(kDeviceKey).toByteArray(); }
void RecordingDesk::choose_device(const QByteArray& id) { QSettings().setValue(kDeviceKey, id); }

void RecordingDesk::begin() {
    if (recording() || !editing_.may_change()) return;
    input_ = devices().input(chosen_device());
    if (!input_) {
        return messages_.tell_problem(
            tr("No microphone was found. Connect one, or check the desktop's sound settings, then try again."));
    }
    state_ = State::running;
    length_ms_ = 0, level_ = 0;
    job_ = std::make_shared<Job>();
    connect(input_.get(), &SoundInput::heard, this, &RecordingDesk::take);
    connect(input_.get(), &SoundInput::lost, this,
            [this] { stop(tr("The microphone was disconnected. What was recorded up to then is saved.")); });
    emit changed();
    const QString day = QLocale().toString(QDate::currentDate(), QLocale::ShortFormat);
    const QString name = document_.page() ? QString::fromStdString(document_.notebook().title) + ", " + day : day;
    sound_thread_->ask(
        this,
        [this, job = job_, name = name.toStdString()]() -> Status {
            auto recording = library_.begin_recording(name);
            if (!recording) return recording.error();
            job->recording = *recording;
            auto recorder = Recorder::begin(recording->path, recording->sound);
            if (!recorder) {
                static_cast<void>(library_.keep_recording(*recording, {}, {}, true));
                return recorder.error();
            }
            job->recorder = *std::move(recorder);
            return Done{};
        },
        [this, job = job_](const Status& begun) {
            if (job != job_ || !input_) return;
            if (!begun) return stop(text_of(begun.error()));
            if (!input_->start())
                return stop(
                    tr("The microphone can't be used; another program may be using it. Choose another microphone or "
                       "try again."));
            emit kept();
        });
}

void RecordingDesk::take(const Samples& samples, int64_t arrived_ms) {
    if (state_ == State::none) return;
    level_ = loudness(std::span(*samples).last(std::min<size_t>(samples->size(), kSoundRate / 10))) / 255.0;
    if (state_ == State::paused) return emit heard();
    length_ms_ += static_cast<int64_t>(samples->size()) * 1000 / kSoundRate;
    emit heard();
    sound_thread_->ask(
        this, [this, job = job_, samples, arrived_ms]() -> Status { return job->take(library_, *samples, arrived_ms); },
        [this, job = job_](const Status& taken) {
            if (!taken && job == job_)
                stop(tr("Recording stopped. %1 What was recorded up to then is saved.").arg(text_of(taken.error())));
        });
}

void RecordingDesk::pause(bool paused) {
    if (!recording() || paused == this->paused()) return;
    state_ = paused ? State::paused : State::running;
    sound_thread_->post([job = job_, paused] {
        if (job->recorder) job->recorder->pause(paused);
    });
    emit changed();
}

void RecordingDesk::end() { stop({}); }

void RecordingDesk::stop(const QString& why) {
    if (!recording()) return;
    if (input_) {
        input_->stop();  // gives what it still holds
        input_->disconnect(this);
        input_.release()->deleteLater();  // it may be telling something right now
    }
    state_ = State::none;
    sound_thread_->ask(
        this,
        [this, job = std::exchange(job_, nullptr)]() -> Status {
            return job->recorder ? job->finish(library_) : Status(Done{});
        },
        [this](const Status& finished) {
            if (!finished) messages_.tell_problem(finished.error());
            emit kept();
        });
    if (!why.isEmpty()) messages_.tell_problem(why);
    emit changed();
}

void RecordingDesk::wait_idle() { sound_thread_->wait_idle(); }

}  // namespace fernleaf
