#include "paper/skeleton.h"

#include <algorithm>
#include <array>
#include <opencv2/imgproc.hpp>
#include <utility>

namespace fernleaf {
namespace {

const std::array<cv::Point, 8> kAround{
    {{0, -1}, {1, -1}, {1, 0}, {1, 1}, {0, 1}, {-1, 1}, {-1, 0}, {-1, -1}}};  // clockwise from above
constexpr double kSpur = 0.3, kSpurPx = 0.5;  // of the half width where it leaves: what stands out less is a spur
constexpr double kCrossing = 1.6;             // of it: forks that near are one crossing
constexpr double kFlatCrossing = 7;           // and those, if the ways on both sides run on in one another
constexpr double kRunsOn = 0.94;              // cosine: 20 degrees
constexpr double kLookFrom = 1, kLookTo = 3.5, kLookPx = 3;  // of the half width: where a way's direction is taken

std::array<bool, 8> around(const cv::Mat& mask, cv::Point p) {
    std::array<bool, 8> out{};
    for (size_t k = 0; k < 8; ++k) out[k] = mask.at<uchar>(p + kAround[k]) != 0;
    return out;
}

// Ink is not torn where a pixel goes when what is around it stays connected: one run of ink, counted so that corners
// connect.
int runs_around(const std::array<bool, 8>& n) {
    int runs = 0;
    for (size_t k = 0; k < 8; k += 2) runs += !n[k] && (n[k + 1] || n[(k + 2) % 8]);
    return runs;
}

bool goes(const std::array<bool, 8>& n, int half) {
    if (runs_around(n) != 1) return false;
    const auto pairs = [&](size_t first) {
        int count = 0;
        for (size_t k = first; k < first + 8; k += 2) count += n[k % 8] || n[(k + 1) % 8];
        return count;
    };
    const int least = std::min(pairs(7), pairs(0));
    if (least < 2 || least > 3) return false;
    // n[0] above, clockwise: Guo and Hall's p2 to p9.
    const bool kept = half == 0 ? ((n[0] || n[1] || !n[3]) && n[2]) : ((n[4] || n[5] || !n[7]) && n[6]);
    return !kept;
}

std::vector<cv::Point> pixels_of(const cv::Mat& mask) {
    std::vector<cv::Point> out;
    cv::findNonZero(mask, out);
    return out;
}

// Pixels at the inner corners of a staircase: the way goes past them.
void take_away_stairs(cv::Mat& padded) {
    for (const cv::Point p : pixels_of(padded)) {
        const std::array<bool, 8> n = around(padded, p);
        if (std::ranges::count(n, true) < 2 || runs_around(n) != 1) continue;
        const bool corner = (n[0] && n[2]) || (n[2] && n[4]) || (n[4] && n[6]) || (n[6] && n[0]);
        if (corner) padded.at<uchar>(p) = 0;
    }
}

cv::Mat thinned_padded(const cv::Mat& mask) {
    cv::Mat out;
    cv::copyMakeBorder(mask != 0, out, 1, 1, 1, 1, cv::BORDER_CONSTANT, cv::Scalar(0));
    std::vector<cv::Point> left = pixels_of(out), going;
    for (bool changed = true; changed;) {
        changed = false;
        for (const int half : {0, 1}) {
            going.clear();
            for (const cv::Point p : left)
                if (goes(around(out, p), half)) going.push_back(p);
            for (const cv::Point p : going) out.at<uchar>(p) = 0;
            changed = changed || !going.empty();
            std::erase_if(left, [&](cv::Point p) { return out.at<uchar>(p) == 0; });
        }
    }
    take_away_stairs(out);
    return out;
}

double way_length(const InkWay& way) {
    double sum = 0;
    for (size_t i = 1; i < way.points.size(); ++i) sum += distance(way.points[i - 1], way.points[i]);
    return sum;
}

class GraphMaker {
public:
    GraphMaker(const cv::Mat& mask, const cv::Mat& half_width)
        : thin_(thinned_padded(mask)), half_width_(half_width), node_of_(thin_.size(), CV_32S, cv::Scalar(-1)) {}

