// Small helpers that benches share: sorted samples, resident memory.
#pragma once

#include <algorithm>
#include <fstream>
#include <string>
#include <vector>

namespace fernleaf {

inline double quantile(std::vector<double> samples, double part) {
    if (samples.empty()) return 0;
    std::ranges::sort(samples);
    return samples[std::min(samples.size() - 1, static_cast<size_t>(part * static_cast<double>(samples.size())))];
}

inline double resident_mb() {
    std::ifstream status("/proc/self/status");
    for (std::string line; std::getline(status, line);)
        if (line.starts_with("VmRSS:")) return std::stod(line.substr(6)) / 1024;
    return 0;
}

}  // namespace fernleaf
