#include "paper/sheet_tracing.h"

#include <opencv2/imgproc.hpp>

#include "base/quantile.h"

namespace fernleaf {
namespace {

constexpr double kLeastSlope = 1e-3;  // of colours (CIE76) a px: less is no edge
constexpr int kStations = 72;         // along a side
constexpr double kReach = 0.035;      // of the side's length: how far from the rough border it is looked for
constexpr double kLeastReachPx = 5, kMostReachPx = 40;
constexpr int kMostStep = 2;           // px that the border may shift from one station to the next
constexpr double kShiftCost = 0.4;     // of a mean edge's strength, for each px of it
constexpr double kFarCost = 0.5;       // of a mean edge's strength, at the reach's end
constexpr double kCornerShare = 0.05;  // of a side at either end: corners may be torn or rounded
constexpr double kFrameMarginPx = 3;   // a border so near the picture's own is that
constexpr double kLeastInliers = 0.35;
constexpr double kFarther = 2.5;                        // times as far, where little of the border
constexpr double kWellSeen = 0.8, kClearlyMore = 0.08;  // of the side was seen, and much more is there
constexpr double kEndThatCurls = 0.12;                  // of a side's places, that a curve explains and no line

cv::Vec3f sample(const cv::Mat& image, Point p) {
    const double x = std::clamp(p.x, 0.0, image.cols - 1.001), y = std::clamp(p.y, 0.0, image.rows - 1.001);
    const int ix = static_cast<int>(x), iy = static_cast<int>(y);
    const auto fx = static_cast<float>(x - ix), fy = static_cast<float>(y - iy);
    const auto* upper = image.ptr<cv::Vec3f>(iy);
    const auto* lower = image.ptr<cv::Vec3f>(std::min(iy + 1, image.rows - 1));
    const int right = std::min(ix + 1, image.cols - 1);
    return (upper[ix] * (1 - fx) + upper[right] * fx) * (1 - fy) + (lower[ix] * (1 - fx) + lower[right] * fx) * fy;
}

// A side in its own coordinates: x runs from corner to corner from 0 to 1, the offset is in px away from the sheet and
// a cubic of x.
struct Side {
    Point from, way, out;  // out: of length 1
    std::array<double, 4> cubic{};
    double offset(double x) const { return cubic[0] + x * (cubic[1] + x * (cubic[2] + x * cubic[3])); }
    Point at(double x) const { return from + way * x + out * offset(x); }
};

struct Station {
    double x = 0, offset = 0, weight = 0;
};

// Weighted least squares of a polynomial.
std::array<double, 4> fit(const std::vector<Station>& stations, int degree) {
    cv::Mat a(degree + 1, degree + 1, CV_64F, cv::Scalar(0)), b(degree + 1, 1, CV_64F, cv::Scalar(0)), c;
    for (const Station& s : stations)
        for (int i = 0; i <= degree; ++i) {
            b.at<double>(i) += s.weight * s.offset * std::pow(s.x, i);
            for (int k = 0; k <= degree; ++k) a.at<double>(i, k) += s.weight * std::pow(s.x, i + k);
        }
    cv::solve(a, b, c, cv::DECOMP_SVD);
    std::array<double, 4> out{};
    for (int i = 0; i <= degree; ++i) out[static_cast<size_t>(i)] = c.at<double>(i);
    return out;
}

struct Fit {
    std::array<double, 4> cubic{};
    double residual = 0;  // px, median
    double inliers = 0;   // share
};

// Fitted anew with little weight for what lies off (Tukey's biweight).
Fit robust(std::vector<Station> stations, int degree) {
    const std::vector<Station> original = stations;
    Fit out;
    for (int pass = 0; pass < 8; ++pass) {
        out.cubic = fit(stations, degree);
        std::vector<double> off;
        const Side curve{{}, {}, {}, out.cubic};
        for (const Station& s : original) off.push_back(std::abs(s.offset - curve.offset(s.x)));
        out.residual = median(off);
        const double limit = std::max(1.5, 4 * out.residual);
        double inside = 0;
        for (size_t i = 0; i < stations.size(); ++i) {
            const double r = std::min(1.0, off[i] / limit);
            stations[i].weight = original[i].weight * (1 - r * r) * (1 - r * r);
            inside += off[i] < limit;
        }
        out.inliers = inside / static_cast<double>(stations.size());
    }
    return out;
}

// The way of the strongest edge along a side, by dynamic programming.
std::vector<Station> followed(const EdgePicture& picture, const Side& side, double reach) {
    const int w = picture.lab.cols, h = picture.lab.rows;
    const int across = static_cast<int>(std::lround(reach)), width = 2 * across + 1;
    // The change of colour from outside to inside that most of the side shows tells its edge from other lines.
    cv::Vec3f change(0, 0, 0);
    for (int i = 0; i < kStations; ++i) {
        const Point p = side.at((i + 0.5) / kStations);
        change += sample(picture.lab, p - side.out * (reach + 2)) - sample(picture.lab, p + side.out * (reach + 2));
    }
    const double contrast = cv::norm(change) / kStations;
    if (contrast > 0) change *= static_cast<float>(1 / cv::norm(change));

    cv::Mat strength(kStations, width, CV_64F, cv::Scalar(0));
    std::vector<bool> inside(kStations);
    double mean = 0;
    for (int i = 0; i < kStations; ++i) {
        const double x = (i + 0.5) / kStations;
        double best = 0;
        for (int k = 0; k < width; ++k) {
            const Point p = side.at(x) + side.out * (k - across);
            if (p.x < 1 || p.y < 1 || p.x > w - 2 || p.y > h - 2) continue;
            inside[static_cast<size_t>(i)] = true;
            const cv::Vec3f slope = (sample(picture.lab, p - side.out) - sample(picture.lab, p + side.out)) * 0.5F;
            const double signed_part = slope.dot(change), size = cv::norm(slope);
            const double part = std::clamp(contrast / 6, 0.0, 1.0);
            strength.at<double>(i, k) = part * std::max(0.0, signed_part) + (1 - part) * size;
            best = std::max(best, strength.at<double>(i, k));
        }
        mean += best / kStations;
    }
    if (mean < kLeastSlope) return {};

    cv::Mat best(kStations, width, CV_64F), from(kStations, width, CV_32S, cv::Scalar(0));
    for (int i = 0; i < kStations; ++i)
        for (int k = 0; k < width; ++k) {
            const double gain =
                std::min(2 * mean, strength.at<double>(i, k)) - kFarCost * mean * std::abs(k - across) / across;
            double before = i == 0 ? 0 : -1e300;
            for (int d = -kMostStep; i > 0 && d <= kMostStep; ++d) {
                if (k + d < 0 || k + d >= width) continue;
                const double value = best.at<double>(i - 1, k + d) - kShiftCost * mean * std::abs(d);
                if (value > before) before = value, from.at<int>(i, k) = k + d;
            }
            best.at<double>(i, k) = before + gain;
        }
    cv::Point end;
    cv::minMaxLoc(best.row(kStations - 1), nullptr, nullptr, nullptr, &end);
    std::vector<Station> out;
    for (int i = kStations - 1, k = end.x; i >= 0; k = from.at<int>(i, k), --i) {
        const double x = (i + 0.5) / kStations;
        if (!inside[static_cast<size_t>(i)] || x < kCornerShare || x > 1 - kCornerShare) continue;
        // Between the pixels: the top of a parabola through the three about the best.
        double shift = 0;
        if (k > 0 && k < width - 1) {
            const double a = strength.at<double>(i, k - 1), b = strength.at<double>(i, k),
                         c = strength.at<double>(i, k + 1);
            if (a - 2 * b + c < 0) shift = std::clamp(0.5 * (a - c) / (a - 2 * b + c), -0.5, 0.5);
        }
        const double strong = strength.at<double>(i, k);
        if (strong > 0.15 * mean) out.push_back({x, side.offset(x) + k - across + shift, std::min(1.0, strong / mean)});
    }
    return out;
}

bool on_frame(Point a, Point b, const EdgePicture& picture) {
    const auto near = [&](auto off) { return off(a) < kFrameMarginPx && off(b) < kFrameMarginPx; };
    return near([](Point p) { return std::abs(p.x); }) || near([](Point p) { return std::abs(p.y); }) ||
           near([&](Point p) { return std::abs(p.x - picture.lab.cols + 1); }) ||
           near([&](Point p) { return std::abs(p.y - picture.lab.rows + 1); });
}

// Where a side meets the next, by Newton's method from where they are thought to.
Point meeting(const Side& a, const Side& b) {
    double s = 1, t = 0;
    for (int i = 0; i < 12; ++i) {
        const Point gap = a.at(s) - b.at(t);
        const Point da = (a.at(s + 1e-4) - a.at(s - 1e-4)) * 5e3, db = (b.at(t + 1e-4) - b.at(t - 1e-4)) * 5e3;
        const double det = da.y * db.x - da.x * db.y;
        if (std::abs(det) < 1e-9) break;
        s += (gap.x * db.y - gap.y * db.x) / det;
        t += (gap.x * da.y - gap.y * da.x) / det;
        s = std::clamp(s, 0.5, 1.5), t = std::clamp(t, -0.5, 0.5);
    }
    return a.at(s);
}

// The bow of a curve between two corners on it.
Bow bow_of(const Side& side, Point a, Point b) {
    const Point way = b - a;
    const double size = length(way);
    if (size < 1) return {};
    const Point out{way.y / size, -way.x / size};
    // Least squares of the two numbers over the side.
    double ee = 0, eo = 0, oo = 0, ev = 0, ov = 0;
    const double x0 = dot(a - side.from, side.way) / dot(side.way, side.way);
    const double x1 = dot(b - side.from, side.way) / dot(side.way, side.way);
    for (int i = 1; i < 40; ++i) {
        const Point p = side.at(x0 + (x1 - x0) * i / 40);
        const double t = dot(p - a, way) / (size * size), value = dot(p - a, out) / size;
        const double e = t * (1 - t), o = e * (2 * t - 1);
        ee += e * e, eo += e * o, oo += o * o, ev += e * value, ov += o * value;
    }
    const double det = ee * oo - eo * eo;
    if (det <= 0) return {};
    return {(ev * oo - ov * eo) / det, (ov * ee - ev * eo) / det};
}

struct Followed {
    Side side;
    bool curved = false;
    double support = 0;  // share of the side along which the border was seen
};

// A side where its border is found no farther away than `reach`; near the first way that is found it is looked for once
// more.
Followed followed_closely(const EdgePicture& picture, const Side& rough, double reach) {
    Followed out{rough};
    for (int pass = 0; pass < 2; ++pass, reach = std::max(kLeastReachPx, reach / 3)) {
        const std::vector<Station> stations = followed(picture, out.side, reach);
        if (stations.size() < kStations / 5) break;
        const Fit line = robust(stations, 1), curve = robust(stations, 3);
        // All of it off a line, or an end that curls away from one.
        const bool bent = stations.size() > kStations / 2 && curve.residual < 0.6 * line.residual &&
                          (line.residual > 0.8 || curve.inliers > line.inliers + kEndThatCurls);
        const Fit& better = bent ? curve : line;
        if (better.inliers < kLeastInliers) break;
        out.side.cubic = better.cubic;
        out.curved = bent;
        out.support = better.inliers * static_cast<double>(stations.size()) / kStations;
    }
    return out;
}

}  // namespace

SheetOutline traced(const EdgePicture& picture, const SheetOutline& rough) {
    std::array<Side, 4> sides;
    std::array<bool, 4> curved{};
    for (size_t i = 0; i < 4; ++i) {
        const Point a = rough.corners[i], b = rough.corners[(i + 1) % 4];
        const Point way = b - a;
        const double size = std::max(1e-6, length(way));
        sides[i] = {a, way, {way.y / size, -way.x / size}, {}};
        if (on_frame(a, b, picture)) continue;
        const double reach = std::clamp(kReach * size, kLeastReachPx, kMostReachPx);
        Followed best = followed_closely(picture, sides[i], reach);
        // A sheet that curls much leaves the rough border far behind.
        if (best.support < kWellSeen)
            if (const Followed farther = followed_closely(picture, sides[i], kFarther * reach);
                farther.curved && farther.support > best.support + kClearlyMore)
                best = farther;
        sides[i] = best.side;
        curved[i] = best.curved;
    }
    SheetOutline out;
    for (size_t i = 0; i < 4; ++i) out.corners[(i + 1) % 4] = meeting(sides[i], sides[(i + 1) % 4]);
    for (size_t i = 0; i < 4; ++i)
        if (curved[i]) out.bows[i] = bow_of(sides[i], out.corners[i], out.corners[(i + 1) % 4]);
    return is_valid(out) ? out : rough;
}

}  // namespace fernleaf