    InkGraph make() {
        find_nodes();
        cv::Mat left = thin_.clone();
        for (const cv::Point p : pixels_of(thin_))
            if (node_of_.at<int>(p) >= 0) left.at<uchar>(p) = 0;
        for (const cv::Point p : pixels_of(thin_))
            if (node_of_.at<int>(p) >= 0) follow_from(p, left);
        for (const cv::Point p : pixels_of(left))
            if (left.at<uchar>(p) != 0) follow_ring(p, left);
        join_crossings();
        drop_spurs();
        if (out_.ways.empty() && !out_.nodes.empty()) out_.ways.push_back({{out_.nodes[0].at}, -1, -1});  // a speck
        return std::move(out_);
    }

private:
    static Point place(cv::Point padded) {
        return {static_cast<double>(padded.x - 1), static_cast<double>(padded.y - 1)};
    }
    double radius_at(cv::Point padded) const { return half_width_.at<float>(padded - cv::Point(1, 1)); }

    // Ends, and pixels from which more than two ways lead; such that touch are one node.
    void find_nodes() {
        cv::Mat special(thin_.size(), CV_8U, cv::Scalar(0));
        for (const cv::Point p : pixels_of(thin_)) {
            const std::array<bool, 8> n = around(thin_, p);
            if (std::ranges::count(n, true) != 2) special.at<uchar>(p) = 255;
        }
        cv::Mat labels;
        const int count = cv::connectedComponents(special, labels) - 1;
        std::vector<int> pixels(static_cast<size_t>(count), 0);
        out_.nodes.resize(static_cast<size_t>(count));
        for (const cv::Point p : pixels_of(special)) {
            const int node = labels.at<int>(p) - 1;
            node_of_.at<int>(p) = node;
            InkGraph::Node& n = out_.nodes[static_cast<size_t>(node)];
            n.at = n.at + place(p);
            n.radius = std::max(n.radius, radius_at(p));
            ++pixels[static_cast<size_t>(node)];
        }
        for (size_t i = 0; i < out_.nodes.size(); ++i) out_.nodes[i].at = out_.nodes[i].at * (1.0 / pixels[i]);
    }

    // A pixel of a way has two neighbours: the one it was come from, and the next.
    cv::Point next(cv::Point p, cv::Point before) const {
        cv::Point out = before;
        for (const cv::Point& step : kAround)
            if (thin_.at<uchar>(p + step) != 0 && p + step != before) out = p + step;
        return out;
    }

    void follow_from(cv::Point start, cv::Mat& left) {
        for (const cv::Point& step : kAround) {
            cv::Point before = start, p = start + step;
            if (left.at<uchar>(p) == 0) continue;
            InkWay way;
            way.from = node_of_.at<int>(start);
            while (node_of_.at<int>(p) < 0) {
                way.points.push_back(place(p));
                left.at<uchar>(p) = 0;
                before = std::exchange(p, next(p, before));
            }
            way.to = node_of_.at<int>(p);
            out_.ways.push_back(std::move(way));
        }
    }

    void follow_ring(cv::Point start, cv::Mat& left) {
        InkWay way;
        cv::Point before = start, p = start;
        do {
            way.points.push_back(place(p));
            left.at<uchar>(p) = 0;
            before = std::exchange(p, next(p, before));
        } while (p != start);
        way.points.push_back(way.points.front());
        out_.ways.push_back(std::move(way));
    }

    size_t degree(int node) const {
        size_t sum = 0;
        for (const InkWay& w : out_.ways)
            sum += static_cast<size_t>(w.from == node) + static_cast<size_t>(w.to == node);
        return sum;
    }

    // Thick strokes that cross leave two forks with a short way between; at a small angle it is longer, but then the
    // ways on both sides run on in one another.
    bool one_crossing(size_t between) const {
        const InkWay& way = out_.ways[between];
        const InkGraph::Node& a = out_.nodes[static_cast<size_t>(way.from)];
        const InkGraph::Node& b = out_.nodes[static_cast<size_t>(way.to)];
        const double apart = way_length(way), radius = std::max(a.radius, b.radius);
        if (apart <= kCrossing * radius) return true;
        if (apart > kFlatCrossing * radius) return false;
        const auto leaving_from = [&](int node) {
            std::vector<Point> out;
            for (size_t i = 0; i < out_.ways.size(); ++i)
                for (const int side : {0, 1})
                    if (i != between && (side == 0 ? out_.ways[i].from : out_.ways[i].to) == node)
                        out.push_back(leaving(out_, {i, side}));
            return out;
        };
        const std::vector<Point> left = leaving_from(way.from), right = leaving_from(way.to);
        if (left.size() != 2 || right.size() != 2) return false;
        const auto straight = [](Point u, Point v) { return -dot(u, v) > kRunsOn; };
        return (straight(left[0], right[0]) && straight(left[1], right[1])) ||
               (straight(left[0], right[1]) && straight(left[1], right[0]));
    }

