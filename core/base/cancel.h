// Cancelling and progress of whatever takes over a second.
//
//   CancelSource source;                       // kept by the window
//   worker(source.token(), [](double part) {}) // part runs from 0 to 1
//   source.cancel();
#pragma once

#include <atomic>
#include <functional>
#include <memory>

namespace fernleaf {

class CancelToken {
public:
    CancelToken() = default;  // never cancelled
    explicit CancelToken(std::shared_ptr<const std::atomic<bool>> flag) : flag_(std::move(flag)) {}
    bool cancelled() const { return flag_ && flag_->load(std::memory_order_relaxed); }

private:
    std::shared_ptr<const std::atomic<bool>> flag_;
};

class CancelSource {
public:
    CancelToken token() const { return CancelToken(flag_); }
    void cancel() { flag_->store(true, std::memory_order_relaxed); }

private:
    std::shared_ptr<std::atomic<bool>> flag_ = std::make_shared<std::atomic<bool>>(false);
};

using Progress = std::function<void(double part)>;

}  // namespace fernleaf
