// What a line may do to bytes: lose, double, delay, change them.
//
//   FaultyLine line({.lose = 0.02}, 7);
//   line.put(bytes, now_ms);
//   pen.receive(line.take(now_ms), now);
#pragma once

#include <cstdint>
#include <deque>
#include <random>
#include <string>
#include <string_view>

namespace fernleaf {

// Chances, 0 to 1, of each piece of up to a kilobyte.
struct LineFaults {
    double lose = 0, twice = 0, change = 0;
    int most_delay_ms = 0;
    bool none() const { return lose == 0 && twice == 0 && change == 0 && most_delay_ms == 0; }
};

class FaultyLine {
public:
    FaultyLine(const LineFaults& faults, unsigned seed) : faults_(faults), random_(seed) {}
    void put(std::string_view bytes, int64_t now_ms);
    std::string take(int64_t now_ms);  // what arrives by now
    void clear() { on_the_way_.clear(); }

private:
    struct Piece {
        int64_t at_ms = 0;
        std::string bytes;
    };
    bool chance(double of_one);

    LineFaults faults_;
    std::mt19937 random_;
    std::deque<Piece> on_the_way_;
};

}  // namespace fernleaf
