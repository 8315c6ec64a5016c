// The tables that reading_bench prints.
#pragma once

#include <filesystem>
#include <map>
#include <string>
#include <vector>

#include "demo/hand.h"
#include "paper/printed_text.h"
#include "reading/reader.h"

namespace fernleaf {

using Hands = std::map<std::string, Hand>;
using Texts = std::map<std::string, std::vector<std::string>>;  // lines by language

// A line in a hand as the reader sees it; empty when the hand can't write it.
LinePicture written(const Hand& hand, const std::string& text, unsigned seed);

void hands_table(const Hands& hands, const std::vector<std::string>& texts, const Reader& reader);
void language_table(const Hands& hands, const Texts& texts, const Reader& reader);
// Names, codes and foreign words, at several leans.
void literal_table(const Hands& hands, const std::vector<std::string>& texts, const Reader& reader);
// Pages of numbers in the digits of real people (training/real_digits.py): how they are read, at two leans, and which
// of them are taken to stand upright.
void digits_table(const std::filesystem::path& directory, const Reader& reader, PrintSkills& print);
void teaching_table(const Hands& hands, const std::vector<std::string>& texts, const Reader& reader);
void segmentation_table(const Hands& hands, const Reader& reader);
// How far from its ink a word is said to begin and end, in widths of a letter.
void boxes_table(const Hands& hands, const std::vector<std::string>& texts, const Reader& reader);
// Two hundred pages read one after the other on one thread: time and memory.
void notebook_table(const Hands& hands, const std::vector<std::string>& texts, const Reader& reader);
// The same lines read by the program tesseract, where it is installed.
void outside_table(const Hands& hands, const std::vector<std::string>& texts, const Reader& reader);

}  // namespace fernleaf
