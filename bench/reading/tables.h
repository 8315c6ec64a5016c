// The tables that reading_bench prints.
#pragma once

#include <filesystem>
#include <map>
#include <string>
#include <vector>

#include "demo/hand.h"
#include "reading/reader.h"

namespace fernleaf {

using Hands = std::map<std::string, Hand>;
using Texts = std::map<std::string, std::vector<std::string>>;  // lines by language

// A line in a hand as the reader sees it; empty when the hand can't write it.
LinePicture written(const Hand& hand, const std::string& text, unsigned seed);

void hands_table(const Hands& hands, const std::vector<std::string>& texts, const Reader& reader);
void language_table(const Hands& hands, const Texts& texts, const Reader& reader);
void teaching_table(const Hands& hands, const std::vector<std::string>& texts, const Reader& reader);
void segmentation_table(const Hands& hands, const Reader& reader);
// The same lines read by the program tesseract, where it is installed.
void outside_table(const Hands& hands, const std::vector<std::string>& texts, const Reader& reader);

}  // namespace fernleaf
