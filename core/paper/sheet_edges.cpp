#include "paper/sheet_edges.h"

#include <numbers>
#include <opencv2/imgproc.hpp>

#include "paper/lab.h"
#include "paper/shrunk.h"

namespace fernleaf {
namespace {

constexpr double kInkPx = 9;         // thinner dark things are ink, of a picture 800 px long
constexpr double kShortest = 0.035;  // of the picture's longer side: a segment that counts
constexpr double kSameTurn = 0.05;   // radians: segments of one line
constexpr double kSameOffsetPx = 5;  // of its ends from the line
constexpr double kLeastRange = 4;    // of 255: of a channel with less the detector takes nothing for an edge

struct Segment {
    Point a, b;
    double length() const { return distance(a, b); }
};

std::vector<Segment> segments_in(const cv::Mat& channel, double shortest) {
    const auto detector = cv::createLineSegmentDetector(cv::LSD_REFINE_STD, 0.8, 0.6, 1.0);
    std::vector<cv::Vec4f> found;
    detector->detect(channel, found);
    std::vector<Segment> out;
    for (const cv::Vec4f& s : found) {
        const Segment segment{{s[0], s[1]}, {s[2], s[3]}};
        if (segment.length() >= shortest) out.push_back(segment);
    }
    return out;
}

EdgeLine through(Point a, Point b) {
    const Point d = b - a;
    const Point normal = Point{d.y, -d.x} * (1 / std::max(1e-9, length(d)));
    return {normal, dot(normal, a), 0, false};
}

// The line that lies best among the ends of segments, by their lengths.
EdgeLine fitted(const std::vector<Segment>& segments) {
    double weight = 0;
    Point middle;
    for (const Segment& s : segments) {
        middle = middle + (s.a + s.b) * (s.length() / 2);
        weight += s.length();
    }
    middle = middle * (1 / weight);
    double xx = 0, xy = 0, yy = 0;
    for (const Segment& s : segments)
        for (const Point& end : {s.a, s.b}) {
            const Point d = end - middle;
            xx += s.length() * d.x * d.x, xy += s.length() * d.x * d.y, yy += s.length() * d.y * d.y;
        }
    const double angle = 0.5 * std::atan2(2 * xy, xx - yy);
    const Point normal{std::sin(angle), -std::cos(angle)};
    return {normal, dot(normal, middle), 0, false};
}

// How much of the line lies beside its segments; where they overlap it counts once.
double covered(const EdgeLine& line, const std::vector<Segment>& segments) {
    std::vector<std::pair<double, double>> spans;
    for (const Segment& s : segments) spans.push_back(std::minmax(line.t_of(s.a), line.t_of(s.b)));
    std::ranges::sort(spans);
    double sum = 0, end = -std::numeric_limits<double>::infinity();
    for (const auto& [from, to] : spans) {
        sum += std::max(0.0, to - std::max(from, end));
        end = std::max(end, to);
    }
    return sum;
}

}  // namespace

EdgePicture edge_picture(const cv::Mat& pixels, int long_side_px, bool with_slopes) {
    EdgePicture out;
    out.scale = factor_to(pixels, long_side_px);
    cv::Mat small;
    cv::medianBlur(shrunk(pixels, out.scale), small, 3);
    // Writing is dark and thin: closing takes it out and leaves the sheet's borders where they are.
    const int ink = 2 * static_cast<int>(kInkPx * std::max(small.cols, small.rows) / 1600) + 1;
    cv::morphologyEx(small, small, cv::MORPH_CLOSE, cv::getStructuringElement(cv::MORPH_RECT, {ink, ink}));
    cv::GaussianBlur(to_lab(small), out.lab, {}, 1);
    if (!with_slopes) return out;
    cv::Sobel(out.lab, out.slope_x, CV_32F, 1, 0, 3, 1 / 8.0);
    cv::Sobel(out.lab, out.slope_y, CV_32F, 0, 1, 3, 1 / 8.0);
    return out;
}

std::vector<EdgeLine> edge_lines(const EdgePicture& picture, size_t most) {
    const int w = picture.lab.cols, h = picture.lab.rows;
    std::vector<cv::Mat> channels;
    cv::split(picture.lab, channels);
    std::vector<Segment> segments;
    for (size_t c = 0; c < channels.size(); ++c) {
        cv::Mat grey;  // faint differences of colour count as much as clear ones of brightness
        if (c == 0)
            channels[c].convertTo(grey, CV_8U, 2.55);
        else
            channels[c].convertTo(grey, CV_8U, 4, 128);
        double darkest = 0, brightest = 0;
        cv::minMaxLoc(grey, &darkest, &brightest);
        if (brightest - darkest < kLeastRange) continue;
        std::ranges::move(segments_in(grey, kShortest * std::max(w, h)), std::back_inserter(segments));
    }
    std::ranges::sort(segments, std::greater{}, &Segment::length);

    std::vector<EdgeLine> lines;
    std::vector<bool> used(segments.size(), false);
    for (size_t i = 0; i < segments.size(); ++i) {
        if (used[i]) continue;
        EdgeLine line = through(segments[i].a, segments[i].b);
        std::vector<Segment> own;
        // Twice: the second time about the line that the first ones make together.
        for (int pass = 0; pass < 2; ++pass) {
            own.clear();
            for (size_t k = i; k < segments.size(); ++k) {
                const Segment& s = segments[k];
                if (pass == 0 && used[k]) continue;
                const Point d = (s.b - s.a) * (1 / s.length());
                const bool along = std::abs(dot(d, line.normal)) < kSameTurn;
                const auto off = [&](Point p) { return std::abs(dot(line.normal, p) - line.offset); };
                if (!along || off(s.a) > kSameOffsetPx || off(s.b) > kSameOffsetPx) continue;
                own.push_back(s);
                used[k] = true;
            }
            if (own.empty()) break;
            line = fitted(own);
        }
        if (own.empty()) continue;
        line.support = covered(line, own);
        lines.push_back(line);
    }
    std::ranges::sort(lines, std::greater{}, &EdgeLine::support);
    if (lines.size() > most) lines.resize(most);
    const EdgeLine borders[] = {
        {{0, -1}, 0, 0, true}, {{1, 0}, w - 1.0, 0, true}, {{0, 1}, h - 1.0, 0, true}, {{-1, 0}, 0, 0, true}};
    lines.insert(lines.end(), std::begin(borders), std::end(borders));
    return lines;
}

}  // namespace fernleaf
