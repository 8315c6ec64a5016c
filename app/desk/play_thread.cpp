#include "desk/play_thread.h"

#include <algorithm>
#include <utility>

namespace fernleaf {
namespace {

constexpr size_t kAhead = static_cast<size_t>(kSoundRate) * 3 / 10;
constexpr size_t kChunk = 2048;
constexpr size_t kMostParts = 64;

}  // namespace

PlayThread::PlayThread(VoiceTrack track, TrackPlayer::Opener opener)
    : parts_(1), thread_([this, track = std::move(track), opener = std::move(opener)]() mutable {
          run({std::move(track), std::move(opener)});
      }) {}

PlayThread::~PlayThread() {
    {
        const std::lock_guard lock(mutex_);
        stop_ = true;
    }
    wanted_.notify_all();
    thread_.join();
}

// What was made ready before is of no use any more.
void PlayThread::sought(int64_t position_ms) {
    wish_.seek = position_ms;
    ready_.clear();
    used_ = 0;
    changed_at_ = given_;
    parts_ = {{given_, position_ms, position_ms, 0}};
    ended_ = false;
}

void PlayThread::seek(int64_t position_ms) {
    {
        const std::lock_guard lock(mutex_);
        sought(position_ms);
    }
    wanted_.notify_all();
}

void PlayThread::set_speed(double speed) {
    {
        const std::lock_guard lock(mutex_);
        wish_.speed = speed;
        sought(position_locked(0));
    }
    wanted_.notify_all();
}

void PlayThread::skip(std::vector<Silence> silences) {
    const std::lock_guard lock(mutex_);
    wish_.skip = std::move(silences);
}

size_t PlayThread::pull(std::span<float> out) {
    size_t got = 0;
    {
        const std::lock_guard lock(mutex_);
        got = std::min(out.size(), ready_.size() - used_);
        std::copy_n(ready_.begin() + static_cast<std::ptrdiff_t>(used_), got, out.begin());
        used_ += got;
    }
    wanted_.notify_all();
    return got;
}

bool PlayThread::ended() const {
    const std::lock_guard lock(mutex_);
    return ended_ && used_ == ready_.size();
}

int64_t PlayThread::position_ms(size_t waiting) const {
    const std::lock_guard lock(mutex_);
    return position_locked(waiting);
}

int64_t PlayThread::position_locked(size_t waiting) const {
    const uint64_t pulled = given_ - (ready_.size() - used_);
    const uint64_t frame = std::max(changed_at_, pulled - std::min<uint64_t>(waiting, pulled));
    const auto next = std::ranges::upper_bound(parts_, frame, {}, &Part::frame);
    const Part& part = next == parts_.begin() ? parts_.front() : *std::prev(next);
    if (part.frames == 0 || frame <= part.frame) return part.from_ms;
    const auto within = static_cast<int64_t>(std::min<uint64_t>(frame - part.frame, part.frames));
    return part.from_ms + (part.to_ms - part.from_ms) * within / static_cast<int64_t>(part.frames);
}

void PlayThread::run(TrackPlayer player) {
    std::vector<float> chunk(kChunk);
    uint64_t read = 0;  // frames that the player gave, ever
    std::unique_lock lock(mutex_);
    while (!stop_) {
        if (ended_ || ready_.size() - used_ >= kAhead) {
            wanted_.wait(lock);
            continue;
        }
        const Wish wish = std::exchange(wish_, {});
        lock.unlock();
        if (wish.skip) player.skip(*wish.skip);
        if (wish.speed) player.set_speed(*wish.speed);
        if (wish.seek) player.seek(*wish.seek);
        const int64_t from = player.position_at(read);
        const size_t got = player.read(chunk);
        read += got;
        const int64_t to = player.position_at(read);
        lock.lock();
        if (wish_.seek) continue;  // it was sought meanwhile: this is not what is to be heard
        ready_.erase(ready_.begin(), ready_.begin() + static_cast<std::ptrdiff_t>(used_));
        used_ = 0;
        ready_.insert(ready_.end(), chunk.begin(), chunk.begin() + static_cast<std::ptrdiff_t>(got));
        parts_.push_back({given_, from, to, got});
        if (parts_.size() > kMostParts) parts_.pop_front();
        given_ += got;
        ended_ = got < kChunk;
    }
}

}  // namespace fernleaf
