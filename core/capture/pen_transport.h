// What carries a pen's bytes: a local socket (local_socket.h), or whatever else two ends can be joined by.
#pragma once

#include <string>
#include <string_view>

#include "base/result.h"

namespace fernleaf {

// For one thread.
class PenTransport {
public:
    enum class Heard { something, nothing, end };

    virtual ~PenTransport() = default;
    // Takes all of it; an error when the other end is gone.
    virtual Status send(std::string_view bytes) = 0;
    // Appends what has come, waiting for the first of it at most so long.
    virtual Heard hear(std::string& bytes, int wait_ms) = 0;
};

}  // namespace fernleaf
