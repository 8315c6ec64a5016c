// The same work on many things, on all cores.
//
//   in_parallel(pages.size(), [&](size_t i) { results[i] = look_at(pages[i]); });
//
// Returns when all are done. What a job throws is thrown here, once the others have ended; jobs not begun by then are
// left out.
#pragma once

#include <algorithm>
#include <atomic>
#include <exception>
#include <mutex>
#include <thread>
#include <vector>

namespace fernleaf {

template <typename Job>
void in_parallel(size_t count, Job job, size_t threads = std::max(1U, std::thread::hardware_concurrency())) {
    std::atomic<size_t> next = 0;
    std::exception_ptr thrown;
    std::mutex mutex;
    const auto work = [&] {
        for (size_t i = next++; i < count; i = next++) {
            try {
                job(i);
            } catch (...) {
                const std::lock_guard lock(mutex);
                if (!thrown) thrown = std::current_exception();
                next = count;
            }
        }
    };
    std::vector<std::thread> others;
    for (size_t i = 1; i < std::min(threads, count); ++i) others.emplace_back(work);
    work();
    for (std::thread& other : others) other.join();
    if (thrown) std::rethrow_exception(thrown);
}

}  // namespace fernleaf
