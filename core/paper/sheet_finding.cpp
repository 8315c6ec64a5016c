#include "paper/sheet_finding.h"

#include <algorithm>
#include <numbers>
#include <opencv2/imgproc.hpp>
#include <optional>
#include <span>

#include "base/quantile.h"
#include "paper/corner_marks.h"
#include "paper/sheet_edges.h"
#include "paper/sheet_patches.h"
#include "paper/sheet_tracing.h"
#include "paper/sheet_writing.h"
#include "paper/shrunk.h"

namespace fernleaf {
namespace {

constexpr int kSeekingPx = 800;   // longer side of the picture in which sheets are looked for
constexpr int kTracingPx = 1600;  // and in which their borders are followed
constexpr int kLeastSheetPicturePx = 32;
constexpr size_t kMostSegments = 160;  // lines that are looked at, by their length
constexpr size_t kMostLines = 56;      // and of these the clearest, of which sheets are made

constexpr int kStepPx = 2;            // between the places of a line that are looked at
constexpr double kEdgeSlope = 0.9;    // change of colour (CIE76) a px that is an edge
constexpr int kEdgeReachPx = 3;       // how far beside the line it may lie
constexpr double kBesidePx = 7;       // from the line: there the colours of both sides are taken
constexpr double kDiffers = 4;        // colours that differ (CIE76)
constexpr double kAcrossPx = 14;      // from the line: there the colours of both sides of a soft edge are taken
constexpr double kSoftPx = 8.5;       // the way from one colour to the other: light fades so, paper ends at once
constexpr int kLeastTold = 10;        // places of a side that tell how soft it is
constexpr double kBeyond = 0.25;      // of the picture's size: corners may lie so far outside it
constexpr double kLeastTurn = 0.61;   // radians: between sides that meet
constexpr double kLeastSide = 0.05;   // of the picture's longer side
constexpr double kLeastCover = 0.35;  // of a side that is edge
constexpr double kUnknown = 0.55;     // what is taken for a share where nothing can be seen
constexpr size_t kMostJudged = 6000;
constexpr std::array<double, 2> kRingPx{8, 18};  // from the border: where its inside and outside are compared
constexpr double kLeastContrast = 2, kSteadyContrast = 0.35;  // of colours (CIE76); and in parts of the mean
constexpr double kUnseenContrast = 0.5;                       // where the picture ends
constexpr double kPartedTrust = 0.95;                         // in differing from a ground of many colours
constexpr double kSameHue = 7, kLeap = 6;                     // of colours (CIE76)
constexpr double kNearlyAsGood = 0.09;                        // of a score: then the larger of two sheets is meant
constexpr double kNearlyAsEven = 0.25;                        // a shadow's edge leaps within it
constexpr double kNearlyAsClear = 0.12;                       // and its dark part differs less from what is about it
constexpr double kSamePlace = 0.8;    // of the larger one's area, which two that are meant for one sheet share
constexpr double kSizeStands = 0.12;  // of the root of the share of the picture
constexpr double kLeastScore = 0.66;
constexpr double kClearOfShadow = 0.75;   // more than a shadow's edge and two sides of the picture make
constexpr double kLeastFurther = 0.8;     // of sheets after the first
constexpr double kClear = 0.9;            // such a score is a sheet whatever the ground's colour
constexpr double kMostSlender = 5;        // sheets after the first are no strips
constexpr double kMostLikeGround = 0.12;  // of the ground that has a sheet's colour, for those
constexpr double kOfTheBest = 0.2;        // of a score: among those so near to the best is a sheet
constexpr int kRulePx = 3;
constexpr double kAtBorderPx = 3;                       // of the picture
constexpr double kGoodLight = 80, kLeastLight = 8;      // of lightness
constexpr double kSmoothest = 1 / 12.0;                 // of the places in a patch, that tell how rough it is
constexpr double kSmoothestTold = 0.15;                 // of lightness: in eight bits nothing smoother is told
constexpr double kSmooth = 0.1;                         // of the places beside one another, by how rough they are
constexpr size_t kLeastPlaces = 20;                     // that tell anything
constexpr size_t kMostPasses = 3;                       // over all that was judged
constexpr double kFarRougher = 3;                       // times as rough: less of the ground need be like it
constexpr double kRougher = 1.6, kRoughMore = 0.05;     // than the smoothest of these: what is rougher is none
constexpr double kSameLight = 3, kSameLightRough = 10;  // of lightness: what is as light as a patch
constexpr double kInShadow = 45;                        // of lightness: a shadow takes no more
constexpr double kColourful = 15;       // of colours in good light: hues that tell a thing by themselves
constexpr double kLeastMargin = 0.015;  // of the way from mark to mark across the sheet
constexpr double kMarksCertainty = 0.85;
constexpr double kAllOfIt = 0.985;   // of the picture: no sheet is to be told from it
constexpr double kMostShared = 0.1;  // of the smaller of two sheets: how far they may overlap

// a* and b* as they are with L* = 84: they grow and shrink with the light as L* + 16 does.
std::array<float, 2> hue_in_good_light(const cv::Vec3f& lab) {
    const float light = 100 / (lab[0] + 16);
    return {lab[1] * light, lab[2] * light};
}

bool same_hue(const cv::Vec3f& a, const cv::Vec3f& b) {
    const std::array<float, 2> one = hue_in_good_light(a), other = hue_in_good_light(b);
    return std::hypot(one[0] - other[0], one[1] - other[1]) < kSameHue;
}

// What stands along a line, in sums up to each step, so that any part of it is known at once.
class Profile {
public:
    Profile(const EdgePicture& picture, const EdgeLine& line) : line_(line) {
        const int w = picture.lab.cols, h = picture.lab.rows;
        const double reach = std::hypot(w, h);
        begin_ = -reach;
        const auto count = static_cast<size_t>(2 * reach / kStepPx) + 2;
        sums_.resize(count + 1);
        for (size_t i = 0; i < count; ++i) {
            Sum sum = sums_[i];
            const Point p = line.at(begin_ + static_cast<double>(i) * kStepPx);
            const auto inside = [&](Point q) { return q.x >= 0 && q.y >= 0 && q.x <= w - 1 && q.y <= h - 1; };
            if (inside(p)) {
                ++sum.seen;
                const auto slope_at = [&](Point q) {
                    const auto gx = picture.slope_x.at<cv::Vec3f>(static_cast<int>(q.y), static_cast<int>(q.x));
                    const auto gy = picture.slope_y.at<cv::Vec3f>(static_cast<int>(q.y), static_cast<int>(q.x));
                    return cv::norm(gx * static_cast<float>(line.normal.x) + gy * static_cast<float>(line.normal.y));
                };
                const auto steepest_within = [&](int reach_px) {
                    double steepest = 0;
                    for (int k = -reach_px; k <= reach_px; ++k)
                        if (const Point q = p + line.normal * k; inside(q)) steepest = std::max(steepest, slope_at(q));
                    return steepest;
                };
                const double steepest = steepest_within(kEdgeReachPx);
                sum.edge += steepest > kEdgeSlope;
                const Point before = p - line.normal * kBesidePx, after = p + line.normal * kBesidePx;
                if (inside(before) && inside(after)) {
                    const cv::Vec3f u = picture.colour(before), v = picture.colour(after);
                    ++sum.compared;
                    const bool differ = cv::norm(u - v) > kDiffers;
                    sum.differ += differ;
                    sum.clear += differ && steepest > kEdgeSlope;
                    sum.brighter += v[0] > u[0];
                }
                const Point far_before = p - line.normal * kAcrossPx, far_after = p + line.normal * kAcrossPx;
                if (steepest > kEdgeSlope && inside(far_before) && inside(far_after)) {
                    const double change = cv::norm(picture.colour(far_after) - picture.colour(far_before));
                    sum.told += change > kDiffers;
                    // A board's frame has two edges: each is steep, though from one side to the other it is far. And
                    // light that fades leaves the hue as it is.
                    sum.soft += change > std::max(kDiffers, kSoftPx * steepest) &&
                                change > kSoftPx * steepest_within(static_cast<int>(kAcrossPx)) &&
                                same_hue(picture.colour(far_before), picture.colour(far_after));
                }
            }
            sums_[i + 1] = sum;
        }
    }

