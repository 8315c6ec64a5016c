// How often proof marks and underlines are recognised, and how often ordinary writing is taken for one.
#pragma once

#include <filesystem>

// Writes pages in every hand of a directory (*.json) stroke by stroke, then marks them up; prints the figures.
void proof_table(const std::filesystem::path& hands);
