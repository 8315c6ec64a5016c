#include "desk/sound_devices.h"

#include <QAudioDevice>
#include <QAudioSink>
#include <QAudioSource>
#include <QElapsedTimer>
#include <QIODevice>
#include <QMediaDevices>
#include <QTimer>
#include <cstring>

#include "base/now.h"
#include "sound/sound_file.h"

namespace fernleaf {
namespace {

constexpr int kInputBufferMs = 2000;  // what the machine keeps while the window is busy
constexpr int kOutputBufferMs = 120;
constexpr int kTickMs = 20;
constexpr int kSilentMs = 5000;  // a microphone that gives nothing for so long is gone

// What devices are asked for, the best first; others are brought to ours.
std::vector<QAudioFormat> formats() {
    std::vector<QAudioFormat> out;
    for (const auto sample : {QAudioFormat::Float, QAudioFormat::Int16})
        for (const int channels : {1, 2}) {
            QAudioFormat format;
            format.setSampleRate(kSoundRate);
            format.setSampleFormat(sample);
            format.setChannelCount(channels);
            out.push_back(format);
        }
    return out;
}

bool usable(const QAudioDevice& device, QAudioFormat& format) {
    for (const QAudioFormat& f : formats()) {
        if (!device.isFormatSupported(f)) continue;
        format = f;
        return true;
    }
    return false;
}

class MachineInput : public SoundInput {
public:
    explicit MachineInput(QAudioDevice device) : device_(std::move(device)) {
        watchdog_.setInterval(kSilentMs);
        connect(&watchdog_, &QTimer::timeout, this, [this] {
            if (!take()) emit lost();  // what came while the computer slept is heard first
        });
        connect(&devices_, &QMediaDevices::audioInputsChanged, this, [this] {
            const auto there = QMediaDevices::audioInputs();
            if (std::ranges::none_of(there, [this](const QAudioDevice& d) { return d.id() == device_.id(); }))
                emit lost();
        });
    }
    bool start() override {
        if (!usable(device_, format_)) return false;
        source_ = std::make_unique<QAudioSource>(device_, format_);
        source_->setBufferSize(format_.bytesForDuration(qint64{kInputBufferMs} * 1000));
        connect(source_.get(), &QAudioSource::stateChanged, this, [this](QAudio::State state) {
            if (state == QAudio::StoppedState && source_->error() != QAudio::NoError) emit lost();
        });
        bytes_ = source_->start();
        if (!bytes_) return false;
        connect(bytes_, &QIODevice::readyRead, this, &MachineInput::take);
        watchdog_.start();
        return true;
    }
    void stop() override {
        watchdog_.stop();
        if (!source_) return;
        take();
        source_->disconnect(this);
        source_->stop();
        source_.reset();
        bytes_ = nullptr;
    }

private:
    // False: nothing has come.
    bool take() {
        if (!bytes_) return false;
        pending_ += bytes_->readAll();
        const int64_t now = now_ms();
        const int channels = format_.channelCount(), each = format_.bytesPerFrame();
        const auto frames = static_cast<size_t>(pending_.size() / each);
        if (frames == 0) return false;
        watchdog_.start();
        auto samples = std::make_shared<std::vector<float>>(frames);
        for (size_t i = 0; i < frames; ++i) {
            float sum = 0;
            for (int c = 0; c < channels; ++c)
                sum += format_.normalizedSampleValue(pending_.constData() + static_cast<qsizetype>(i) * each +
                                                     static_cast<qsizetype>(c) * format_.bytesPerSample());
            (*samples)[i] = sum / static_cast<float>(channels);
        }
        pending_.remove(0, static_cast<qsizetype>(frames) * each);
        emit heard(samples, now);
        return true;
    }

