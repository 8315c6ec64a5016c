#include "paper/sheet_search.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <set>

#include "base/quantile.h"
#include "paper/lab.h"
#include "paper/quadrilateral.h"
#include "paper/sheet_patches.h"

namespace fernleaf {
namespace {

constexpr double kBeyond = 0.25;                 // of the picture's size: corners may lie so far outside it
constexpr double kLeastTurn = 0.61;              // radians: between sides that meet
constexpr double kLeastSide = 0.05;              // of the picture's longer side
constexpr double kLeastCover = 0.35;             // of a side that is edge
constexpr double kSameCornerPx = 5;              // outlines whose corners lie so near are one
constexpr double kReach = 0.6;                   // of a block of writing: so far from it may its sheet's sides lie
constexpr double kCoreOfBlock = 0.6;             // what cuts through it is no side
constexpr double kFarSide = 0.5;                 // of the way to it: so much less a side is worth
constexpr std::array<double, 2> kRingPx{8, 18};  // from the border: where its inside and outside are compared
constexpr double kLeastContrast = 2, kSteadyContrast = 0.35;  // of colours (CIE76); and in parts of the mean
constexpr double kUnseenContrast = 0.5;                       // where the picture ends
constexpr double kPartedTrust = 0.95;                         // in differing from a ground of many colours
constexpr double kNearlySameHue = 12, kLeap = 6;              // of colours (CIE76)
constexpr double kSizeStands = 0.12;                          // of the root of the share of the picture
constexpr int kRulePx = 3;
constexpr double kAtBorderPx = 3;                   // of the picture
constexpr double kGoodLight = 80, kLeastLight = 8;  // of lightness
constexpr double kSmoothest = 1 / 12.0;             // of the places in a patch, that tell how rough it is
constexpr double kSmooth = 0.1;                     // of the places beside one another, by how rough they are
constexpr size_t kLeastPlaces = 20;                 // that tell anything

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

// How far the middle hues of two places differ.
double far_apart(const std::array<std::array<std::vector<float>, 2>, 2>& hues) {
    return std::hypot(median(hues[0][0]) - median(hues[1][0]), median(hues[0][1]) - median(hues[1][1]));
}

}  // namespace

bool same_paper(const Beyond& beyond, double most_apart) {
    return !beyond.seen || (beyond.rough < kRougher * beyond.piece_rough + kRoughMore && beyond.hue < most_apart &&
                            beyond.light < kInShadow);
}

SheetSearch::SheetSearch(const EdgePicture& picture, const std::vector<EdgeLine>& lines, const cv::Mat& pixels)
    : picture_(picture), deviations_(local_deviations(pixels, picture.lab.size())) {
    for (const EdgeLine& line : lines) lines_.push_back(line), profiles_.emplace_back(picture, line);
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

std::vector<size_t> SheetSearch::clearest(size_t most) const {
    return best_of(most, [&](size_t i) { return profiles_[i].strength(); });
}

std::vector<size_t> SheetSearch::about(const Box& block, size_t most) const {
    const double size = std::max(block.width(), block.height()), reach = kReach * size;
    const Box around{block.left - reach, block.top - reach, block.right + reach, block.bottom + reach};
    const Point middle = block.centre();
    return best_of(most, [&](size_t i) {
        const Point n = lines_[i].normal;
        const double half = (std::abs(n.x) * block.width() + std::abs(n.y) * block.height()) / 2;
        const double away = std::abs(dot(n, middle) - lines_[i].offset);
        if (away < kCoreOfBlock * half) return 0.0;
        return std::min(profiles_[i].strength(around), size) - kFarSide * std::max(0.0, away - half);
    });
}

std::vector<SheetCandidate> SheetSearch::candidates(const std::vector<size_t>& among, size_t most) const {
    std::vector<SheetCandidate> out;
    const auto keep_best = [&] {
        // Edges that lie side by side give the same sheet many times.
        std::ranges::sort(out, std::greater{}, &SheetCandidate::score);
        std::set<std::array<int, 8>> known;
        std::erase_if(out, [&](const SheetCandidate& c) {
            std::array<int, 8> key{};
            for (size_t k = 0; k < 4; ++k) {
                key[2 * k] = static_cast<int>(std::floor(c.corners[k].x / kSameCornerPx));
                key[2 * k + 1] = static_cast<int>(std::floor(c.corners[k].y / kSameCornerPx));
            }
            return known.size() >= most || !known.insert(key).second;
        });
    };
    const size_t n = lines_.size();
    const double least = kLeastSide * std::max(picture_.lab.cols, picture_.lab.rows);
    struct Crossing {
        size_t line;
        LineProfile::Part part;
    };
    for (size_t first = 0; first < among.size(); ++first)
        for (size_t second = first + 1; second < among.size(); ++second) {
            const size_t i = among[first], k = among[second];
            // Sides that face one another; whatever crosses both may close the sheet.
            std::vector<Crossing> across;
            for (const size_t c : among) {
                if (!meets_[i * n + c] || !meets_[k * n + c]) continue;
                const Point a = corner_[i * n + c], b = corner_[k * n + c];
                if (distance(a, b) < least) continue;
                const LineProfile::Part part = profiles_[c].between(a, b);
                if (part.cover > kLeastCover && !part.soft) across.push_back({c, part});
            }
            for (size_t p = 0; p < across.size(); ++p)
                for (size_t q = p + 1; q < across.size(); ++q)
                    if (auto candidate = closed(i, across[p].line, k, across[q].line, across[p].part, across[q].part))
                        out.push_back(*candidate);
            if (out.size() > 8 * most) keep_best();  // in a picture of noise there are millions
        }
    keep_best();
    return out;
}

std::optional<SheetCandidate> SheetSearch::candidate(std::array<Point, 4> corners) const {
    set_clockwise(corners);
    SheetCandidate out;
    out.corners = corners;
    out.least_cover = 1;
    for (size_t side = 0; side < 4; ++side) {
        const Point a = corners[side], b = corners[(side + 1) % 4], c = corners[(side + 2) % 4];
        const double span = distance(a, b), next = distance(b, c);
        if (span < 1 || next < 1) return std::nullopt;
        const double turn = ((b.x - a.x) * (c.y - b.y) - (b.y - a.y) * (c.x - b.x)) / (span * next);
        if (turn < std::sin(kLeastTurn)) return std::nullopt;
        const Point normal = Point{b.y - a.y, a.x - b.x} * (1 / span);
        const LineProfile::Part part = LineProfile(picture_, {normal, dot(normal, a), 0, false}).between(a, b);
        if (part.soft) return std::nullopt;
        out.cover += part.cover / 4;
        out.brighter += (1 - part.brighter) / 4;  // the normal points outwards
        out.least_cover = std::min(out.least_cover, part.cover);
    }
    return out;
}

void SheetSearch::judge(SheetCandidate& c) const {
    double least = 1;
    c.contrast = contrast(c, least);
    c.evenness = evenness(c);
    c.roughness = roughness(c);
    const double whole = static_cast<double>(picture_.lab.total());
    c.score = 0.22 * c.cover + 0.12 * c.least_cover + 0.24 * c.contrast + 0.1 * least + 0.04 * c.brighter +
              0.20 * c.evenness + 0.08 * std::sqrt(std::min(1.0, area(c.corners) / whole));
    c.standing = c.score + kSizeStands * std::sqrt(std::min(1.0, area(c.corners) / whole));
}

Beyond SheetSearch::beyond(const SheetCandidate& piece, const SheetCandidate& whole) const {
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
    if (there[0].size() < kLeastPlaces || there[1].size() < kLeastPlaces) return {};
    const std::array<float, 2> middle{median(hues[1][0]), median(hues[1][1])};
    int alike = 0;
    for (size_t i = 0; i < hues[0][0].size(); ++i)
        alike += std::hypot(hues[0][0][i] - middle[0], hues[0][1][i] - middle[1]) < kNearlySameHue;
    return {quantile(there[0], kSmooth),
            std::max(kSmoothestTold, static_cast<double>(quantile(there[1], kSmooth))),
            far_apart(hues),
            std::abs(median(lights[0]) - median(lights[1])),
            alike / static_cast<double>(hues[0][0].size()),
            true};
}

bool SheetSearch::goes_on_beyond(const SheetCandidate& piece) const {
    const double right = picture_.lab.cols - 1, bottom = picture_.lab.rows - 1;
    SheetCandidate whole;
    whole.corners = {{{0, 0}, {right, 0}, {right, bottom}, {0, bottom}}};
    return same_paper(beyond(piece, whole), kSameHue);
}

int SheetSearch::frame_sides(const SheetCandidate& c) const {
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

bool SheetSearch::within(Point p) const {
    return p.x >= 0 && p.y >= 0 && p.x <= picture_.lab.cols - 1 && p.y <= picture_.lab.rows - 1;
}

double SheetSearch::evenness(const SheetCandidate& candidate) const {
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

double SheetSearch::roughness(const SheetCandidate& candidate) const {
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

double SheetSearch::contrast(const SheetCandidate& candidate, double& least) const {
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
        parted[pair.side] +=
            cv::norm(pair.change) > kDiffers && std::hypot(pair.hue[0] - middle[0], pair.hue[1] - middle[1]) < kSameHue;
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
    if (kPartedTrust * total_parted > total) total = kPartedTrust * total_parted, least = kPartedTrust * least_parted;
    return total;
}

std::optional<SheetCandidate> SheetSearch::closed(size_t top, size_t right, size_t bottom, size_t left,
                                                  const LineProfile::Part& of_right,
                                                  const LineProfile::Part& of_left) const {
    const size_t n = lines_.size();
    SheetCandidate out;
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
        const LineProfile::Part part = i == 1 ? of_right : i == 3 ? of_left : profiles_[sides[i]].between(a, b);
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

}  // namespace fernleaf
