// A value or the reason why there is none. Errors are values in Fernleaf; exceptions stay inside the borders to
// third-party code.
//
//   Result<Page> page = load(path);
//   if (!page) return page.error();
//   use(*page);
#pragma once

#include <string>
#include <utility>
#include <variant>

namespace fernleaf {

// One clear sentence for a person: what could not be done and why.
struct Error {
    std::string message;
    bool passing = false;  // the same may succeed later: a full disk, another program's turn
};

template <typename T>
class [[nodiscard]] Result {
public:
    Result(T value) : state_(std::in_place_index<0>, std::move(value)) {}
    Result(Error error) : state_(std::in_place_index<1>, std::move(error)) {}

    explicit operator bool() const { return state_.index() == 0; }
    T& operator*() & { return std::get<0>(state_); }
    const T& operator*() const& { return std::get<0>(state_); }
    // By value, so that `for (auto& x : *f())` keeps what it walks over alive.
    T operator*() && { return std::get<0>(std::move(state_)); }
    T* operator->() { return &std::get<0>(state_); }
    const T* operator->() const { return &std::get<0>(state_); }
    const Error& error() const { return std::get<1>(state_); }

private:
    std::variant<T, Error> state_;
};

// The result of something done for its effect.
struct Done {};
using Status = Result<Done>;

}  // namespace fernleaf
