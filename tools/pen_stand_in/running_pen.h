// For tests: a stand-in that listens at a socket on a thread of its own.
//
//   RunningPen pen({.name = "Walnut", .passcode = "4711"});
//   pen.write({2, 5, 1}, 3);        // a line of waves, the third from the top
#pragma once

#include <atomic>
#include <chrono>
#include <filesystem>
#include <mutex>
#include <thread>
#include <utility>
#include <vector>

#include "base/now.h"
#include "capture/local_socket.h"
#include "pen_stand_in/stand_in_pen.h"

namespace fernleaf {

class RunningPen {
public:
    explicit RunningPen(const PenSetup& setup)
        : file_(std::filesystem::temp_directory_path() /
                ("running_" + setup.serial + "_" + std::to_string(::getpid()) + ".pen")),
          memory_(*PenMemory::open(file_)),
          pen_(with_clock(setup), *memory_, now()),
          listening_(*LocalListener::open(pens_folder() / (setup.name + ".sock"))),
          thread_([this] { run(); }) {}
    ~RunningPen() {
        stopping_ = true;
        thread_.join();
        memory_.reset();
        std::filesystem::remove(file_);
    }
    RunningPen(const RunningPen&) = delete;
    RunningPen& operator=(const RunningPen&) = delete;

    // A line as high as writing.
    static std::vector<CapturedPoint> waves(int line) {
        std::vector<CapturedPoint> out;
        for (int i = 0; i < 100; ++i)
            out.push_back({1500 + 90 * i, 2000 + 700 * line + (i % 4 < 2 ? 120 : -120), 128, 2, 0, 0});
        return out;
    }
    void write(const PageAddress& address, int line) {
        const std::lock_guard lock(mutex_);
        to_write_.emplace_back(address, waves(line));
    }
    // Such a line while it is written: its first half, and lifted after the rest.
    void write_half(const PageAddress& address, int line) {
        const std::lock_guard lock(mutex_);
        rest_ = waves(line);
        pen_.touch(address);
        for (size_t i = 0; i < rest_.size() / 2; ++i) pen_.move(rest_[i]);
    }
    void write_rest() {
        const std::lock_guard lock(mutex_);
        for (size_t i = rest_.size() / 2; i < rest_.size(); ++i) pen_.move(rest_[i]);
        pen_.lift(now());
    }
    bool waiting() {  // to write what it was told
        const std::lock_guard lock(mutex_);
        return !to_write_.empty();
    }
    bool empty() {
        const std::lock_guard lock(mutex_);
        return to_write_.empty() && memory_->strokes().empty();
    }
    PenSettings settings() {
        const std::lock_guard lock(mutex_);
        return pen_.settings();
    }

private:
    static PenSetup with_clock(PenSetup setup) {
        setup.clock_ms = now_ms();
        return setup;
    }
    static Moment now() {
        using namespace std::chrono;
        return {duration_cast<milliseconds>(steady_clock::now().time_since_epoch()).count(), now_ms()};
    }
    void run() {
        std::unique_ptr<PenTransport> line;
        std::string heard;
        while (!stopping_) {
            if (!line && (line = listening_->accept(5))) {
                const std::lock_guard lock(mutex_);
                pen_.connect();
            }
            heard.clear();
            const bool open = line && line->hear(heard, 5) != PenTransport::Heard::end;
            const std::lock_guard lock(mutex_);
            for (auto& [address, points] : std::exchange(to_write_, {})) pen_.write(address, std::move(points), now());
            if (!line) continue;
            pen_.receive(heard, now());
            pen_.tick(now());
            if (!open || !pen_.connected() || !line->send(pen_.take_outgoing())) {
                pen_.disconnect();
                line.reset();
            }
        }
    }

    std::filesystem::path file_;
    std::unique_ptr<PenMemory> memory_;
    std::mutex mutex_;
    StandInPen pen_;
    std::unique_ptr<LocalListener> listening_;
    std::vector<std::pair<PageAddress, std::vector<CapturedPoint>>> to_write_;
    std::vector<CapturedPoint> rest_;
    std::atomic<bool> stopping_ = false;
    std::thread thread_;
};

}  // namespace fernleaf
