#include "paper/lifted_ink.h"

#include <algorithm>
#include <map>
#include <numbers>
#include <opencv2/imgproc.hpp>

#include "base/quantile.h"
#include "ink/selecting.h"
#include "paper/cleaning.h"
#include "paper/ink_contrast.h"
#include "paper/lab.h"
#include "paper/pen_blur.h"
#include "paper/piece_strokes.h"
#include "paper/scan_lines.h"
#include "paper/sheet_picture.h"

namespace fernleaf {
namespace {

constexpr double kReadingShare = 0.6;               // of the time: telling print from writing
constexpr double kCore = 0.8;                       // of a piece's darkness: the rest is its soft border
constexpr double kSteepest = 0.8;                   // of its steepness: its border
constexpr double kBlurShare = 0.9;                  // of what borders tell: strokes bend and cross, too
constexpr double kLeastFit = 0.5, kMostFit = 1.25;  // of the width that the mask tells
constexpr double kSameInk = 18;                     // CIE76: nearer colours are one pen's
constexpr double kSameNib = 0.4;       // of the width: strokes as broad as most of a pen's are as broad as all of them
constexpr double kBandWidth = 3.5;     // of the usual stroke's width: a highlighter's
constexpr double kBandLightness = 55;  // of 100
constexpr double kPaceMmPerS = 50;     // of a hand that writes calmly
constexpr double kPlaces = 1e5;
constexpr double kDotMm = 0.05;  // two points of a dot lie that far apart

// One piece of ink that is to be lifted, as it stands in the page made smaller.
struct Piece {
    cv::Rect box;
    double area = 0;
    cv::Vec3d bgr;    // of its middle
    double mass = 0;  // px: its area, faint pixels counted in part
    double edge = 0;  // a px: how steeply it darkens at its border, in parts of its darkness
    std::vector<TracedStroke> strokes;
};

// As wide as strokes of these ways have to be to make so much ink, whatever the blur.
double width_of(const Piece& piece) {
    double way = 0;
    for (const TracedStroke& s : piece.strokes)
        for (size_t i = 1; i < s.points.size(); ++i) way += distance(s.points[i - 1], s.points[i]);
    // mass = way * width + ends * pi / 4 * width^2
    const double ends = std::numbers::pi / 4 * static_cast<double>(piece.strokes.size());
    return (std::sqrt(way * way + 4 * ends * piece.mass) - way) / (2 * ends);
}

void fit_widths(Piece& piece) {
    double sum = 0, count = 0;
    for (const TracedStroke& s : piece.strokes)
        for (const double w : s.widths) sum += w, ++count;
    const double by = std::clamp(width_of(piece) * count / sum, kLeastFit, kMostFit);
    for (TracedStroke& s : piece.strokes)
        for (double& w : s.widths) w *= by;
}

// Pieces in the order they were probably written in: from the left, and what lies over or under others, as dots and
// crosses do, after those.
std::vector<size_t> in_writing_order(std::vector<size_t> pieces, const InkMask& ink) {
    std::ranges::sort(pieces, {}, [&](size_t i) { return ink.pieces[i].box.x; });
    std::vector<size_t> out, marks;
    int reached = 0;
    const auto flush = [&] {
        out.insert(out.end(), marks.begin(), marks.end());
        marks.clear();
    };
    int highest = 0;
    for (const size_t i : pieces) highest = std::max(highest, ink.pieces[i].box.height);
    for (const size_t i : pieces) {
        const cv::Rect& box = ink.pieces[i].box;
        if (box.height < highest / 3 && box.x + box.width / 2 < reached && !out.empty()) {
            marks.push_back(i);
            continue;
        }
        if (box.x > reached) flush();
        out.push_back(i);
        reached = std::max(reached, box.br().x);
    }
    flush();
    return out;
}

// The colour where it is darkest, and how much ink there is.
void weigh(const cv::Mat& bgr, const InkMask& ink, const InkPiece& piece, Piece& out) {
    std::vector<uchar> darkness;
    std::vector<float> steepness;
    const auto each = [&](const auto& what) {
        for (int y = piece.box.y; y < piece.box.br().y; ++y)
            for (int x = piece.box.x; x < piece.box.br().x; ++x)
                if (ink.labels.at<int>(y, x) == piece.label) what(y, x);
    };
    const auto dark_at = [&](int y, int x) {
        return static_cast<float>(
            ink.dark.at<uchar>(std::clamp(y, 0, ink.dark.rows - 1), std::clamp(x, 0, ink.dark.cols - 1)));
    };
    each([&](int y, int x) {
        darkness.push_back(ink.dark.at<uchar>(y, x));
        steepness.push_back(std::hypot(dark_at(y, x + 1) - dark_at(y, x - 1), dark_at(y + 1, x) - dark_at(y - 1, x)) /
                            2);
    });
    const double core = std::max<double>(1, quantile(std::move(darkness), kCore));
    out.edge = static_cast<double>(quantile(std::move(steepness), kSteepest)) / core;
    cv::Vec3d sum;
    double count = 0;
    each([&](int y, int x) {
        const double dark = ink.dark.at<uchar>(y, x);
        out.mass += std::min(1.0, dark / core);
        if (dark >= core) sum += bgr.at<cv::Vec3b>(y, x), ++count;
    });
    out.bgr = sum * (1 / std::max(1.0, count));
}

uint32_t rgb_of(const cv::Vec3d& bgr) {
    const auto channel = [&](int i) { return static_cast<uint32_t>(std::lround(std::clamp(bgr[i], 0.0, 255.0))); };
    return channel(2) << 16 | channel(1) << 8 | channel(0);
}

// A pen that wrote on the page: pieces of about one colour.
struct Ink {
    cv::Vec3d bgr;
    double area = 0;
    double seen_px = 0;   // how wide its strokes seem
    double width_px = 0;  // and are, behind the blur
};

// Greedily, the largest pieces first, as leaders (Hartigan 1975).
std::vector<size_t> inks_of(const std::vector<Piece>& pieces, std::vector<Ink>& inks) {
    std::vector<size_t> order(pieces.size()), out(pieces.size());
    for (size_t i = 0; i < order.size(); ++i) order[i] = i;
    std::ranges::stable_sort(order, std::greater(), [&](size_t i) { return pieces[i].area; });
    for (const size_t i : order) {
        const cv::Vec3d lab = lab_of(pieces[i].bgr);
        size_t best = inks.size();
        double nearest = kSameInk;
        for (size_t k = 0; k < inks.size(); ++k)
            if (const double off = cv::norm(lab_of(inks[k].bgr) - lab); off < nearest) best = k, nearest = off;
        if (best == inks.size()) inks.push_back({pieces[i].bgr, 0, 0, 0});
        Ink& ink = inks[best];
        ink.bgr = (ink.bgr * ink.area + pieces[i].bgr * pieces[i].area) * (1 / (ink.area + pieces[i].area));
        ink.area += pieces[i].area;
        out[i] = best;
    }
    for (size_t k = 0; k < inks.size(); ++k) {
        std::vector<double> widths;
        for (size_t i = 0; i < pieces.size(); ++i)
            if (out[i] == k)
                for (const TracedStroke& s : pieces[i].strokes)
                    widths.insert(widths.end(), s.widths.begin(), s.widths.end());
        inks[k].seen_px = median(std::move(widths));
    }
    if (inks.empty()) return out;
    // The blur is the whole page's; what most is written with tells it.
    const auto most = std::ranges::max_element(inks, {}, &Ink::area);
    std::vector<double> edges;
    for (size_t i = 0; i < pieces.size(); ++i)
        if (out[i] == static_cast<size_t>(most - inks.begin())) edges.push_back(pieces[i].edge);
    const double blur = kBlurShare * blur_of(most->seen_px, median(std::move(edges)));
    for (Ink& ink : inks) ink.width_px = width_behind(ink.seen_px, blur);
    return out;
}

// In parts of the page, to no more places than are kept.
Box part_of(const cv::Rect& box, cv::Size page) {
    const auto part = [](double px, double all) { return std::round(px / all * kPlaces) / kPlaces; };
    return {part(box.x, page.width), part(box.y, page.height), part(box.br().x, page.width),
            part(box.br().y, page.height)};
}

void set_times(Stroke& stroke) {
    double way = 0;
    std::vector<InkPoint>& points = stroke.points.change();
    for (size_t i = 1; i < points.size(); ++i) {
        way += distance(points[i - 1].at, points[i].at);
        points[i].time_ms = static_cast<uint32_t>(way / kPaceMmPerS * 1000);
    }
}

}  // namespace

LiftedInk lift_ink(const cv::Mat& page, const Picture& picture, const Reader& reader, PrintSkills* print,
                   const ReadSettings& settings, const std::vector<Point>& within, const CancelToken& cancel,
                   const Progress& progress) {
    LiftedInk out;
    const ScannedPage scanned = scan_page(page);
    if (scanned.lines.empty()) return out;
    // Only with print there is something to be told from it.
    const std::vector<AnyLineReading> readings = print ? read_scanned(scanned, reader, print, settings, cancel,
                                                                      [&](double part) {
                                                                          if (progress) progress(kReadingShare * part);
                                                                      })
                                                       : std::vector<AnyLineReading>(scanned.lines.size());

    const InkMask& ink = scanned.ink;
    const cv::Size size = ink.dark.size();
    cv::Mat clean;
    cv::resize(restore_ink_contrast(evenly_lit(page), kPaperLevel), clean, size, 0, 0, cv::INTER_AREA);
    clean.convertTo(clean, CV_8UC3, 255.0 / kPaperLevel);

    const double across = picture.box.width() / (picture.crop.width() * size.width);
    const double down = picture.box.height() / (picture.crop.height() * size.height);
    const auto place = [&](Point px) {
        const Point flat{picture.box.left + (px.x + 0.5 - picture.crop.left * size.width) * across,
                         picture.box.top + (px.y + 0.5 - picture.crop.top * size.height) * down};
        return turned(flat, picture.angle, picture.box.centre());
    };
    std::vector<Piece> pieces;
    for (size_t l = 0; l < scanned.lines.size(); ++l) {
        if (cancel.cancelled()) return {};
        const ScanLine& line = scanned.lines[l];
        std::map<size_t, std::optional<size_t>> word_of;  // by piece
        const std::vector<std::optional<size_t>> words = words_of_pieces(scanned, line, readings[l].line.words);
        for (size_t i = 0; i < line.pieces.size(); ++i) word_of[line.pieces[i]] = words[i];
        for (const size_t i : in_writing_order(line.pieces, ink)) {
            const InkPiece& piece = ink.pieces[i];
            const Point middle{piece.middle.x / size.width, piece.middle.y / size.height};
            const std::optional<size_t> word = word_of[i];
            if (!picture.crop.contains(middle) || (word && readings[l].printed[*word])) continue;
            if (!within.empty() && !inside(within, place({piece.middle.x, piece.middle.y}))) continue;
            if (was_lifted(picture.treatment, piece.box, size)) continue;
            Piece one{piece.box, static_cast<double>(piece.area), {}, 0, 0, {}};
            weigh(clean, ink, piece, one);
            one.strokes = strokes_of(ink, piece);
            if (one.strokes.empty()) continue;
            fit_widths(one);
            out.places.push_back(part_of(piece.box, size));
            pieces.push_back(std::move(one));
        }
        if (progress)
            progress(kReadingShare +
                     (1 - kReadingShare) * static_cast<double>(l + 1) / static_cast<double>(scanned.lines.size()));
    }

    std::vector<Ink> inks;
    const std::vector<size_t> ink_of = inks_of(pieces, inks);
    for (size_t i = 0; i < pieces.size(); ++i)
        for (const TracedStroke& traced : pieces[i].strokes) {
            const Ink& pen = inks[ink_of[i]];
            double width = median(traced.widths);
            const bool band = width > kBandWidth * ink.stroke_px && lab_of(pen.bgr)[0] > kBandLightness;
            const bool usual = std::abs(width - pen.seen_px) < kSameNib * pen.seen_px;
            width = !band && usual ? pen.width_px : std::max(kThinnestPx, width - (pen.seen_px - pen.width_px));
            Stroke stroke;
            stroke.pen.colour = rgb_of(pen.bgr);
            stroke.pen.width_mm = std::clamp(static_cast<float>(width * across), 0.05F, 10.0F);
            stroke.pen.by_pressure = false;
            if (band) stroke.pen.kind = PenKind::highlighter;
            for (const Point& p : traced.points) stroke.points.push_back({place(p)});
            if (stroke.points.size() == 1) stroke.points.push_back({stroke.points[0].at + Point{kDotMm, 0}});
            set_times(stroke);
            out.strokes.push_back(std::move(stroke));
        }
    return out;
}

}  // namespace fernleaf