    void join_crossings() {
        for (size_t i = 0; i < out_.ways.size();) {
            const InkWay& way = out_.ways[i];
            const bool between_forks =
                way.from >= 0 && way.to >= 0 && way.from != way.to && degree(way.from) > 2 && degree(way.to) > 2;
            if (!between_forks) {
                ++i;
                continue;
            }
            InkGraph::Node& a = out_.nodes[static_cast<size_t>(way.from)];
            const InkGraph::Node& b = out_.nodes[static_cast<size_t>(way.to)];
            if (!one_crossing(i)) {
                ++i;
                continue;
            }
            const int keep = way.from, gone = way.to;
            a.at = (a.at + b.at) * 0.5;
            a.radius = std::max(a.radius, b.radius);
            out_.ways.erase(out_.ways.begin() + static_cast<std::ptrdiff_t>(i));
            for (InkWay& w : out_.ways) {
                if (w.from == gone) w.from = keep;
                if (w.to == gone) w.to = keep;
            }
            i = 0;
        }
    }

    // The fork that a way that may be a spur leaves from, or -1.
    int spur_of(const InkWay& way) const {
        if (way.from < 0) return -1;
        const auto node = [&](int i) -> const InkGraph::Node& { return out_.nodes[static_cast<size_t>(i)]; };
        if (way.from == way.to)  // a hole of a pixel in broad ink
            return way_length(way) < 2 * node(way.from).radius ? way.from : -1;
        const bool ends = degree(way.to) == 1, begins = degree(way.from) == 1;
        if (ends == begins) return -1;
        const int fork = ends ? way.from : way.to, end = ends ? way.to : way.from;
        // What stands out beyond the fork's own ink.
        const double out = way_length(way) + node(end).radius - node(fork).radius;
        return out < kSpur * node(fork).radius + kSpurPx ? fork : -1;
    }

    // The shortest first, and two ways stay at every fork: a blot is a short stroke.
    void drop_spurs() {
        while (true) {
            auto shortest = out_.ways.end();
            for (auto way = out_.ways.begin(); way != out_.ways.end(); ++way) {
                const int fork = spur_of(*way);
                if (fork < 0 || degree(fork) < 3) continue;
                if (shortest == out_.ways.end() || way->points.size() < shortest->points.size()) shortest = way;
            }
            if (shortest == out_.ways.end()) return;
            out_.ways.erase(shortest);
        }
    }

    cv::Mat thin_;
    const cv::Mat& half_width_;
    cv::Mat node_of_;
    InkGraph out_;
};

}  // namespace

cv::Mat thinned(const cv::Mat& mask) {
    const cv::Mat padded = thinned_padded(mask);
    return padded(cv::Rect(1, 1, mask.cols, mask.rows)).clone();
}

Point leaving(const InkGraph& graph, WayEnd end) {
    const InkWay& way = graph.ways[end.way];
    const InkGraph::Node& node = graph.nodes[static_cast<size_t>(end.side == 0 ? way.from : way.to)];
    Point near = node.at, far = node.at;
    for (size_t i = 0; i < way.points.size(); ++i) {
        const Point p = end.side == 0 ? way.points[i] : way.points[way.points.size() - 1 - i];
        const double off = distance(p, node.at);
        if (off <= kLookFrom * node.radius) near = p;
        far = p;
        if (off > kLookTo * node.radius + kLookPx) break;
    }
    if (near == far) near = node.at;
    const double size = distance(near, far);
    return size > 0 ? (far - near) * (1 / size) : Point{};
}

InkGraph ink_graph(const cv::Mat& mask, const cv::Mat& half_width) { return GraphMaker(mask, half_width).make(); }

}  // namespace fernleaf
