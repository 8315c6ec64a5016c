#include "pen_stand_in/faulty_line.h"

#include <algorithm>

namespace fernleaf {
namespace {

constexpr size_t kLongestPiece = 1024;

}  // namespace

bool FaultyLine::chance(double of_one) { return std::uniform_real_distribution<double>(0, 1)(random_) < of_one; }

void FaultyLine::put(std::string_view bytes, int64_t now_ms) {
    while (!bytes.empty()) {
        const size_t most = std::min(bytes.size(), kLongestPiece);
        const size_t length = faults_.none() ? most : 1 + random_() % most;
        std::string piece(bytes.substr(0, length));
        bytes.remove_prefix(length);
        if (chance(faults_.lose)) continue;
        if (chance(faults_.change)) piece[random_() % piece.size()] = static_cast<char>(random_());
        const int64_t delay = faults_.most_delay_ms > 0
                                  ? static_cast<int64_t>(random_() % static_cast<unsigned>(faults_.most_delay_ms))
                                  : 0;
        // Nothing overtakes what was put before.
        const int64_t at = std::max(now_ms + delay, on_the_way_.empty() ? 0 : on_the_way_.back().at_ms);
        on_the_way_.push_back({at, piece});
        if (chance(faults_.twice)) on_the_way_.push_back({at, piece});
    }
}

std::string FaultyLine::take(int64_t now_ms) {
    std::string out;
    for (; !on_the_way_.empty() && on_the_way_.front().at_ms <= now_ms; on_the_way_.pop_front())
        out += on_the_way_.front().bytes;
    return out;
}

}  // namespace fernleaf
