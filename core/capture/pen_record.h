// A pen as a library knows it.
#pragma once

#include <cstdint>
#include <optional>
#include <string>

#include "capture/passcode.h"
#include "capture/pen_messages.h"

namespace fernleaf {

struct PenRecord {
    std::string serial, name;
    std::optional<PenKey> key;  // none: not paired, or forgotten
    uint64_t memory = 0;        // which of its memories that is of (PenState::memory); 0: not known
    uint64_t kept = 0;          // strokes up to this number are on disk
    int64_t clock_set_ms = 0;   // 0: never
    int64_t seen_ms = 0;
    PenState state;  // as it was seen last
};

}  // namespace fernleaf
