#include "sound/recorder.h"

namespace fernleaf {
namespace {

constexpr uint64_t kSyncFrames = kSoundRate / 2;

}  // namespace

Result<std::unique_ptr<Recorder>> Recorder::begin(const std::filesystem::path& path, SoundId sound) {
    auto writer = SoundWriter::create(path, SoundFormat::opus);
    if (!writer) return writer.error();
    return std::unique_ptr<Recorder>(new Recorder(*std::move(writer), sound));
}

int64_t Recorder::length_ms() const { return static_cast<int64_t>(frames_ * 1000 / kSoundRate); }

Status Recorder::take(std::span<const float> samples, int64_t now_ms) {
    if (paused_ || samples.empty()) return Done{};
    if (Status written = writer_->write(samples); !written) return written;
    const int64_t before = length_ms();
    frames_ += samples.size();
    meter_.add(samples);
    clock_.arrived(length_ms() - before, length_ms(), now_ms);
    unsynced_ += samples.size();
    if (unsynced_ < kSyncFrames) return Done{};
    unsynced_ = 0;
    ++synced_;
    return writer_->sync();
}

void Recorder::pause(bool paused) {
    paused_ = paused;
    if (paused) clock_.pause();
}

Status Recorder::finish() { return writer_->finish(); }

}  // namespace fernleaf
