#include "paper/stroke_tracing.h"

#include <algorithm>
#include <array>
#include <numbers>
#include <opencv2/imgproc.hpp>
#include <optional>

#include "base/quantile.h"

namespace fernleaf {
namespace {

constexpr double kMostBend = 70.0 / 180 * std::numbers::pi;  // more sharply no pen is taken to run on at a fork
constexpr double kSmoothing = 0.9;  // of the ink's half width: deviation of the smoothing along the way
constexpr double kRoundEnd = 0.5;   // px of half width a px of way: so steeply ink narrows only at its end
constexpr double kDot = 0.6;        // of its width: shorter ink is a dot
constexpr int kPinholePx = 3;
constexpr double kUpright = 1.4;    // so much higher than wide is written from above
constexpr double kFaithful = 0.22;  // px: points nearer to the line between others are left out
constexpr double kFarthestPx = 12;  // points lie no farther apart

class Tracer {
public:
    Tracer(const InkGraph& graph, const cv::Mat& half_width) : graph_(graph), half_width_(half_width) {
        link_.resize(graph_.ways.size());
        for (size_t node = 0; node < graph_.nodes.size(); ++node) pair_at(static_cast<int>(node));
    }

    std::vector<TracedStroke> strokes() {
        std::vector<TracedStroke> out;
        std::vector<bool> done(graph_.ways.size(), false);
        // First those with an end, then rings.
        for (const bool rings : {false, true})
            for (size_t i = 0; i < graph_.ways.size(); ++i) {
                if (done[i]) continue;
                for (const int side : {0, 1})
                    if (!done[i] && (rings || !link_[i][static_cast<size_t>(side)]))
                        out.push_back(follow({i, side}, done));
            }
        return out;
    }

private:
    void pair_at(int node) {
        std::vector<WayEnd> ends;
        for (size_t i = 0; i < graph_.ways.size(); ++i) {
            if (graph_.ways[i].from == node) ends.push_back({i, 0});
            if (graph_.ways[i].to == node) ends.push_back({i, 1});
        }
        struct Pair {
            double bend;
            size_t a, b;
        };
        std::vector<Pair> pairs;
        std::vector<Point> ways;
        for (const WayEnd& end : ends) ways.push_back(leaving(graph_, end));
        for (size_t a = 0; a < ends.size(); ++a)
            for (size_t b = a + 1; b < ends.size(); ++b)
                pairs.push_back({std::acos(std::clamp(-dot(ways[a], ways[b]), -1.0, 1.0)), a, b});
        std::ranges::sort(pairs, {}, &Pair::bend);
        std::vector<bool> taken(ends.size(), false);
        for (const Pair& pair : pairs) {
            // Where only two ways meet they are one.
            if (taken[pair.a] || taken[pair.b] || (ends.size() > 2 && pair.bend > kMostBend)) continue;
            taken[pair.a] = taken[pair.b] = true;
            link_[ends[pair.a].way][static_cast<size_t>(ends[pair.a].side)] = ends[pair.b];
            link_[ends[pair.b].way][static_cast<size_t>(ends[pair.b].side)] = ends[pair.a];
        }
    }

    int node_at(WayEnd end) const { return end.side == 0 ? graph_.ways[end.way].from : graph_.ways[end.way].to; }

    double half_width_at(Point p) const {
        const int x = std::clamp(static_cast<int>(std::lround(p.x)), 0, half_width_.cols - 1);
        const int y = std::clamp(static_cast<int>(std::lround(p.y)), 0, half_width_.rows - 1);
        return half_width_.at<float>(y, x);
    }

    // An end of ink, where no other way goes on.
    bool free_end(WayEnd end) const {
        const int node = node_at(end);
        size_t ends = 0;
        for (const InkWay& way : graph_.ways)
            ends += static_cast<size_t>(way.from == node) + static_cast<size_t>(way.to == node);
        return node >= 0 && ends == 1;
    }

    // The middle line reaches to the border of the ink; the middle of the nib never came nearer to it than half the
    // ink's width: as long as that grows from the end on nearly as the way does, the way goes.
    void trim(TracedStroke& stroke) const {
        while (stroke.points.size() > 2) {
            const Point here = stroke.points.back(), before = stroke.points[stroke.points.size() - 3];
            if (half_width_at(before) - half_width_at(here) < kRoundEnd * distance(here, before)) return;
            stroke.points.pop_back();
            stroke.widths.pop_back();
        }
    }