    // px of edge with different colours on both sides, in one stretch: what is not takes from it. A line through a
    // pattern meets many edges, and none for long.
    double strength() const {
        double here = 0, most = 0;
        for (size_t i = 1; i < sums_.size(); ++i) {
            here = std::max(0.0, here + (sums_[i].clear > sums_[i - 1].clear ? 1 : -1));
            most = std::max(most, here);
        }
        return kStepPx * most;
    }

    struct Part {
        double cover = kUnknown, differ = kUnknown,
               brighter = kUnknown;  // shares; brighter: where the normal points to
        double unseen = 0;           // share that lies outside the picture
        bool soft = false;           // as the edge of a shadow is
    };
    Part between(Point a, Point b) const {
        if (line_.frame) return {};
        const auto [from, to] = std::minmax({line_.t_of(a), line_.t_of(b)});
        const auto index = [&](double t) {
            return static_cast<size_t>(std::clamp((t - begin_) / kStepPx, 0.0, static_cast<double>(sums_.size() - 1)));
        };
        const Sum &first = sums_[index(from)], &last = sums_[index(to)];
        const double steps = std::max(1.0, (to - from) / kStepPx), seen = last.seen - first.seen;
        const double compared = last.compared - first.compared;
        const int told = last.told - first.told;
        Part out;
        out.unseen = std::clamp(1 - seen / steps, 0.0, 1.0);
        out.soft = told >= kLeastTold && 2 * (last.soft - first.soft) > told;
        if (seen > 0) out.cover = (last.edge - first.edge) / seen * (1 - out.unseen) + kUnknown * out.unseen;
        if (compared > 0) {
            out.differ = (last.differ - first.differ) / compared * (1 - out.unseen) + kUnknown * out.unseen;
            out.brighter = (last.brighter - first.brighter) / compared;
        }
        return out;
    }

private:
    struct Sum {
        int seen = 0, edge = 0, compared = 0, differ = 0, brighter = 0, clear = 0, told = 0, soft = 0;
    };
    EdgeLine line_;
    double begin_ = 0;
    std::vector<Sum> sums_;
};

bool meet(const EdgeLine& a, const EdgeLine& b, Point& where) {
    const double cross = a.normal.x * b.normal.y - a.normal.y * b.normal.x;
    if (std::abs(cross) < std::sin(kLeastTurn)) return false;
    where = {(a.offset * b.normal.y - b.offset * a.normal.y) / cross,
             (a.normal.x * b.offset - b.normal.x * a.offset) / cross};
    return true;
}

// Of lightness in windows of five pixels, 0 to 100, as it would be in good light: a shadow makes nothing smoother.
cv::Mat local_deviations(const cv::Mat& pixels, cv::Size size) {
    cv::Mat small, grey, mean, square;
    cv::resize(pixels, small, size, 0, 0, cv::INTER_AREA);
    cv::cvtColor(small, grey, cv::COLOR_BGR2GRAY);
    // Printed rules and squares make no paper rough.
    cv::morphologyEx(grey, grey, cv::MORPH_CLOSE, cv::getStructuringElement(cv::MORPH_RECT, {kRulePx, kRulePx}));
    grey.convertTo(grey, CV_32F, 100 / 255.0);
    cv::blur(grey, mean, {5, 5});
    cv::blur(grey.mul(grey), square, {5, 5});
    cv::Mat out = square - mean.mul(mean);
    cv::max(out, 0, out);
    cv::sqrt(out, out);
    return out * kGoodLight / cv::max(mean, kLeastLight);
}

std::vector<cv::Point2f> polygon_of(std::span<const Point> points) {
    std::vector<cv::Point2f> out;
    for (const Point& p : points) out.emplace_back(static_cast<float>(p.x), static_cast<float>(p.y));
    return out;
}

struct Candidate {
    std::array<Point, 4> corners{};  // clockwise
    double cover = 0, least_cover = 0, differ = 0, brighter = 0;
    double contrast = 0;  // share of the border along which inside and outside differ, and everywhere in the same way
    double evenness = 0;
    double roughness = 0;  // where it is smoothest
    double score = 0;
    double standing = 0;  // the score, and more for a larger one: a picture is taken of what fills it
};

// A place in it: u from left to right, v from top to bottom, 0 to 1.
Point place_in(const std::array<Point, 4>& c, double u, double v) {
    return (c[0] * (1 - u) + c[1] * u) * (1 - v) + (c[3] * (1 - u) + c[2] * u) * v;
}

// Whether it lies in a convex outline, whose corners go clockwise.
bool lies_in(const std::array<Point, 4>& c, Point p) {
    for (size_t i = 0; i < 4; ++i) {
        const Point side = c[(i + 1) % 4] - c[i], there = p - c[i];
        if (side.x * there.y - side.y * there.x < 0) return false;
    }
    return true;
}

// Clockwise, from the corner nearest the picture's top left.
void set_clockwise(std::array<Point, 4>& corners) {
    if (area(corners) < 0) std::swap(corners[1], corners[3]);
    const auto first = std::ranges::min_element(corners, {}, [](Point p) { return p.x + p.y; });
    std::rotate(corners.begin(), first, corners.end());
}

class Search {
public:
    Search(const EdgePicture& picture, const std::vector<EdgeLine>& lines, const cv::Mat& pixels)
        : picture_(picture), deviations_(local_deviations(pixels, picture.lab.size())) {
        std::vector<std::pair<double, size_t>> order;
        std::vector<Profile> profiles;
        for (const EdgeLine& line : lines) {
            profiles.emplace_back(picture, line);
            const double strength = line.frame ? std::numeric_limits<double>::infinity() : profiles.back().strength();
            order.emplace_back(-strength, profiles.size() - 1);
        }
        std::ranges::sort(order);
        if (order.size() > kMostLines) order.resize(kMostLines);
        for (const auto& [strength, i] : order) lines_.push_back(lines[i]), profiles_.push_back(std::move(profiles[i]));
        const size_t n = lines_.size();
        corner_.resize(n * n);
        meets_.resize(n * n);
        const double w = picture.lab.cols, h = picture.lab.rows;
        const Box frame{-kBeyond * w, -kBeyond * h, (1 + kBeyond) * w, (1 + kBeyond) * h};
        for (size_t i = 0; i < n; ++i)
            for (size_t k = 0; k < n; ++k)
                meets_[i * n + k] =
                    i != k && meet(lines_[i], lines_[k], corner_[i * n + k]) && frame.contains(corner_[i * n + k]);
    }

