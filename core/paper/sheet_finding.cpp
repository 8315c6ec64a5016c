#include "paper/sheet_finding.h"

#include <algorithm>
#include <numbers>
#include <opencv2/imgproc.hpp>
#include <optional>
#include <set>
#include <span>

#include "base/quantile.h"
#include "paper/corner_marks.h"
#include "paper/lab.h"
#include "paper/quadrilateral.h"
#include "paper/sheet_edges.h"
#include "paper/sheet_patches.h"
#include "paper/sheet_search.h"
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
constexpr size_t kMostJudged = 4000;
constexpr size_t kMostLinesAbout = 32, kMostAbout = 500;             // the same about a block of writing
constexpr double kWrittenStands = 0.06;                              // of a score
constexpr double kMuchWritten = 15, kPageOfSpots = 60;               // spots of writing,
constexpr double kBlankSpots = 4, kBlankDark = 0.01;                 // and what is nearly without, of its area
constexpr double kUneven = 0.75, kEven = 0.9;                        // a ground with a sheet on it; a sheet
constexpr double kMostOfPicture = 0.5;                               // a block of writing, not a rough ground
constexpr double kMostlyAlike = 0.8;                                 // of what lies beyond a piece,
constexpr double kNotRougher = 1.25;                                 // and times as rough: the same paper
constexpr double kWritten = 10, kMoreWritten = 1.1, kMoreSpots = 2;  // spots: writing that goes on
constexpr double kTwiceTheArea = 0.12, kTwiceTheWriting = 0.15, kMostTwice = 2;  // of a score; log2
constexpr double kNearlyAsGood = 0.09;   // of a score: then the larger of two sheets is meant
constexpr double kNearlyAsEven = 0.25;   // a shadow's edge leaps within it
constexpr double kNearlyAsClear = 0.12;  // and its dark part differs less from what is about it
constexpr double kSamePlace = 0.8;       // of the larger one's area, which two that are meant for one sheet share
constexpr double kSameWhole = 0.93;      // and a whole, which pieces must not take the place of
constexpr double kLeastScore = 0.66;
constexpr double kClearOfShadow = 0.75;                 // more than a shadow's edge and two sides of the picture make
constexpr double kLeastFurther = 0.8;                   // of sheets after the first
constexpr double kClear = 0.9;                          // such a score is a sheet whatever the ground's colour
constexpr double kMostSlender = 5;                      // sheets after the first are no strips
constexpr double kMostLikeGround = 0.12;                // of the ground that has a sheet's colour, for those
constexpr double kOfTheBest = 0.2;                      // of a score: among those so near to the best is a sheet
constexpr size_t kMostPasses = 3;                       // over all that was judged
constexpr double kFarRougher = 3;                       // times as rough: less of the ground need be like it
constexpr double kSameLight = 3, kSameLightRough = 10;  // of lightness: what is as light as a patch
constexpr double kColourful = 15;       // of colours in good light: hues that tell a thing by themselves
constexpr double kLeastMargin = 0.015;  // of the way from mark to mark across the sheet
constexpr double kMarksCertainty = 0.85;
constexpr double kWritingCertainty = 0.4;  // of a sheet of which nothing but its writing is seen,
constexpr double kWritingMargin = 0.06;    // which has such margins, of its longer side,
constexpr double kAsLight = 0.75;          // and is so light, of the sheets that were found: not grain in the dark
constexpr double kAllOfIt = 0.985;         // of the picture: no sheet is to be told from it
constexpr double kMostShared = 0.1;        // of the smaller of two sheets: how far they may overlap

std::vector<cv::Point2f> polygon_of(std::span<const Point> points) {
    std::vector<cv::Point2f> out;
    for (const Point& p : points) out.emplace_back(static_cast<float>(p.x), static_cast<float>(p.y));
    return out;
}

// Of those that lie nearly where it lies, the one with the best score.
const SheetCandidate& best_about(const SheetCandidate& place, const std::vector<SheetCandidate>& all,
                                 double same = kSamePlace) {
    const SheetCandidate* best = &place;
    for (const SheetCandidate& c : all)
        if (c.score > best->score &&
            shared_area(c.corners, place.corners) > same * std::max(area(c.corners), area(place.corners)))
            best = &c;
    return *best;
}

std::array<Point, 4> corners_of(const Box& box) {
    return {{{box.left, box.top}, {box.right, box.top}, {box.right, box.bottom}, {box.left, box.bottom}}};
}

// How much worse a larger sheet may be than a piece of it, and how far what lies beyond the piece may be from its hue.
struct Growth {
    double score, cover, contrast, evenness, hue;
};
constexpr Growth kPlain{kNearlyAsGood, kNearlyAsGood, kNearlyAsClear, kNearlyAsEven, kSameHue};
constexpr Growth kBesideWriting{0.03, kNearlyAsGood, kNearlyAsClear, kNearlyAsEven,
                                kSameHue};                                       // beyond it nothing is written
