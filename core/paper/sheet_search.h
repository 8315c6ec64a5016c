// What can be a sheet of paper in a photograph: four straight edges that close, each such outline judged by what lies
// in it and along its border (sheet_finding.h tells which of them are taken).
#pragma once

#include <algorithm>
#include <array>
#include <limits>
#include <opencv2/core.hpp>
#include <optional>
#include <vector>

#include "base/geometry.h"
#include "paper/edge_line.h"
#include "paper/line_profile.h"
#include "paper/sheet_edges.h"

namespace fernleaf {

constexpr double kSmoothestTold = 0.15;              // of lightness: in eight bits nothing smoother is told
constexpr double kRougher = 1.6, kRoughMore = 0.05;  // than a smooth sheet: what is rougher is none
constexpr double kInShadow = 45;                     // of lightness: a shadow takes no more

struct SheetCandidate {
    std::array<Point, 4> corners{};  // clockwise
    double cover = 0, least_cover = 0, differ = 0, brighter = 0;
    double contrast = 0;  // share of the border along which inside and outside differ, and everywhere in the same way
    double evenness = 0;
    double roughness = 0;  // where it is smoothest
    double score = 0;
    double standing = 0;  // the score, and more for a larger one: a picture is taken of what fills it
};

// What a larger sheet has more than a piece of it, beside the piece.
struct Beyond {
    double rough = 0, piece_rough = 0;  // where they are smoothest
    double hue = 0, light = 0;          // how far the middle ones are apart
    double alike = 0;                   // share of it that is nearly of the piece's hue
    bool seen = false;                  // enough of both to tell
};

// Whether it is as rough as the piece is, of its hue, and no darker than a shadow makes it: then it is the same paper.
bool same_paper(const Beyond& beyond, double most_apart);

// picture: with slopes; it must outlive the search. pixels: what it was made of.
class SheetSearch {
public:
    SheetSearch(const EdgePicture& picture, const std::vector<EdgeLine>& lines, const cv::Mat& pixels);

    // The clearest lines of the picture.
    std::vector<size_t> clearest(size_t most) const;

    // The lines that can be sides of a sheet with this block of writing: near it, as long as it, and not across it.
    std::vector<size_t> about(const Box& block, size_t most) const;

    // The likeliest fours of lines that can be a sheet, judged by their borders: at most so many, the best first.
    std::vector<SheetCandidate> candidates(const std::vector<size_t>& among, size_t most) const;

    // A quadrilateral that came from elsewhere, as a candidate.
    std::optional<SheetCandidate> candidate(std::array<Point, 4> corners) const;

    // The second and slower look at a candidate.
    void judge(SheetCandidate& c) const;

    // What a larger sheet has more than a piece of it.
    Beyond beyond(const SheetCandidate& piece, const SheetCandidate& whole) const;

    // Whether what is seen beside a piece of the picture is the same paper in another light: as smooth, and of its hue.
    bool goes_on_beyond(const SheetCandidate& piece) const;

    // Of its sides, those that are the picture's own border.
    int frame_sides(const SheetCandidate& c) const;

private:
    template <typename Strength>
    std::vector<size_t> best_of(size_t most, const Strength& strength_of) const {
        std::vector<std::pair<double, size_t>> order;
        for (size_t i = 0; i < lines_.size(); ++i) {
            const double strength = lines_[i].frame ? std::numeric_limits<double>::infinity() : strength_of(i);
            if (strength > 0) order.emplace_back(-strength, i);
        }
        std::ranges::sort(order);
        if (order.size() > most) order.resize(most);
        std::vector<size_t> out;
        for (const auto& [strength, i] : order) out.push_back(i);
        return out;
    }

    bool within(Point p) const;

    cv::Vec3f colour(Point p) const { return picture_.colour(p); }

    // How even the inside is: how seldom its colour leaps from one place to the next, and how little its hue leaves
    // that of the most. Light changes slowly, a shadow's edge is one leap; a pattern leaps everywhere.
    double evenness(const SheetCandidate& candidate) const;

    // The deviation of lightness within small windows, of all of them one of the least: paper between its writing is
    // smooth, cloth and wood are not.
    double roughness(const SheetCandidate& candidate) const;

    // least: of the side where it is smallest.
    double contrast(const SheetCandidate& candidate, double& least) const;

    std::optional<SheetCandidate> closed(size_t top, size_t right, size_t bottom, size_t left,
                                         const LineProfile::Part& of_right, const LineProfile::Part& of_left) const;

    const EdgePicture& picture_;
    cv::Mat deviations_;
    std::vector<EdgeLine> lines_;
    std::vector<LineProfile> profiles_;
    std::vector<Point> corner_;
    std::vector<char> meets_;
};

}  // namespace fernleaf