    // The likeliest fours of lines that can be a sheet, judged by their borders: at most so many, the best first.
    std::vector<Candidate> candidates(size_t most) const {
        std::vector<Candidate> out;
        const auto keep_best = [&] {
            if (out.size() <= most) return;
            std::ranges::nth_element(out, out.begin() + static_cast<std::ptrdiff_t>(most), std::greater{},
                                     &Candidate::score);
            out.resize(most);
        };
        const size_t n = lines_.size();
        const double least = kLeastSide * std::max(picture_.lab.cols, picture_.lab.rows);
        struct Crossing {
            size_t line;
            Profile::Part part;
        };
        for (size_t i = 0; i < n; ++i)
            for (size_t k = i + 1; k < n; ++k) {
                // Sides that face one another; whatever crosses both may close the sheet.
                std::vector<Crossing> across;
                for (size_t c = 0; c < n; ++c) {
                    if (!meets_[i * n + c] || !meets_[k * n + c]) continue;
                    const Point a = corner_[i * n + c], b = corner_[k * n + c];
                    if (distance(a, b) < least) continue;
                    const Profile::Part part = profiles_[c].between(a, b);
                    if (part.cover > kLeastCover && !part.soft) across.push_back({c, part});
                }
                for (size_t p = 0; p < across.size(); ++p)
                    for (size_t q = p + 1; q < across.size(); ++q)
                        if (auto candidate =
                                closed(i, across[p].line, k, across[q].line, across[p].part, across[q].part))
                            out.push_back(*candidate);
                if (out.size() > 2 * most) keep_best();  // in a picture of noise there are millions
            }
        keep_best();
        std::ranges::sort(out, std::greater{}, &Candidate::score);
        return out;
    }

