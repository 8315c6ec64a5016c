// One thread that does jobs in the order they are given: everything that touches the disk goes through one of these, so
// that the window never waits for it.
//
//   JobThread disk([](const Error& error) { tell(error); });
//   disk.post([&] { library.commit(page, edit); });
//
// No exception ends the thread or the program: what a job throws is told as an error, and the next job is done. A job
// whose answer somebody waits for catches its own (base/barrier.h) and answers with it.
#pragma once

#include <condition_variable>
#include <deque>
#include <functional>
#include <mutex>
#include <thread>
#include <utility>

#include "base/result.h"

namespace fernleaf {

class JobThread {
public:
    // Work that people wait for, or work that makes way for all else.
    enum class Haste { usual, patient };

    // failed: called on this thread with what a job threw.
    explicit JobThread(std::function<void(const Error&)> failed = {}, Haste haste = Haste::usual)
        : failed_(std::move(failed)), thread_([this, haste] { run(haste); }) {}
    ~JobThread();  // finishes all jobs first
    JobThread(const JobThread&) = delete;
    JobThread& operator=(const JobThread&) = delete;

    void post(std::function<void()> job);
    void wait_idle();  // returns when every job given so far is done

private:
    void run(Haste haste);

    std::function<void(const Error&)> failed_;
    std::mutex mutex_;
    std::condition_variable changed_;
    std::deque<std::function<void()>> jobs_;
    bool busy_ = false;
    bool stopping_ = false;
    std::thread thread_;
};

}  // namespace fernleaf
