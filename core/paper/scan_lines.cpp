#include "paper/scan_lines.h"

#include <algorithm>
#include <opencv2/imgproc.hpp>

#include "ink/grouping.h"
#include "paper/shrunk.h"
#include "paper/tick_boxes.h"
#include "paper/tied_lines.h"

namespace fernleaf {
namespace {

constexpr int kPad = 4;
constexpr double kBesideBox = 8;  // of its side: so near stands what a box is ticked for

ScanBox placed_box(const TickBox& box, double shrink, const std::vector<ScanLine>& lines) {
    ScanBox out;
    out.box_px = {static_cast<int>(box.box.x / shrink), static_cast<int>(box.box.y / shrink),
                  static_cast<int>(box.box.width / shrink), static_cast<int>(box.box.height / shrink)};
    out.ticked = box.ticked;
    const double middle = out.box_px.y + out.box_px.height / 2.0;
    double nearest = kBesideBox * out.box_px.width;
    for (size_t l = 0; l < lines.size(); ++l) {
        const cv::Rect& line = lines[l].box_px;
        if (lines[l].drawing || middle < line.y || middle > line.br().y) continue;
        const double off = std::max({0, line.x - out.box_px.br().x, out.box_px.x - line.br().x});
        if (off < nearest) nearest = off, out.line = l;
    }
    return out;
}

}  // namespace

ScannedPage scan_page(const cv::Mat& pixels) {
    ScannedPage out;
    if (!may_hold_writing(pixels)) return out;
    const double shrink = std::min(1.0, static_cast<double>(kInkWidthPx) / pixels.cols);
    out.shrink = shrink;
    out.ink = ink_of_page(pixels);
    part_tied_lines(out.ink);
    const InkMask& ink = out.ink;
    const std::vector<TickBox> boxes = tick_boxes(ink);
    std::vector<bool> in_box(ink.pieces.size(), false);
    for (const TickBox& box : boxes)
        for (const size_t piece : box.pieces) in_box[piece] = true;
    out.drawn = drawn_on_page(ink);
    std::vector<InkComponent> blots;
    std::vector<size_t> piece_of;  // by blot
    int labels_end = 0;
    for (size_t i = 0; i < ink.pieces.size(); ++i) {
        labels_end = std::max(labels_end, ink.pieces[i].label + 1);
        if (in_box[i] || (!out.drawn.drawn.empty() && out.drawn.drawn[i])) continue;
        blots.push_back(component_of(ink.pieces[i]));
        piece_of.push_back(i);
    }

    std::vector<int> line_of_label(static_cast<size_t>(labels_end), -1);
    std::vector<InkLine> lines = group_shapes(blots, smallest_letter_px(ink));
    for (size_t l = 0; l < lines.size(); ++l)
        for (size_t& m : lines[l].members) {
            m = piece_of[m];
            line_of_label[static_cast<size_t>(ink.pieces[m].label)] = static_cast<int>(l);
        }
    for (size_t l = 0; l < lines.size(); ++l) {
        const Box& box = lines[l].box;
        ScanLine line;
        line.region = lines[l].region;
        line.drawing = lines[l].drawing;
        line.pieces = lines[l].members;
        const cv::Rect whole({}, ink.dark.size());
        const cv::Rect cut =
            cv::Rect(static_cast<int>(box.left) - kPad, static_cast<int>(box.top) - kPad,
                     static_cast<int>(box.width()) + 2 * kPad, static_cast<int>(box.height()) + 2 * kPad) &
            whole;
        if (!line.drawing) {
            // The line's own pieces and a pixel around them; what belongs to other lines is left out.
            cv::Mat own(cut.size(), CV_8U, cv::Scalar(0));
            for (int y = 0; y < cut.height; ++y)
                for (int x = 0; x < cut.width; ++x) {
                    const int label = ink.labels.at<int>(cut.y + y, cut.x + x);
                    if (label != 0 && label < labels_end &&
                        line_of_label[static_cast<size_t>(label)] == static_cast<int>(l))
                        own.at<uchar>(y, x) = 255;
                }
            cv::dilate(own, own, cv::getStructuringElement(cv::MORPH_RECT, {3, 3}));
            cv::Mat soft(cut.size(), CV_8U, cv::Scalar(0));
            ink.dark(cut).copyTo(soft, own);
            double brightest = 0;
            cv::minMaxLoc(soft, nullptr, &brightest);
            if (brightest > 0) soft.convertTo(soft, CV_8U, 255 / brightest);
            line.picture = fit_line(soft, lines[l].slope);
        }
        // Back to the pixels of the picture given.
        line.box_px = {static_cast<int>(cut.x / shrink), static_cast<int>(cut.y / shrink),
                       static_cast<int>(cut.width / shrink), static_cast<int>(cut.height / shrink)};
        line.picture.scale *= shrink;
        line.picture.left /= shrink;
        out.lines.push_back(std::move(line));
    }
    if (std::ranges::find(out.drawn.drawn, true) != out.drawn.drawn.end()) {
        ScanLine all;
        cv::Rect box;
        for (size_t i = 0; i < ink.pieces.size(); ++i)
            if (out.drawn.drawn[i] && !in_box[i]) all.pieces.push_back(i), box |= ink.pieces[i].box;
        all.drawing = all.understood = true;
        all.region = out.lines.empty() ? 0 : out.lines.back().region + 1;
        all.box_px = {static_cast<int>(box.x / shrink), static_cast<int>(box.y / shrink),
                      static_cast<int>(box.width / shrink), static_cast<int>(box.height / shrink)};
        if (!all.pieces.empty()) out.lines.push_back(std::move(all));
    }
    for (const TickBox& box : boxes) {
        out.boxes.push_back(placed_box(box, shrink, out.lines));
        ScanBox& placed = out.boxes.back();
        if (placed.line) {
            std::ranges::copy(box.pieces, std::back_inserter(out.lines[*placed.line].pieces));
            continue;
        }
        // By itself it is a drawing.
        ScanLine alone;
        alone.box_px = placed.box_px;
        alone.drawing = true;
        alone.pieces = box.pieces;
        alone.region = out.lines.empty() ? 0 : out.lines.back().region + 1;
        out.lines.push_back(std::move(alone));
    }
    return out;
}

ScanSpan span_of(const ScanLine& line, const WordReading& word) {
    return {line.box_px.x + line.picture.source_x(word.begin), line.box_px.x + line.picture.source_x(word.end)};
}

std::vector<std::optional<size_t>> words_of_pieces(const ScannedPage& page, const ScanLine& line,
                                                   const std::vector<WordReading>& words) {
    std::vector<std::optional<size_t>> out;
    for (const size_t piece : line.pieces) {
        const double x = page.ink.pieces[piece].middle.x / page.shrink;
        std::optional<size_t> best;
        double nearest = 0;
        for (size_t i = 0; i < words.size(); ++i) {
            const ScanSpan span = span_of(line, words[i]);
            const double off = std::max({span.begin - x, x - span.end, 0.0});
            if (!best || off < nearest) best = i, nearest = off;
        }
        out.push_back(best);
    }
    return out;
}

std::vector<std::vector<BaselineOffset>> offsets_about_words(const ScannedPage& page, const ScanLine& line,
                                                             const std::vector<WordReading>& words) {
    std::vector<std::vector<BaselineOffset>> out(words.size());
    const std::vector<std::optional<BaselineOffset>> offsets = baseline_offsets(page.ink, line.pieces);
    const std::vector<std::optional<size_t>> owners = words_of_pieces(page, line, words);
    for (size_t i = 0; i < offsets.size(); ++i)
        if (offsets[i] && owners[i])
            for (size_t w = *owners[i] - std::min<size_t>(1, *owners[i]); w < std::min(words.size(), *owners[i] + 2);
                 ++w)
                out[w].push_back(*offsets[i]);
    return out;
}

}  // namespace fernleaf
