// Writes a text as a person with a given hand would: pen paths from demo/hands, varied letter by letter, sampled in
// time at the speed of a pen, with pressure.
//
//   auto hand = Hand::load("demo/hands/ines.json");
//   std::vector<Stroke> strokes = hand->write("Late frost", {20, 30}, style, random);
#pragma once

#include <filesystem>
#include <map>
#include <random>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "ink/stroke.h"

namespace fernleaf {

struct WritingStyle {
    double x_height_mm = 2.1;
    Pen pen;
    int64_t start_ms = 0;   // when the first stroke begins
    double unevenness = 1;  // 0: like print; 1: like a calm person
};

class Hand {
public:
    static Result<Hand> load(const std::filesystem::path& path);

    // Whether it has every character of a text.
    bool can_write(std::string_view text) const;

    // Another person who learnt to write after the same model: it leans and stretches otherwise, and its letters are
    // bent by smooth fields of their own.
    Hand another(std::mt19937& random) const;

    // at: the left end of the baseline, mm. Characters the hand lacks are left out.
    std::vector<Stroke> write(std::string_view text, Point at, const WritingStyle& style, std::mt19937& random) const;

    // The end of the time that writing the strokes takes: the next line starts after it.
    static int64_t end_of(const std::vector<Stroke>& strokes, int64_t otherwise);

private:
    struct Glyph {
        double advance = 0;  // x-heights
        std::vector<std::vector<Point>> paths;
    };
    std::map<char32_t, Glyph> glyphs_;
};

// One of the texts that a hand can write, by chance; empty where it can write hardly any.
std::string some_text(const Hand& hand, const std::vector<std::string>& texts, std::mt19937& random);

// A stroke along a path at the places where a tablet would report it: slower in turns (the two-thirds power law,
// Lacquaniti, Terzuolo & Viviani 1983, in its simplest form), pressed hardest in the middle.
Stroke sampled(const std::vector<Point>& path, const Pen& pen, int64_t start_ms, std::mt19937& random);

// A pen stroke along corners given in mm, sampled and timed like handwriting: for drawings.
Stroke drawn(const std::vector<Point>& corners, const Pen& pen, int64_t start_ms, std::mt19937& random);

}  // namespace fernleaf