    // A quadrilateral that came from elsewhere, as a candidate.
    std::optional<Candidate> candidate(std::array<Point, 4> corners) const {
        set_clockwise(corners);
        Candidate out;
        out.corners = corners;
        out.least_cover = 1;
        for (size_t side = 0; side < 4; ++side) {
            const Point a = corners[side], b = corners[(side + 1) % 4], c = corners[(side + 2) % 4];
            const double span = distance(a, b), next = distance(b, c);
            if (span < 1 || next < 1) return std::nullopt;
            const double turn = ((b.x - a.x) * (c.y - b.y) - (b.y - a.y) * (c.x - b.x)) / (span * next);
            if (turn < std::sin(kLeastTurn)) return std::nullopt;
            const Point normal = Point{b.y - a.y, a.x - b.x} * (1 / span);
            const Profile::Part part = Profile(picture_, {normal, dot(normal, a), 0, false}).between(a, b);
            if (part.soft) return std::nullopt;
            out.cover += part.cover / 4;
            out.brighter += (1 - part.brighter) / 4;  // the normal points outwards
            out.least_cover = std::min(out.least_cover, part.cover);
        }
        return out;
    }

    // The second and slower look at a candidate.
    void judge(Candidate& c) const {
        double least = 1;
        c.contrast = contrast(c, least);
        c.evenness = evenness(c);
        c.roughness = roughness(c);
        const double whole = static_cast<double>(picture_.lab.total());
        c.score = 0.22 * c.cover + 0.12 * c.least_cover + 0.24 * c.contrast + 0.1 * least + 0.04 * c.brighter +
                  0.20 * c.evenness + 0.08 * std::sqrt(std::min(1.0, area(c.corners) / whole));
        c.standing = c.score + kSizeStands * std::sqrt(std::min(1.0, area(c.corners) / whole));
    }

    // Whether what a larger sheet has more than a piece of it is as rough as the piece is, of its hue, and no darker
    // than a shadow makes it: then it is the same paper.
    bool same_paper(const Candidate& piece, const Candidate& whole) const {
        constexpr int kPlaces = 24;
        std::array<std::vector<float>, 2> there;                // beside the piece, and in it
        std::array<std::array<std::vector<float>, 2>, 2> hues;  // likewise, of a* and b*
        std::array<std::vector<float>, 2> lights;
        for (int row = 1; row < kPlaces; ++row)
            for (int column = 1; column < kPlaces; ++column) {
                const Point p =
                    place_in(whole.corners, static_cast<double>(column) / kPlaces, static_cast<double>(row) / kPlaces);
                if (!within(p)) continue;
                const size_t in = lies_in(piece.corners, p) ? 1 : 0;
                there[in].push_back(deviations_.at<float>(static_cast<int>(p.y), static_cast<int>(p.x)));
                const std::array<float, 2> hue = hue_in_good_light(colour(p));
                for (size_t k = 0; k < 2; ++k) hues[in][k].push_back(hue[k]);
                lights[in].push_back(colour(p)[0]);
            }
        if (there[0].size() < kLeastPlaces || there[1].size() < kLeastPlaces) return true;
        const double smooth = std::max(kSmoothestTold, static_cast<double>(quantile(there[1], kSmooth)));
        return quantile(there[0], kSmooth) < kRougher * smooth + kRoughMore && far_apart(hues) < kSameHue &&
               std::abs(median(lights[0]) - median(lights[1])) < kInShadow;
    }

