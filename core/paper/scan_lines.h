// Finds the lines of handwriting in a flat, straight picture of a page.
//
// Ink is told from paper and from printed rules (ink_mask.h); the connected pieces that remain are grouped as strokes
// are (ink/grouping.h).
#pragma once

#include <opencv2/core.hpp>
#include <optional>
#include <vector>

#include "paper/baseline.h"
#include "paper/drawn_on_page.h"
#include "paper/ink_mask.h"
#include "reading/raster.h"
#include "reading/reader.h"

namespace fernleaf {

struct ScanLine {
    LinePicture picture;  // source unit: pixels of the scan, from box_px.x
    cv::Rect box_px;
    int region = 0;
    bool drawing = false;
    std::vector<size_t> pieces;  // of the page's ink, by their place there
    bool understood = false;     // a drawing that is among what is drawn on the page
};

// A box to be ticked, where it stands in the picture given.
struct ScanBox {
    cv::Rect box_px;
    bool ticked = false;
    std::optional<size_t> line;  // in which it stands; none where nothing is written beside it
};

struct ScannedPage {
    InkMask ink;        // of the picture made smaller
    double shrink = 1;  // its px in one of the picture given
    std::vector<ScanLine> lines;
    std::vector<ScanBox> boxes;
    DrawnOnPage drawn;  // px of the ink
};

// A word's span in the pixels of the picture given.
struct ScanSpan {
    double begin = 0, end = 0;
};
ScanSpan span_of(const ScanLine& line, const WordReading& word);

// Which of a line's words each of its pieces belongs to: the one it lies in or nearest to; none without words.
std::vector<std::optional<size_t>> words_of_pieces(const ScannedPage& page, const ScanLine& line,
                                                   const std::vector<WordReading>& words);

// For each of a line's words, how its pieces and those of the words beside it stand on the line's baseline.
std::vector<std::vector<BaselineOffset>> offsets_about_words(const ScannedPage& page, const ScanLine& line,
                                                             const std::vector<WordReading>& words);

// pixels: CV_8UC3 (BGR) or CV_8UC1. An empty picture or one without ink has no lines.
ScannedPage scan_page(const cv::Mat& pixels);

}  // namespace fernleaf
