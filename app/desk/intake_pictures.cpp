#include "desk/intake_pictures.h"

#include <algorithm>
#include <opencv2/imgproc.hpp>

#include "paper/picture_file.h"
#include "paper/sheet_edges.h"
#include "paper/sheet_picture.h"
#include "paper/shrunk.h"
#include "render/page_painter.h"

namespace fernleaf {
namespace {

constexpr int kShownPx = 1500, kPagePx = 1000, kThumbnailPx = 150;
constexpr int kEdgesPx = 900;
constexpr size_t kMostEdges = 40;

cv::Mat fitted(const cv::Mat& pixels, int longest, double* scale = nullptr) {
    const double by = factor_to(pixels, longest);
    if (scale) *scale = by;
    return shrunk(pixels, by);
}

std::vector<EdgeLine> edges_of(const cv::Mat& pixels) {
    if (!may_hold_writing(pixels)) return {};
    const EdgePicture picture = edge_picture(pixels, kEdgesPx);
    std::vector<EdgeLine> edges = edge_lines(picture, kMostEdges);
    for (EdgeLine& edge : edges) edge.offset /= picture.scale, edge.support /= picture.scale;
    return edges;
}

Result<cv::Mat> pixels_in(const Result<std::string>& bytes, const IntakeEntry& entry) {
    const int dpi = entry.treatment.dpi == 0 ? kUsualDpi : entry.treatment.dpi;
    return bytes ? decode_picture(*bytes, entry.frame, dpi) : Result<cv::Mat>(bytes.error());
}

}  // namespace

Result<ScannedSheet> picture_of(const Library& library, const IntakeEntry& entry) {
    const auto bytes = library.file(entry.file);
    auto pixels = pixels_in(bytes, entry);
    if (!pixels) return pixels.error();
    return ScannedSheet{*std::move(pixels), scan_dpi(*bytes, entry.frame)};
}

QImage thumbnail_of(const cv::Mat& pixels, const Treatment& treatment) {
    // Of a smaller picture all is quicker, and as good for a thumbnail.
    double scale = 1;
    const cv::Mat small = fitted(pixels, 4 * kThumbnailPx, &scale);
    Treatment there = treatment;
    there.without_rules = false;
    if (there.outline) there.outline = scaled(*there.outline, scale);
    return image_of(fitted(treated(small, there), kThumbnailPx));
}

struct Photograph::Decoded {
    std::string file;
    int frame = -1, dpi = 0;
    cv::Mat pixels;
    QImage small;
    double scale = 1;
    std::vector<EdgeLine> edges;
    bool drawn = false;
};

Photograph::Photograph() : decoded_(std::make_unique<Decoded>()) {}
Photograph::~Photograph() = default;

Result<ShownEntry> Photograph::show(const Library& library, const IntakeEntry& entry) {
    const int dpi = entry.treatment.dpi;
    if (decoded_->file != entry.file || decoded_->frame != entry.frame || decoded_->dpi != dpi) {
        *decoded_ = {};
        const auto bytes = library.file(entry.file);
        const auto pixels = pixels_in(bytes, entry);
        if (!pixels) return pixels.error();
        double scale = 1;
        QImage small = image_of(fitted(*pixels, kShownPx, &scale));
        *decoded_ = {entry.file,
                     entry.frame,
                     dpi,
                     *pixels,
                     std::move(small),
                     scale,
                     edges_of(*pixels),
                     picture_kind(*bytes) == PictureKind::pdf};
    }
    return ShownEntry{entry.id,
                      decoded_->small,
                      decoded_->scale,
                      decoded_->edges,
                      image_of(fitted(treated(decoded_->pixels, entry.treatment), kPagePx)),
                      decoded_->drawn};
}

}  // namespace fernleaf