    // How far the middle hues of two places differ.
    static double far_apart(const std::array<std::array<std::vector<float>, 2>, 2>& hues) {
        return std::hypot(median(hues[0][0]) - median(hues[1][0]), median(hues[0][1]) - median(hues[1][1]));
    }

    // Whether what is seen beside a piece of the picture is the same paper in another light: as smooth, and of its hue.
    bool goes_on_beyond(const Candidate& piece) const {
        const double right = picture_.lab.cols - 1, bottom = picture_.lab.rows - 1;
        Candidate whole;
        whole.corners = {{{0, 0}, {right, 0}, {right, bottom}, {0, bottom}}};
        return same_paper(piece, whole);
    }

    // Of its sides, those that are the picture's own border.
    int frame_sides(const Candidate& c) const {
        const auto at_border = [](Point a, Point b, double Point::*axis, double end) {
            return std::max(std::abs(a.*axis - end), std::abs(b.*axis - end)) < kAtBorderPx;
        };
        int count = 0;
        for (size_t i = 0; i < 4; ++i) {
            const Point a = c.corners[i], b = c.corners[(i + 1) % 4];
            count += at_border(a, b, &Point::x, 0) || at_border(a, b, &Point::x, picture_.lab.cols - 1) ||
                     at_border(a, b, &Point::y, 0) || at_border(a, b, &Point::y, picture_.lab.rows - 1);
        }
        return count;
    }

private:
    bool within(Point p) const {
        return p.x >= 0 && p.y >= 0 && p.x <= picture_.lab.cols - 1 && p.y <= picture_.lab.rows - 1;
    }
    cv::Vec3f colour(Point p) const { return picture_.colour(p); }

    // How even the inside is: how seldom its colour leaps from one place to the next, and how little its hue leaves
    // that of the most. Light changes slowly, a shadow's edge is one leap; a pattern leaps everywhere.
    double evenness(const Candidate& candidate) const {
        constexpr int kPlaces = 13;
        std::array<std::optional<cv::Vec3f>, static_cast<size_t>(kPlaces) * kPlaces> grid;
        std::array<std::vector<float>, 2> hues;
        const auto& c = candidate.corners;
        for (int row = 0; row < kPlaces; ++row)
            for (int column = 0; column < kPlaces; ++column) {
                const double u = (column + 1.0) / (kPlaces + 1), v = (row + 1.0) / (kPlaces + 1);
                const Point p = place_in(c, u, v);
                if (!within(p)) continue;
                grid[static_cast<size_t>(row) * kPlaces + static_cast<size_t>(column)] = colour(p);
                for (size_t k = 0; k < 2; ++k) hues[k].push_back(colour(p)[static_cast<int>(k) + 1]);
            }
        if (hues[0].size() < 20) return 0;
        const std::array<float, 2> middle{median(hues[0]), median(hues[1])};
        int pairs = 0, steady = 0, places = 0, alike = 0;
        for (size_t i = 0; i < grid.size(); ++i) {
            if (!grid[i]) continue;
            ++places;
            alike += std::hypot((*grid[i])[1] - middle[0], (*grid[i])[2] - middle[1]) < kSameHue;
            const auto compare = [&](size_t other) {
                if (!grid[other]) return;
                ++pairs;
                steady += cv::norm(*grid[i] - *grid[other]) < kLeap;
            };
            if (i % kPlaces + 1 < kPlaces) compare(i + 1);
            if (i + kPlaces < grid.size()) compare(i + kPlaces);
        }
        return 0.5 * alike / places + 0.5 * steady / std::max(1, pairs);
    }

    // The deviation of lightness within small windows, of all of them one of the least: paper between its writing is
    // smooth, cloth and wood are not.
    double roughness(const Candidate& candidate) const {
        constexpr int kPlaces = 16;
        const auto& c = candidate.corners;
        std::vector<float> inside;
        for (int row = 1; row < kPlaces; ++row)
            for (int column = 1; column < kPlaces; ++column) {
                const double u = static_cast<double>(column) / kPlaces, v = static_cast<double>(row) / kPlaces;
                const Point p = place_in(c, u, v);
                if (within(p)) inside.push_back(deviations_.at<float>(static_cast<int>(p.y), static_cast<int>(p.x)));
            }
        return static_cast<double>(quantile(std::move(inside), kSmoothest));
    }