    QMediaDevices devices_;
    QAudioDevice device_;
    QAudioFormat format_;
    std::unique_ptr<QAudioSource> source_;
    QIODevice* bytes_ = nullptr;
    QByteArray pending_;
    QTimer watchdog_;
};

// Bytes for a speaker, pulled as samples.
class Pulled : public QIODevice {
public:
    Pulled(SoundOutput::Pull pull, const QAudioFormat& format) : pull_(std::move(pull)), format_(format) {
        open(QIODevice::ReadOnly);
    }
    bool isSequential() const override { return true; }
    qint64 bytesAvailable() const override { return 1 << 20; }

protected:
    qint64 readData(char* data, qint64 most) override {
        const int each = format_.bytesPerFrame(), channels = format_.channelCount();
        samples_.resize(static_cast<size_t>(most / each));
        const size_t got = pull_(samples_);
        // Silence while nothing is ready: a speaker that is given nothing stops.
        std::fill(samples_.begin() + static_cast<std::ptrdiff_t>(got), samples_.end(), 0.0F);
        char* at = data;
        for (const float s : samples_)
            for (int c = 0; c < channels; ++c) {
                if (format_.sampleFormat() == QAudioFormat::Float) {
                    std::memcpy(at, &s, sizeof s);
                } else {
                    const auto whole = static_cast<int16_t>(std::clamp(s, -1.0F, 1.0F) * 32767);
                    std::memcpy(at, &whole, sizeof whole);
                }
                at += format_.bytesPerSample();
            }
        return at - data;
    }
    qint64 writeData(const char*, qint64) override { return -1; }

private:
    SoundOutput::Pull pull_;
    QAudioFormat format_;
    std::vector<float> samples_;
};

// Takes sound as fast as it would be heard.
class SilentOutput : public SoundOutput {
public:
    SilentOutput() {
        timer_.setInterval(kTickMs);
        timer_.setTimerType(Qt::PreciseTimer);
        connect(&timer_, &QTimer::timeout, this, [this] {
            const qint64 due = clock_.elapsed() * kSoundRate / 1000;
            std::vector<float> heard(static_cast<size_t>(std::max<qint64>(0, due - taken_)));
            pull_(heard);
            taken_ = due;
        });
    }
    bool start(Pull pull) override {
        pull_ = std::move(pull);
        taken_ = 0;
        clock_.start();
        timer_.start();
        return true;
    }
    void stop() override { timer_.stop(); }
    size_t waiting() const override { return 0; }
    bool audible() const override { return false; }

private:
    Pull pull_;
    QTimer timer_;
    QElapsedTimer clock_;
    qint64 taken_ = 0;
};

class MachineOutput : public SoundOutput {
public:
    explicit MachineOutput(QAudioDevice device) : device_(std::move(device)) {}
    bool start(Pull pull) override {
        if (!usable(device_, format_)) return false;
        sink_ = std::make_unique<QAudioSink>(device_, format_);
        sink_->setBufferSize(format_.bytesForDuration(qint64{kOutputBufferMs} * 1000));
        connect(sink_.get(), &QAudioSink::stateChanged, this, [this](QAudio::State state) {
            if (state == QAudio::StoppedState && sink_->error() != QAudio::NoError) emit lost();
        });
        pulled_ = std::make_unique<Pulled>(std::move(pull), format_);
        sink_->start(pulled_.get());
        return sink_->error() == QAudio::NoError;
    }
    void stop() override {
        if (!sink_) return;
        sink_->disconnect(this);
        sink_->stop();
        sink_.reset();
        pulled_.reset();
    }
    size_t waiting() const override {
        if (!sink_) return 0;
        return static_cast<size_t>(std::max<qsizetype>(0, sink_->bufferSize() - sink_->bytesFree()) /
                                   format_.bytesPerFrame());
    }
    bool audible() const override { return true; }

private:
    QAudioDevice device_;
    QAudioFormat format_;
    std::unique_ptr<Pulled> pulled_;
    std::unique_ptr<QAudioSink> sink_;
};

class MachineSound : public SoundDevices {
public:
    std::vector<SoundDevice> inputs() const override {
        std::vector<SoundDevice> out;
        const QByteArray usual = QMediaDevices::defaultAudioInput().id();
        const auto there = QMediaDevices::audioInputs();
        for (const QAudioDevice& d : there) {
            const SoundDevice device{d.id(), d.description()};
            out.insert(d.id() == usual ? out.begin() : out.end(), device);
        }
        return out;
    }
    std::unique_ptr<SoundInput> input(const QByteArray& id) const override {
        QAudioDevice chosen = QMediaDevices::defaultAudioInput();
        const auto there = QMediaDevices::audioInputs();
        for (const QAudioDevice& d : there)
            if (d.id() == id) chosen = d;
        if (chosen.isNull()) return nullptr;
        return std::make_unique<MachineInput>(chosen);
    }
    std::unique_ptr<SoundOutput> output() const override {
        const QAudioDevice usual = QMediaDevices::defaultAudioOutput();
        if (usual.isNull()) return std::make_unique<SilentOutput>();
        return std::make_unique<MachineOutput>(usual);
    }
};

class FileInput : public SoundInput {
public:
    explicit FileInput(std::filesystem::path path) : path_(std::move(path)) {
        timer_.setInterval(kTickMs);
        timer_.setTimerType(Qt::PreciseTimer);
        connect(&timer_, &QTimer::timeout, this, &FileInput::give);
    }
    bool start() override {
        auto reader = SoundReader::open(path_);
        if (!reader) return false;
        reader_ = *std::move(reader);
        given_ = 0;
        clock_.start();
        timer_.start();
        return true;
    }
    void stop() override { timer_.stop(); }

private:
    void give() {
        const qint64 due = clock_.elapsed() * kSoundRate / 1000;
        auto samples = std::make_shared<std::vector<float>>(static_cast<size_t>(std::max<qint64>(0, due - given_)));
        given_ = due;
        size_t got = reader_->read(*samples);
        if (got < samples->size()) {  // from its beginning again
            reader_->seek(0);
            got += reader_->read(std::span(*samples).subspan(got));
        }
        samples->resize(got);
        if (got == 0) return stop(), lost();
        emit heard(samples, now_ms());
    }

    std::filesystem::path path_;
    std::unique_ptr<SoundReader> reader_;
    QTimer timer_;
    QElapsedTimer clock_;
    qint64 given_ = 0;
};

class StandInSound : public SoundDevices {
public:
    explicit StandInSound(std::filesystem::path heard) : heard_(std::move(heard)) {}
    std::vector<SoundDevice> inputs() const override {
        if (heard_.empty()) return {};
        return {{QByteArray("file"), QString::fromStdString(heard_.stem().string())}};
    }
    std::unique_ptr<SoundInput> input(const QByteArray&) const override {
        return heard_.empty() ? nullptr : std::make_unique<FileInput>(heard_);
    }
    std::unique_ptr<SoundOutput> output() const override { return std::make_unique<SilentOutput>(); }

private:
    std::filesystem::path heard_;
};

}  // namespace

std::unique_ptr<SoundDevices> machine_sound() { return std::make_unique<MachineSound>(); }

std::unique_ptr<SoundDevices> stand_in_sound(const std::filesystem::path& heard) {
    return std::make_unique<StandInSound>(heard);
}

std::unique_ptr<SoundDevices> usual_sound() {
    const QByteArray named = qgetenv("FERNLEAF_SOUND");
    return named.isEmpty() ? machine_sound() : stand_in_sound(named.toStdString());
}

}  // namespace fernleaf
