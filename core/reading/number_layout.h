// What the layout of a line tells of its numbers, which no language does: which digits stand together, and that a
// stroke no taller than digits among digits is a one, no slash.
//
//   text = laid_out(line.pixels, scores, alphabet, text, align(scores, alphabet, text));
#pragma once

#include <opencv2/core.hpp>
#include <string>
#include <vector>

#include "reading/alphabet.h"
#include "reading/decoder.h"

namespace fernleaf {

// The time step in the middle of the widest stretch without ink between two steps; where there is none, as between
// words that touch or lean over each other, the step with the least ink. The network sees a letter at one place
// somewhere in it, so that the middle between two letters would often cut one of them.
int widest_gap(const cv::Mat& pixels, int from, int to);

// The text with spaces between digits left out where the gap is that between digits of a number, and slashes in long
// numbers made ones where they are no taller than the digits and the network sees a one, too. All else stays.
// pixels: of a LinePicture; scores: as Network gives them; spans: of each character.
std::u32string laid_out(const cv::Mat& pixels, const cv::Mat& scores, const Alphabet& alphabet,
                        const std::u32string& text, const std::vector<Span>& spans);

}  // namespace fernleaf
