// Recording a voice track: what the microphone hears goes onto the disk as it comes, whatever page is open.
//
// Sound is coded and kept on a thread of its own (sound/recorder.h); a kill loses less than a second.
#pragma once

#include <QObject>
#include <QTimer>
#include <memory>

#include "desk/desk.h"
#include "desk/sound_devices.h"
#include "sound/voice_track.h"

namespace fernleaf {

// UI thread only.
class RecordingDesk : public Desk {
    Q_OBJECT

public:
    explicit RecordingDesk(const DeskParts& parts, QObject* parent = nullptr);
    ~RecordingDesk() override;  // ends what is recorded, and keeps it

    // Which devices there are; tests bring their own before anything is recorded.
    void set_devices(std::shared_ptr<const SoundDevices> devices) { devices_ = std::move(devices); }
    const SoundDevices& devices();
    static QByteArray chosen_device();
    void choose_device(const QByteArray& id);  // from the next recording on

    void begin();  // a problem says why it can't
    void pause(bool paused);
    void end();
    void toggle() { recording() ? end() : begin(); }
    bool recording() const { return state_ != State::none; }
    bool paused() const { return state_ == State::paused; }
    int64_t length_ms() const { return length_ms_; }
    double level() const { return level_; }  // 0 to 1, of the last tenth of a second
    // For tests and the end of the program: returns when all that was heard is on disk.
    void wait_idle();

signals:
    void changed();  // begun, paused, ended
    void heard();    // length and level
    void kept();     // a track is in the library that was not, or is longer

private:
    enum class State { none, running, paused };
    struct Job;
    void take(const Samples& samples, int64_t arrived_ms);
    void stop(const QString& why);

    std::shared_ptr<const SoundDevices> devices_;
    std::unique_ptr<SoundInput> input_;
    std::shared_ptr<Job> job_;  // on the sound's thread, but for who holds it
    State state_ = State::none;
    int64_t length_ms_ = 0;
    double level_ = 0;
    std::unique_ptr<Worker> sound_thread_;
};

}  // namespace fernleaf
