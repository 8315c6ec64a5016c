// Numbers by chance, for what is drawn and photographed by it.
#pragma once

#include <random>

namespace fernleaf {

class Chance {
public:
    explicit Chance(std::mt19937& random) : random_(random) {}
    double between(double low, double high) { return std::uniform_real_distribution<double>(low, high)(random_); }
    double normal(double deviation) { return std::normal_distribution<double>(0, deviation)(random_); }
    bool one_in(double n) { return between(0, n) < 1; }
    size_t below(size_t n) { return random_() % n; }

private:
    std::mt19937& random_;
};

}  // namespace fernleaf