    TracedStroke follow(WayEnd start, std::vector<bool>& done) {
        TracedStroke out;
        // A stroke that begins at a fork begins in the middle of the one it leaves.
        if (const int node = node_at(start); node >= 0)
            out.points.push_back(graph_.nodes[static_cast<size_t>(node)].at);
        std::optional<WayEnd> at = start;
        WayEnd last = start;
        while (at && !done[at->way]) {
            done[at->way] = true;
            std::vector<Point> points = graph_.ways[at->way].points;
            if (at->side == 1) std::ranges::reverse(points);
            out.points.insert(out.points.end(), points.begin(), points.end());
            last = {at->way, 1 - at->side};
            at = link_[last.way][static_cast<size_t>(last.side)];
        }
        if (const int node = node_at(last); node >= 0) out.points.push_back(graph_.nodes[static_cast<size_t>(node)].at);
        for (const Point& p : out.points) out.widths.push_back(std::max(1.0, 2 * half_width_at(p) - 1));
        if (free_end(last)) trim(out);
        if (free_end(start)) {
            std::ranges::reverse(out.points), std::ranges::reverse(out.widths);
            trim(out);
            std::ranges::reverse(out.points), std::ranges::reverse(out.widths);
        }
        return out;
    }

    const InkGraph& graph_;
    const cv::Mat& half_width_;
    std::vector<std::array<std::optional<WayEnd>, 2>> link_;  // what each way's ends run on in
};

// A Gaussian along the way; the ends stay, and a ring stays one.
void smooth(TracedStroke& stroke, double sigma) {
    const auto n = static_cast<std::ptrdiff_t>(stroke.points.size());
    if (n < 3) return;
    const bool ring = n > 8 && distance(stroke.points.front(), stroke.points.back()) < 1.5;
    const auto reach = static_cast<std::ptrdiff_t>(std::ceil(3 * sigma));
    std::vector<Point> points(stroke.points.size());
    std::vector<double> widths(stroke.points.size());
    for (std::ptrdiff_t i = 0; i < n; ++i) {
        // Towards an end the window closes, so that the end stays where it is.
        const std::ptrdiff_t room = ring ? reach : std::min({reach, i, n - 1 - i});
        Point sum{};
        double width = 0, all = 0;
        for (std::ptrdiff_t k = -room; k <= room; ++k) {
            const auto j = static_cast<size_t>(((i + k) % n + n) % n);
            const double w = std::exp(-0.5 * static_cast<double>(k * k) / (sigma * sigma));
            sum = sum + stroke.points[j] * w;
            width += stroke.widths[j] * w;
            all += w;
        }
        points[static_cast<size_t>(i)] = sum * (1 / all);
        widths[static_cast<size_t>(i)] = width / all;
    }
    if (ring) points.back() = points.front();
    stroke.points = std::move(points);
    stroke.widths = std::move(widths);
}

// Keeps what the way's form needs (Douglas & Peucker 1973).
void thin_out(TracedStroke& stroke) {
    const size_t n = stroke.points.size();
    if (n < 3) return;
    std::vector<bool> kept(n, false);
    kept.front() = kept.back() = true;
    std::vector<std::pair<size_t, size_t>> parts{{0, n - 1}};
    while (!parts.empty()) {
        const auto [a, b] = parts.back();
        parts.pop_back();
        size_t farthest = (a + b) / 2;
        double off = distance(stroke.points[a], stroke.points[b]) > kFarthestPx ? kFaithful : 0;
        for (size_t i = a + 1; i < b; ++i)
            if (const double d = distance_to_segment(stroke.points[i], stroke.points[a], stroke.points[b]); d > off)
                off = d, farthest = i;
        if (b - a < 2 || off < kFaithful) continue;
        kept[farthest] = true;
        parts.emplace_back(a, farthest);
        parts.emplace_back(farthest, b);
    }
    TracedStroke out;
    for (size_t i = 0; i < n; ++i)
        if (kept[i]) out.points.push_back(stroke.points[i]), out.widths.push_back(stroke.widths[i]);
    stroke = std::move(out);
}

// Ink hardly longer than it is wide is a point that the nib touched.
void make_dot(TracedStroke& stroke) {
    double way = 0;
    for (size_t i = 1; i < stroke.points.size(); ++i) way += distance(stroke.points[i - 1], stroke.points[i]);
    const double widest = *std::ranges::max_element(stroke.widths);
    if (way < kDot * widest) stroke = {{stroke.points[stroke.points.size() / 2]}, {widest}};
}

// Fibres of the paper and noise leave holes in ink, and every hole would be a loop.
cv::Mat without_pinholes(const cv::Mat& mask) {
    cv::Mat ink = mask != 0, labels, stats, centres;
    const int count = cv::connectedComponentsWithStats(~ink, labels, stats, centres, 4);
    for (int i = 1; i < count; ++i)
        if (stats.at<int>(i, cv::CC_STAT_AREA) <= kPinholePx) {
            const cv::Rect box(stats.at<int>(i, cv::CC_STAT_LEFT), stats.at<int>(i, cv::CC_STAT_TOP),
                               stats.at<int>(i, cv::CC_STAT_WIDTH), stats.at<int>(i, cv::CC_STAT_HEIGHT));
            if (box.x > 0 && box.y > 0 && box.br().x < mask.cols && box.br().y < mask.rows)
                ink(box).setTo(255, labels(box) == i);
        }
    return ink;
}

// As people mostly write: from the left, uprights from above, rings from the top against the clock.
void set_direction(TracedStroke& stroke) {
    const Point a = stroke.points.front(), b = stroke.points.back();
    if (stroke.points.size() > 8 && distance(a, b) < 1.5) {
        const auto top = std::ranges::min_element(stroke.points, {}, &Point::y) - stroke.points.begin();
        stroke.points.pop_back(), stroke.widths.pop_back();
        std::rotate(stroke.points.begin(), stroke.points.begin() + top, stroke.points.end());
        std::rotate(stroke.widths.begin(), stroke.widths.begin() + top, stroke.widths.end());
        double around = 0;  // twice the area, clockwise positive
        for (size_t i = 0; i < stroke.points.size(); ++i) {
            const Point p = stroke.points[i], q = stroke.points[(i + 1) % stroke.points.size()];
            around += p.x * q.y - p.y * q.x;
        }
        if (around > 0) {
            std::reverse(stroke.points.begin() + 1, stroke.points.end());
            std::reverse(stroke.widths.begin() + 1, stroke.widths.end());
        }
        stroke.points.push_back(stroke.points.front()), stroke.widths.push_back(stroke.widths.front());
        return;
    }
    Box box;
    for (const Point& p : stroke.points) box.include(p);
    const bool upright = box.height() > kUpright * box.width();
    if (upright ? a.y > b.y : a.x > b.x) {
        std::ranges::reverse(stroke.points);
        std::ranges::reverse(stroke.widths);
    }
}

}  // namespace

std::vector<TracedStroke> traced_strokes(const cv::Mat& mask) {
    if (mask.empty()) return {};
    const cv::Mat ink = without_pinholes(mask);
    cv::Mat padded, distances;
    cv::copyMakeBorder(ink, padded, 1, 1, 1, 1, cv::BORDER_CONSTANT, cv::Scalar(0));
    cv::distanceTransform(padded, distances, cv::DIST_L2, cv::DIST_MASK_PRECISE);
    const cv::Mat half_width = distances(cv::Rect(1, 1, mask.cols, mask.rows)).clone();
    const InkGraph graph = ink_graph(ink, half_width);
    std::vector<TracedStroke> out = Tracer(graph, half_width).strokes();
    for (TracedStroke& stroke : out) {
        make_dot(stroke);
        smooth(stroke, std::max(0.8, kSmoothing * median(stroke.widths) / 2));
        set_direction(stroke);
        thin_out(stroke);
    }
    const auto left = [](const TracedStroke& s) {
        double x = s.points.front().x;
        for (const Point& p : s.points) x = std::min(x, p.x);
        return x;
    };
    std::ranges::stable_sort(out, {}, left);
    return out;
}

}  // namespace fernleaf
