// What the words of a bench's command line say: options with a value, and hands in a directory.
#pragma once

#include <algorithm>
#include <filesystem>
#include <string>
#include <vector>

#include "demo/hand.h"

namespace fernleaf {

// The word behind an option, which is taken out with it; empty where there is none.
inline std::string take_option(std::vector<std::string>& words, const std::string& name) {
    const auto at = std::ranges::find(words, name);
    if (at == words.end() || at + 1 == words.end()) return {};
    std::string value = *(at + 1);
    words.erase(at, at + 2);
    return value;
}

// Those in a directory (*.json), by name; those that can't be read are left out.
inline std::vector<Hand> hands_in(const std::filesystem::path& directory) {
    std::vector<std::filesystem::path> files;
    for (const auto& entry : std::filesystem::directory_iterator(directory))
        if (entry.path().extension() == ".json") files.push_back(entry.path());
    std::ranges::sort(files);
    std::vector<Hand> out;
    for (const auto& file : files)
        if (auto hand = Hand::load(file)) out.push_back(*std::move(hand));
    return out;
}

}  // namespace fernleaf
