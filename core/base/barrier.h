// Borders that no exception crosses: what a job thread, a command or a call into a third party's code runs through.
//
//   Result<Reading> reading = guarded([&]() -> Result<Reading> { return read_page(...); });
//   if (!reading) tell(reading.error());
//
// Errors are values in Fernleaf; an exception is either a third party's or a lack of memory. Each becomes one sentence.
#pragma once

#include <exception>
#include <new>
#include <string>
#include <utility>

#include "base/result.h"

namespace fernleaf {

// The exception that is being handled, as an error. To be called within a catch.
inline Error caught_error() {
    try {
        throw;
    } catch (const std::bad_alloc&) {
        return Error{"There is not enough memory for it. Close other programs, or try it with less at once."};
    } catch (const std::exception& problem) {
        return Error{std::string("Something unexpected happened in Fernleaf: ") + problem.what()};
    } catch (...) {
        return Error{"Something unexpected happened in Fernleaf."};
    }
}

// What f gives, a Result; an exception is its error.
template <typename F>
auto guarded(F&& f) -> decltype(f()) {
    try {
        return std::forward<F>(f)();
    } catch (...) {
        return caught_error();
    }
}

}  // namespace fernleaf
