// Small helpers that benches share: sorted samples, resident memory, edit distance.
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

// Levenshtein distance of two sequences.
template <typename Sequence>
size_t edit_distance(const Sequence& a, const Sequence& b) {
    std::vector<size_t> row(b.size() + 1);
    for (size_t j = 0; j <= b.size(); ++j) row[j] = j;
    for (size_t i = 1; i <= a.size(); ++i) {
        size_t before = row[0];
        row[0] = i;
        for (size_t j = 1; j <= b.size(); ++j) {
            const size_t kept = before + (a[i - 1] == b[j - 1] ? 0 : 1);
            before = row[j];
            row[j] = std::min({row[j] + 1, row[j - 1] + 1, kept});
        }
    }
    return row[b.size()];
}

}  // namespace fernleaf