    // least: of the side where it is smallest.
    double contrast(const Candidate& candidate, double& least) const {
        struct Pair {
            size_t side;
            cv::Vec3f change;
            std::array<float, 2> hue;
        };
        std::vector<Pair> pairs;
        std::array<std::vector<float>, 2> hues;  // within, in good light
        std::array<int, 4> seen{}, unseen{};
        cv::Vec3f sum(0, 0, 0);
        for (size_t side = 0; side < 4; ++side) {
            const Point a = candidate.corners[side], b = candidate.corners[(side + 1) % 4];
            const Point way = b - a, out = Point{way.y, -way.x} * (1 / length(way));
            for (int i = 1; i < 24; ++i)
                for (const double off : kRingPx) {
                    const Point p = a + way * (i / 24.0);
                    const Point inner = p - out * off, outer = p + out * off;
                    if (!within(inner) || !within(outer)) {
                        ++unseen[side];
                        continue;
                    }
                    ++seen[side];
                    pairs.push_back({side, colour(inner) - colour(outer), hue_in_good_light(colour(inner))});
                    sum += pairs.back().change;
                    for (size_t k = 0; k < 2; ++k) hues[k].push_back(pairs.back().hue[k]);
                }
        }
        if (pairs.empty()) return 0;
        const double strength = cv::norm(sum) / static_cast<double>(pairs.size());
        const cv::Vec3f direction = sum * static_cast<float>(1 / std::max(1e-6, cv::norm(sum)));
        std::array<int, 4> alike{}, parted{};
        const std::array<float, 2> middle{median(hues[0]), median(hues[1])};
        for (const Pair& pair : pairs) {
            alike[pair.side] += pair.change.dot(direction) > std::max(kLeastContrast, kSteadyContrast * strength);
            parted[pair.side] += cv::norm(pair.change) > kDiffers &&
                                 std::hypot(pair.hue[0] - middle[0], pair.hue[1] - middle[1]) < kSameHue;
        }
        // Where the ground is of many colours, what is steady is the inside.
        double total = 0, total_parted = 0, least_parted = 1;
        least = 1;
        for (size_t side = 0; side < 4; ++side) {
            const double all = seen[side] + unseen[side];
            const double share = (alike[side] + kUnseenContrast * unseen[side]) / all;
            const double share_parted = (parted[side] + kUnseenContrast * unseen[side]) / all;
            total += share / 4, total_parted += share_parted / 4;
            least = std::min(least, share), least_parted = std::min(least_parted, share_parted);
        }
        if (kPartedTrust * total_parted > total)
            total = kPartedTrust * total_parted, least = kPartedTrust * least_parted;
        return total;
    }

    std::optional<Candidate> closed(size_t top, size_t right, size_t bottom, size_t left, const Profile::Part& of_right,
                                    const Profile::Part& of_left) const {
        const size_t n = lines_.size();
        Candidate out;
        out.corners = {corner_[top * n + left], corner_[top * n + right], corner_[bottom * n + right],
                       corner_[bottom * n + left]};
        const bool clockwise = area(out.corners) > 0;
        const double size = std::abs(area(out.corners));
        const double whole = static_cast<double>(picture_.lab.total());
        if (size < kLeastSheet * whole) return std::nullopt;
        for (size_t i = 0; i < 4; ++i) {  // convex
            const Point a = out.corners[(i + 1) % 4] - out.corners[i],
                        b = out.corners[(i + 2) % 4] - out.corners[(i + 1) % 4];
            if ((a.x * b.y - a.y * b.x > 0) != clockwise) return std::nullopt;
        }
        const double least = kLeastSide * std::max(picture_.lab.cols, picture_.lab.rows);
        const std::array<size_t, 4> sides{top, right, bottom, left};
        double around = 0;
        out.least_cover = 1;
        const Point middle = (out.corners[0] + out.corners[1] + out.corners[2] + out.corners[3]) * 0.25;
        for (size_t i = 0; i < 4; ++i) {
            const Point a = out.corners[i], b = out.corners[(i + 1) % 4];
            const double span = distance(a, b);
            if (span < least) return std::nullopt;
            const Profile::Part part = i == 1 ? of_right : i == 3 ? of_left : profiles_[sides[i]].between(a, b);
            if (part.cover < kLeastCover || part.soft) return std::nullopt;
            around += span;
            out.cover += span * part.cover;
            out.differ += span * part.differ;
            const bool inwards = dot(lines_[sides[i]].normal, middle) > lines_[sides[i]].offset;
            out.brighter += span * (inwards ? part.brighter : 1 - part.brighter);
            out.least_cover = std::min(out.least_cover, part.cover);
        }
        out.cover /= around, out.differ /= around, out.brighter /= around;
        out.score = 0.34 * out.cover + 0.16 * out.least_cover + 0.24 * out.differ + 0.04 * out.brighter +
                    0.12 * std::sqrt(std::min(1.0, size / whole));
        set_clockwise(out.corners);
        return out;
    }

