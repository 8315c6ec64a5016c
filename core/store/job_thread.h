// One thread that does jobs in the order they are given: everything that touches the disk goes through one of these, so
// that the window never waits for it.
#pragma once

#include <condition_variable>
#include <deque>
#include <functional>
#include <mutex>
#include <thread>

namespace fernleaf {

class JobThread {
public:
    // Work that people wait for, or work that makes way for all else.
    enum class Haste { usual, patient };

    explicit JobThread(Haste haste = Haste::usual) : thread_([this, haste] { run(haste); }) {}
    ~JobThread();  // finishes all jobs first
    JobThread(const JobThread&) = delete;
    JobThread& operator=(const JobThread&) = delete;

    void post(std::function<void()> job);
    void wait_idle();  // returns when every job given so far is done

private:
    void run(Haste haste);

    std::mutex mutex_;
    std::condition_variable changed_;
    std::deque<std::function<void()>> jobs_;
    bool busy_ = false;
    bool stopping_ = false;
    std::thread thread_;
};

}  // namespace fernleaf
