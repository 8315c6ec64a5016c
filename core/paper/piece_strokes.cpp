#include "paper/piece_strokes.h"

#include <cmath>
#include <opencv2/imgproc.hpp>

#include "base/quantile.h"

namespace fernleaf {
namespace {

constexpr double kCore = 0.8;  // of a piece's darkness: the rest is its soft border
constexpr int kFiner = 2;      // strokes are looked for in pixels so much finer
constexpr double kLocal = 0.45, kSharpening = 4;
constexpr double kBorder = 0.5;  // of a piece's darkness

}  // namespace

// Blur fills loops and narrow gaps with grey: ink is what is dark for where it stands (unsharp masking, by the width of
// strokes), half as dark as most of the piece; looked for between the pixels.
std::vector<TracedStroke> strokes_of(const InkMask& ink, const InkPiece& piece) {
    const int margin = static_cast<int>(std::ceil(2 * ink.stroke_px)) + 1;
    const cv::Rect about = cv::Rect(piece.box.x - margin, piece.box.y - margin, piece.box.width + 2 * margin,
                                    piece.box.height + 2 * margin) &
                           cv::Rect({}, ink.dark.size());
    cv::Mat dark, soft;
    ink.dark(about).convertTo(dark, CV_32F);
    cv::GaussianBlur(dark, soft, {}, kLocal * ink.stroke_px);
    dark += kSharpening * (dark - soft);
    const cv::Mat own = ink.labels(about) == piece.label;
    std::vector<float> darkness;
    for (int y = 0; y < own.rows; ++y)
        for (int x = 0; x < own.cols; ++x)
            if (own.at<uchar>(y, x) != 0) darkness.push_back(dark.at<float>(y, x));
    const float core = quantile(std::move(darkness), kCore);
    dark.setTo(0, ~own);
    cv::Mat fine;
    cv::resize(dark, fine, {}, kFiner, kFiner, cv::INTER_CUBIC);
    std::vector<TracedStroke> out = traced_strokes(fine > kBorder * core);
    for (TracedStroke& stroke : out) {
        for (Point& p : stroke.points) p = {(p.x + 0.5) / kFiner - 0.5 + about.x, (p.y + 0.5) / kFiner - 0.5 + about.y};
        for (double& w : stroke.widths) w /= kFiner;
    }
    return out;
}

}  // namespace fernleaf