    const EdgePicture& picture_;
    cv::Mat deviations_;
    std::vector<EdgeLine> lines_;
    std::vector<Profile> profiles_;
    std::vector<Point> corner_;
    std::vector<char> meets_;
};

double shared_area(const std::array<Point, 4>& a, const std::array<Point, 4>& b) {
    std::vector<cv::Point2f> common;
    return cv::intersectConvexConvex(polygon_of(a), polygon_of(b), common);
}

// Of those that lie nearly where it lies, the one with the best score.
const Candidate& best_about(const Candidate& place, const std::vector<Candidate>& all) {
    const Candidate* best = &place;
    for (const Candidate& c : all)
        if (c.score > best->score &&
            shared_area(c.corners, place.corners) > kSamePlace * std::max(area(c.corners), area(place.corners)))
            best = &c;
    return *best;
}

// A shadow's edge parts a sheet into pieces that are nearly as good as the whole.
const Candidate& whole_of(const Candidate& piece, const std::vector<Candidate>& all, const Search& search) {
    const Candidate* largest = &piece;
    for (const Candidate& c : all) {
        if (c.score > piece.score - kNearlyAsGood && area(c.corners) > area(largest->corners) &&
            c.cover > piece.cover - kNearlyAsGood && c.contrast > piece.contrast - kNearlyAsClear &&
            c.evenness > piece.evenness - kNearlyAsEven && lies_in(c.corners, place_in(piece.corners, 0.5, 0.5)) &&
            shared_area(c.corners, piece.corners) > 0.95 * area(piece.corners) && search.same_paper(piece, c))
            largest = &c;
    }
    return best_about(*largest, all);
}

// How much of the rest of the picture has a patch's colour, too, as it is with a stripe of cloth or a plank: 0 to 1.
// rough: ground that is rough is told by less: by its lightness roughly and, where it has a hue, in any light, as cloth
// has in a shadow.
double like_ground(const EdgePicture& picture, const std::array<Point, 4>& corners,
                   const std::vector<std::array<Point, 4>>& sheets, bool rough) {
    cv::Mat mask(picture.lab.size(), CV_8U, cv::Scalar(0));
    const auto fill = [&](const std::array<Point, 4>& shape, int value) {
        std::vector<cv::Point> points;
        for (const Point& p : shape) points.emplace_back(static_cast<int>(p.x), static_cast<int>(p.y));
        cv::fillConvexPoly(mask, points, cv::Scalar(value));
    };
    for (const auto& sheet : sheets) fill(sheet, 2);
    fill(corners, 1);
    const auto sampled = [&](auto use) {
        for (int y = 2; y < mask.rows; y += 5)
            for (int x = 2; x < mask.cols; x += 5) use(mask.at<uchar>(y, x), picture.lab.at<cv::Vec3f>(y, x));
    };
    std::array<std::vector<float>, 3> inside;
    sampled([&](uchar kind, const cv::Vec3f& colour) {
        for (size_t k = 0; kind == 1 && k < 3; ++k) inside[k].push_back(colour[static_cast<int>(k)]);
    });
    if (inside[0].empty()) return 1;
    const cv::Vec3f middle(median(inside[0]), median(inside[1]), median(inside[2]));
    const std::array<float, 2> hue = hue_in_good_light(middle);
    const bool any_light = rough && std::hypot(hue[0], hue[1]) > kColourful;
    int ground = 0, alike = 0;
    sampled([&](uchar kind, const cv::Vec3f& colour) {
        if (kind != 0) return;
        ++ground;
        if (any_light) {
            const std::array<float, 2> other = hue_in_good_light(colour);
            alike += std::abs(colour[0] - middle[0]) < kInShadow &&
                     std::hypot(other[0] - hue[0], other[1] - hue[1]) < kSameHue;
        } else {
            alike += std::abs(colour[0] - middle[0]) < (rough ? kSameLightRough : kSameLight) &&
                     std::hypot(colour[1] - middle[1], colour[2] - middle[2]) < kDiffers;
        }
    });
    return static_cast<double>(alike) / std::max(1, ground);
}

// How many times as long as wide.
double slenderness(const std::array<Point, 4>& c) {
    const double across = distance(c[0], c[1]) + distance(c[2], c[3]),
                 down = distance(c[1], c[2]) + distance(c[3], c[0]);
    return std::max(across, down) / std::max(1e-6, std::min(across, down));
}

// Whether what was found holds all marks, with a margin beyond them (in parts of its own width).
bool holds(const SheetOutline& outline, const std::array<Point, 4>& marks) {
    const std::vector<cv::Point2f> border = polygon_of(polygon(outline, 24));
    const double least = kLeastMargin * distance(marks[0], marks[2]);
    return std::ranges::all_of(marks, [&](Point p) {
        return cv::pointPolygonTest(border, {static_cast<float>(p.x), static_cast<float>(p.y)}, true) > least;
    });
}

bool all_frame(const std::array<Point, 4>& corners, const EdgePicture& picture) {
    return area(corners) > kAllOfIt * static_cast<double>(picture.lab.total());
}

// Told from what surrounds them by their borders.
std::vector<FoundSheet> bordered_sheets(const cv::Mat& pixels, size_t most) {
    std::vector<FoundSheet> out;
    const EdgePicture seeking = edge_picture(pixels, kSeekingPx, true);
    const std::vector<EdgeLine> lines = edge_lines(seeking, kMostSegments);
    const Search search(seeking, lines, pixels);
    std::vector<Candidate> judged = search.candidates(kMostJudged);
    for (const std::array<Point, 4>& patch : sheet_patches(seeking))
        if (const auto candidate = search.candidate(patch)) judged.push_back(*candidate);
    for (Candidate& candidate : judged) search.judge(candidate);
    std::ranges::sort(judged, std::greater{}, &Candidate::standing);
    if (judged.empty()) return out;
    double smoothest = std::numeric_limits<double>::infinity();
    const double best_score = std::ranges::max(judged, {}, &Candidate::score).score;
    for (const Candidate& c : judged)
        if (c.score > best_score - kOfTheBest) smoothest = std::min(smoothest, std::max(kSmoothestTold, c.roughness));
    // Stripes of cloth and planks are of the ground's colour, and rough as it is.
    std::vector<std::array<Point, 4>> taken;
    const auto is_ground = [&](const Candidate& c) {
        if (c.roughness <= kRougher * smoothest + kRoughMore) return false;
        const double most_alike =
            c.roughness > kFarRougher * smoothest + kRoughMore ? kMostLikeGround / 2 : kMostLikeGround;
        return like_ground(seeking, c.corners, taken, true) > most_alike;
    };
    const auto apart = [&](const Candidate& c) {
        return std::ranges::all_of(taken, [&](const std::array<Point, 4>& other) {
            return shared_area(c.corners, other) < kMostShared * std::min(area(c.corners), area(other));
        });
    };
    double least_score = 0;
    std::optional<EdgePicture> tracing;  // made when there is a border to follow
    // Once more after sheets were found: what is like them is no ground any more.
    for (size_t before = 0, pass = 0; pass == 0 || (out.size() > before && pass < kMostPasses); ++pass) {
        before = out.size();
        for (const Candidate& best : judged) {
            if (out.size() == most) break;
            if (best.score < std::max(least_score, out.empty() ? kLeastScore : kLeastFurther) || !apart(best)) continue;
            const Candidate& candidate = whole_of(best_about(best, judged), judged, search);
            if (!apart(candidate)) continue;
            if (all_frame(candidate.corners, seeking)) {
                least_score = candidate.score;  // what is worse than the whole picture is part of it
                continue;
            }
            // The edge of a shadow across a page that fills the picture.
            const int at_frame = search.frame_sides(candidate);
            if ((at_frame >= 3 || (at_frame == 2 && best.score < kClearOfShadow)) && search.goes_on_beyond(candidate))
                continue;
            if (is_ground(candidate)) continue;
            if (!out.empty() &&
                (slenderness(candidate.corners) > kMostSlender ||
                 (best.score < kClear && like_ground(seeking, candidate.corners, taken, false) > kMostLikeGround)))
                continue;
            taken.push_back(candidate.corners);
            SheetOutline outline{candidate.corners, {}};
            if (!tracing) tracing = edge_picture(pixels, kTracingPx);
            outline = traced(*tracing, scaled(outline, tracing->scale / seeking.scale));
            out.push_back({scaled(outline, 1 / tracing->scale), std::clamp(candidate.score, 0.0, 1.0)});
        }
    }
    return out;
}

// Beside written pages what is blank is a panel, a tile or a card: nothing is lost without it.
void leave_out_blank(const cv::Mat& pixels, std::vector<FoundSheet>& sheets) {
    if (sheets.size() < 2) return;
    std::vector<Writing> writing;
    for (const FoundSheet& sheet : sheets) writing.push_back(writing_on(pixels, sheet.outline));
    if (std::ranges::find(writing, Writing::much) == writing.end()) return;
    size_t at = 0;
    std::erase_if(sheets, [&](const FoundSheet&) { return writing[at++] == Writing::none; });
}

}  // namespace

std::vector<FoundSheet> find_sheets(const cv::Mat& pixels, size_t most) {
    std::vector<FoundSheet> out;
    if (most == 0 || pixels.cols < kLeastSheetPicturePx || pixels.rows < kLeastSheetPicturePx) return out;
    const double scale = factor_to(pixels, kTracingPx);
    const cv::Mat small = shrunk(pixels, scale);
    if (small.cols < kLeastSheetPicturePx || small.rows < kLeastSheetPicturePx) return out;  // a strip
    out = bordered_sheets(small, most);
    // Marks are printed to be found: what lies about them is the sheet, unless one was found about them.
    if (out.size() <= 1)
        if (const auto marks = corner_marks(small); marks && (out.empty() || !holds(out.front().outline, *marks)))
            out = {{sheet_about(*marks, small), kMarksCertainty}};
    leave_out_blank(small, out);
    for (FoundSheet& sheet : out) sheet.outline = scaled(sheet.outline, 1 / scale);
    return out;
}

}  // namespace fernleaf