constexpr Growth kWritingGoesOn{0.05, 0.05, kNearlyAsClear, kNearlyAsEven, 25};  // shadows have hues of their own
constexpr Growth kVeryAlike{0.12, 0.13, 0.16, 0.1, 3};

bool grows(const SheetCandidate& c, const SheetCandidate& piece, const Growth& growth) {
    return c.score > piece.score - growth.score && c.cover > piece.cover - growth.cover &&
           c.contrast > piece.contrast - growth.contrast && c.evenness > piece.evenness - growth.evenness;
}

// A shadow's edge parts a sheet into pieces that are as good as the whole or better.
const SheetCandidate& whole_of(const SheetCandidate& piece, const std::vector<SheetCandidate>& all,
                               const SheetSearch& search, const WritingMap& writing) {
    const double spots = writing.spots(piece.corners), size = area(piece.corners);
    const SheetCandidate* whole = &piece;
    double most_worth = spots < kWritten ? size : piece.score;
    for (const SheetCandidate& c : all) {
        if (c.score < piece.score - kVeryAlike.score || area(c.corners) <= size ||
            !lies_in(c.corners, place_in(piece.corners, 0.5, 0.5)) ||
            shared_area(c.corners, piece.corners) < 0.95 * size)
            continue;
        const double spots_there = writing.spots(c.corners);
        const auto twice = [](double more, double less) { return std::min(kMostTwice, std::log2(more / less)); };
        // Of a piece with little writing nothing tells but its paper: the largest is meant.
        const double worth = spots < kWritten ? area(c.corners)
                                              : c.score + kTwiceTheArea * twice(area(c.corners), size) +
                                                    kTwiceTheWriting * twice(std::max(spots, spots_there), spots);
        if (worth <= most_worth) continue;
        const bool goes_on = spots >= kWritten && spots_there > kMoreWritten * spots + kMoreSpots;
        const Beyond beyond = search.beyond(piece, c);
        const auto allowed = [&](const Growth& growth) {
            return grows(c, piece, growth) && same_paper(beyond, growth.hue);
        };
        const bool very_alike =
            beyond.seen && beyond.alike > kMostlyAlike && beyond.rough < kNotRougher * beyond.piece_rough + kRoughMore;
        if (allowed(spots < kWritten ? kPlain : kBesideWriting) ||
            (goes_on && beyond.alike > kMostlyAlike && allowed(kWritingGoesOn)) || (very_alike && allowed(kVeryAlike)))
            whole = &c, most_worth = worth;
    }
    return best_about(*whole, all, whole == &piece ? kSamePlace : kSameWhole);
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

// A rectangle with a margin about it, within the picture.
std::array<Point, 4> with_margin(std::array<Point, 4> corners, cv::Size picture) {
    const double across = distance(corners[0], corners[1]), down = distance(corners[1], corners[2]);
    const double margin = kWritingMargin * std::max(across, down);
    const Point right = (corners[1] - corners[0]) * (margin / std::max(1.0, across)),
                below = (corners[2] - corners[1]) * (margin / std::max(1.0, down));
    corners = {corners[0] - right - below, corners[1] + right - below, corners[2] + right + below,
               corners[3] - right + below};
    for (Point& p : corners)
        p = {std::clamp(p.x, 0.0, picture.width - 1.0), std::clamp(p.y, 0.0, picture.height - 1.0)};
    return corners;
}

// Of what lies in an outline, the lightness that half of it exceeds, 0 to 100.
double lightness(const EdgePicture& picture, const std::array<Point, 4>& corners) {
    std::vector<float> seen;
    for (int y = 2; y < picture.lab.rows; y += 4)
        for (int x = 2; x < picture.lab.cols; x += 4)
            if (lies_in(corners, {x + 0.5, y + 0.5})) seen.push_back(picture.lab.at<cv::Vec3f>(y, x)[0]);
    return seen.empty() ? 0 : median(seen);
}

// Told from what surrounds them by their borders.
std::vector<FoundSheet> bordered_sheets(const cv::Mat& pixels, size_t most) {
    std::vector<FoundSheet> out;
    const EdgePicture seeking = edge_picture(pixels, kSeekingPx, true);
    const std::vector<EdgeLine> lines = edge_lines(seeking, kMostSegments);
    const SheetSearch search(seeking, lines, pixels);
    std::vector<SheetCandidate> judged = search.candidates(search.clearest(kMostLines), kMostJudged);
    const WritingMap writing(pixels, seeking.scale);
    const std::vector<Box> blocks = writing.blocks();
    const auto whole_area = static_cast<double>(seeking.lab.total());
    // Small sheets are lost among all the lines of a busy ground; where writing stands their sides are among the
    // clearest.
    for (const Box& block : blocks)
        for (const SheetCandidate& c : search.candidates(search.about(block, kMostLinesAbout), kMostAbout))
            if (lies_in(c.corners, block.centre())) judged.push_back(c);
    for (const std::array<Point, 4>& patch : sheet_patches(seeking))
        if (const auto candidate = search.candidate(patch)) judged.push_back(*candidate);
    for (SheetCandidate& candidate : judged) search.judge(candidate);
    if (judged.empty()) return out;
    // What is written on stands out, unless it is a ground with a sheet on it.
    const double most_standing = std::ranges::max(judged, {}, &SheetCandidate::standing).standing;
    for (SheetCandidate& c : judged)
        if (c.standing > most_standing - 2 * kWrittenStands)
            c.standing += kWrittenStands * std::min(1.0, writing.spots(c.corners) / kMuchWritten) *
                          std::clamp((c.evenness - kUneven) / (kEven - kUneven), 0.0, 1.0);
    std::ranges::sort(judged, std::greater{}, &SheetCandidate::standing);
    double smoothest = std::numeric_limits<double>::infinity();
    const double best_score = std::ranges::max(judged, {}, &SheetCandidate::score).score;
    for (const SheetCandidate& c : judged)
        if (c.score > best_score - kOfTheBest) smoothest = std::min(smoothest, std::max(kSmoothestTold, c.roughness));
    // Stripes of cloth and planks are of the ground's colour, and rough as it is.
    std::vector<std::array<Point, 4>> taken;
    const auto is_ground = [&](const SheetCandidate& c) {
        if (c.score > kClear && c.evenness > kEven && writing.spots(c.corners) >= kMuchWritten) return false;
        if (c.roughness <= kRougher * smoothest + kRoughMore) return false;
        const double most_alike =
            c.roughness > kFarRougher * smoothest + kRoughMore ? kMostLikeGround / 2 : kMostLikeGround;
        return like_ground(seeking, c.corners, taken, true) > most_alike;
    };
    // Blank, while something is written elsewhere.
    const auto is_blank = [&](const SheetCandidate& c) {
        return writing.spots(c.corners) < kBlankSpots && writing.dark(c.corners) < kBlankDark &&
               std::ranges::any_of(blocks, [&](const Box& block) {
                   const std::array<Point, 4> box = corners_of(block);
                   return writing.spots(box) > kPageOfSpots && area(box) < kMostOfPicture * whole_area &&
                          shared_area(box, c.corners) < kMostShared * area(box);
               });
    };
    const auto apart = [&](const SheetCandidate& c) {
        return std::ranges::all_of(taken, [&](const std::array<Point, 4>& other) {
            return shared_area(c.corners, other) < kMostShared * std::min(area(c.corners), area(other));
        });
    };
    double least_score = 0;
    std::optional<EdgePicture> tracing;  // made when there is a border to follow
    // Once more after sheets were found: what is like them is no ground any more.
    for (size_t before = 0, pass = 0; pass == 0 || (out.size() > before && pass < kMostPasses); ++pass) {
        before = out.size();
        for (const SheetCandidate& best : judged) {
            if (out.size() == most) break;
            if (best.score < std::max(least_score, out.empty() ? kLeastScore : kLeastFurther) || !apart(best)) continue;
            const SheetCandidate& candidate = whole_of(best_about(best, judged), judged, search, writing);
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
            if (out.empty() && is_blank(candidate)) continue;
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
    // What is written and lies in no sheet stands on paper whose border is not to be seen, white on white: beside other
    // sheets it must not get lost. (Where there are none, the whole picture is read.)
    if (out.empty()) return out;
    double paper = 0;
    for (const std::array<Point, 4>& sheet : taken) paper = std::max(paper, lightness(seeking, sheet));
    std::vector<Box> largest_first = blocks;
    std::ranges::sort(largest_first, std::greater{}, [&](const Box& b) { return writing.spots(corners_of(b)); });
    for (const Box& block : largest_first) {
        const auto tight = writing.rectangle_about(block);
        if (!tight || writing.spots(*tight) < kPageOfSpots) continue;
        SheetCandidate page;
        page.corners = with_margin(*tight, seeking.lab.size());
        if (area(page.corners) > kMostOfPicture * whole_area || !apart(page)) continue;
        if (lightness(seeking, page.corners) < kAsLight * paper) continue;
        search.judge(page);
        const SheetOutline outline = scaled(SheetOutline{page.corners, {}}, 1 / seeking.scale);
        if (page.evenness < kEven || writing_on(pixels, outline) != Writing::much) continue;
        taken.push_back(page.corners);
        out.push_back({outline, kWritingCertainty});
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
    if (out.size() > most) out.resize(most);
    for (FoundSheet& sheet : out) sheet.outline = scaled(sheet.outline, 1 / scale);
    return out;
}

}  // namespace fernleaf
