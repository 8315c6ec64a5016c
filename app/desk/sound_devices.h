// Microphones and speakers, behind an interface: the machine's own through Qt Multimedia, or a stand-in that plays a
// file as the microphone and lets time pass for a speaker. UI thread only.
#pragma once

#include <QByteArray>
#include <QObject>
#include <QString>
#include <filesystem>
#include <functional>
#include <memory>
#include <span>
#include <vector>

namespace fernleaf {

struct SoundDevice {
    QByteArray id;
    QString name;
};

using Samples = std::shared_ptr<const std::vector<float>>;  // one channel at kSoundRate

class SoundInput : public QObject {
    Q_OBJECT

public:
    // What it hears is told from now on; false where it can't be opened.
    virtual bool start() = 0;
    virtual void stop() = 0;

signals:
    void heard(const fernleaf::Samples& samples, int64_t arrived_ms);
    void lost();  // it was unplugged, or gives nothing any more
};

class SoundOutput : public QObject {
    Q_OBJECT

public:
    // Fills as much as there is, and gives how much; called on any thread.
    using Pull = std::function<size_t(std::span<float>)>;
    virtual bool start(Pull pull) = 0;
    virtual void stop() = 0;
    virtual size_t waiting() const = 0;  // frames that were pulled and are not heard yet
    virtual bool audible() const = 0;

signals:
    void lost();
};

class SoundDevices {
public:
    virtual ~SoundDevices() = default;
    virtual std::vector<SoundDevice> inputs() const = 0;  // the usual one first
    // Null where there is none. An id that is not there any more: the usual one.
    virtual std::unique_ptr<SoundInput> input(const QByteArray& id) const = 0;
    virtual std::unique_ptr<SoundOutput> output() const = 0;  // never null: without a speaker time passes in silence
};

std::unique_ptr<SoundDevices> machine_sound();
// The microphone hears the file, again and again; null id and no name where it is empty: there is no microphone.
std::unique_ptr<SoundDevices> stand_in_sound(const std::filesystem::path& heard);
// The stand-in where FERNLEAF_SOUND names a file, else the machine's.
std::unique_ptr<SoundDevices> usual_sound();

}  // namespace fernleaf
