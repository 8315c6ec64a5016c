// A value that its copies share until one of them is changed: copies cost nothing, and threads may read theirs at the
// same time.
//
//   CopyOnWrite<std::vector<int>> a({1, 2, 3}), b = a;   // one vector
//   b.change().push_back(4);                             // two; a is as it was
//
// Each copy belongs to one thread at a time, as any value does.
#pragma once

#include <atomic>
#include <utility>

namespace fernleaf {

template <class T>
class CopyOnWrite {
public:
    CopyOnWrite() = default;
    explicit CopyOnWrite(T value) : held_(new Held{1, std::move(value)}) {}
    CopyOnWrite(const CopyOnWrite& other) noexcept : held_(other.held_) {
        if (held_) held_->owners.fetch_add(1, std::memory_order_relaxed);
    }
    CopyOnWrite(CopyOnWrite&& other) noexcept : held_(std::exchange(other.held_, nullptr)) {}
    CopyOnWrite& operator=(CopyOnWrite other) noexcept {
        std::swap(held_, other.held_);
        return *this;
    }
    ~CopyOnWrite() {
        if (held_ && held_->owners.fetch_sub(1, std::memory_order_acq_rel) == 1) delete held_;
    }

    const T& operator*() const { return held_ ? held_->value : nothing(); }
    const T* operator->() const { return &**this; }
    // The value for writing; from here on this copy's own. References obtained before are void.
    T& change() {
        if (!held_)
            held_ = new Held{1, T{}};
        else if (held_->owners.load(std::memory_order_acquire) != 1)  // acquire: what others read, they have read
            *this = CopyOnWrite(held_->value);
        return held_->value;
    }
    bool shares_with(const CopyOnWrite& other) const { return held_ == other.held_; }

private:
    struct Held {
        std::atomic<int> owners;
        T value;
    };
    static const T& nothing() {
        static const T none{};
        return none;
    }
    Held* held_ = nullptr;  // none: an empty value
};

}  // namespace fernleaf
