#include "paper/rule_finding.h"

#include <opencv2/imgproc.hpp>
#include <optional>

#include "base/quantile.h"
#include "paper/shrunk.h"

namespace fernleaf {
namespace {

constexpr double kRuleShare = 0.18;   // of the picture's width: a thin run this long is a printed rule
constexpr double kLeastRulePx = 150;  // on a small note a word is as long as that share
constexpr double kBare = 0.4;         // of a rule's places, by darkness: there nothing was written
constexpr double kMostSlope = 0.204, kSlopeStep = 0.004;
constexpr int kSlopePx = 850;   // width of the copy in which the slope is looked for
constexpr int kFaintHere = 60;  // of 255: so much of a pixel of a copy is darker than paper
// A page that curls, or was not laid quite flat, has other slopes in other places: it is gone over in parts.
constexpr double kStrip = 0.36, kStripStep = 0.16;  // of the picture's width
constexpr double kBand = 0.37, kBandStep = 0.315;   // and height
// Where it curls more than a slope of its own bears, rules are followed on from their ends.
constexpr int kKnownPx = 144, kLeastKnownPx = 40;  // of a rule: they tell where it goes
constexpr int kMostBackPx = 700;                   // so far before its end they are looked for
constexpr int kBarePx = kRuleThicknessPx + 3;      // a rule with its faint borders
constexpr int kAsidePx = 2;                        // so far from where it should be it is looked for
constexpr double kPlaceGain = 0.3, kSlopeGain = 0.02;
constexpr double kEdgeTrust = 0.4;                // where only one of its edges is to be seen
constexpr double kNothing = -1, kCrossed = -0.3;  // what a place counts where nothing is to be seen, or ink
constexpr double kLeastGain = 10, kMostLoss = 14;

// How far each column is shifted down by a slope.
std::vector<int> shifts(int columns, double slope) {
    std::vector<int> out(static_cast<size_t>(columns));
    for (int x = 0; x < columns; ++x) out[static_cast<size_t>(x)] = static_cast<int>(std::lround(slope * x));
    return out;
}

// Each column shifted down by slope times its place.
cv::Mat sheared(const cv::Mat& mask, double slope) {
    const std::vector<int> shift = shifts(mask.cols, slope);
    cv::Mat out(mask.size(), CV_8U, cv::Scalar(0));
    // Whole runs of columns with one shift at a time.
    for (int begin = 0, end = 0; begin < mask.cols; begin = end) {
        const int by = shift[static_cast<size_t>(begin)];
        while (end < mask.cols && shift[static_cast<size_t>(end)] == by) ++end;
        const int top = std::max(0, by), bottom = std::min(mask.rows, mask.rows + by);
        if (top >= bottom) continue;
        mask(cv::Rect(begin, top - by, end - begin, bottom - top))
            .copyTo(out(cv::Rect(begin, top, end - begin, bottom - top)));
    }
    return out;
}

// Calls use(begin, end) for the runs of at least this length among so many places. Such a run holds one of the places
// that lie its length apart: only these, and what is about those that are set, need be looked at.
template <class IsSet, class Use>
void for_each_run(int places, int length, const IsSet& is_set, const Use& use) {
    int clear = 0;  // what lies before it belongs to no further run
    for (int x = length - 1; x < places;) {
        if (!is_set(x)) {
            clear = x + 1;
            x += length;
            continue;
        }
        int begin = x, end = x + 1;
        while (begin > clear && is_set(begin - 1)) --begin;
        while (end < places && is_set(end)) ++end;
        if (end - begin >= length) use(begin, end);
        clear = end + 1;
        x = end + length;
    }
}

// A pixel more above and below: so a run may step by one where a rule is not quite straight. With a row added above and
// one below.
cv::Mat thickened(const cv::Mat& mask) {
    cv::Mat out;
    cv::copyMakeBorder(mask, out, 1, 1, 0, 0, cv::BORDER_CONSTANT, cv::Scalar(0));
    cv::dilate(out, out, cv::getStructuringElement(cv::MORPH_RECT, {1, 3}));
    return out;
}

// What belongs to runs along rows of at least this length.
cv::Mat runs(const cv::Mat& mask, int length) {
    const cv::Mat thick = thickened(mask);
    cv::Mat out(mask.size(), CV_8U, cv::Scalar(0));
    for (int y = 0; y < mask.rows; ++y) {
        const uchar* row = thick.ptr<uchar>(y + 1);
        for_each_run(
            mask.cols, length, [&](int x) { return row[x] != 0; },
            [&](int begin, int end) { out(cv::Rect(begin, y, end - begin, 1)).setTo(255); });
    }
    return out & mask;
}

// How much of the rows of a sheared mask belongs to such runs: the sum of squares, so that a few full rows count for
// more than many with a little.
double filling_of_rows(const cv::Mat& mask, const cv::Mat& thick, double slope, int length) {
    const std::vector<int> shift = shifts(mask.cols, slope);
    double out = 0;
    for (int y = 0; y < mask.rows; ++y) {
        const auto row_of = [&](int x) { return y - shift[static_cast<size_t>(x)]; };
        double filled = 0;
        for_each_run(
            mask.cols, length,
            [&](int x) {
                const int row = row_of(x) + 1;
                return row >= 0 && row < thick.rows && thick.at<uchar>(row, x) != 0;
            },
            [&](int begin, int end) {
                for (int x = begin; x < end; ++x) {
                    const int row = row_of(x);
                    filled += row >= 0 && row < mask.rows && mask.at<uchar>(row, x) != 0;
                }
            });
        out += filled * filled;
    }
    return out;
}

// Of a rule, in one column.
struct Cut {
    int top, bottom;  // its rows
    int darkest;
};

// How dark a rule is where nothing was written on it.
double bare_darkness(const std::vector<Cut>& cuts) {
    std::vector<int> darkness;
    for (const Cut& cut : cuts) darkness.push_back(cut.darkest);
    return quantile(std::move(darkness), kBare);
}

// Takes a rule in; its first cut lies in a column. usual: how dark it is where it is bare; ink: what is as dark as ink;
// known: all rules.
void take(const std::vector<Cut>& cuts, int first, double usual, const cv::Mat& ink, const cv::Mat& known,
          PrintedRules& out) {
    for (size_t i = 0; i < cuts.size(); ++i) {
        const auto& [top, bottom, darkest] = cuts[i];
        const int x = first + static_cast<int>(i);
        // Darker than the rule: a stroke lies on it. Ink just above and below: one runs through it.
        const bool under = darkest > kOnRule * usual + kFaintestRule;
        const auto inked = [&](int y) {
            return y >= 0 && y < ink.rows && ink.at<uchar>(y, x) != 0 && known.at<uchar>(y, x) == 0;
        };
        bool crossed = false;
        for (int k = 1; k <= kRuleThicknessPx && !crossed; ++k) crossed = inked(top - k) && inked(bottom + k);
        for (int y = std::max(0, top - 1); y <= std::min(ink.rows - 1, bottom + 1); ++y) {
            (under ? out.under : out.all).at<uchar>(y, x) = 255;
            if (!under && !crossed) out.free.at<uchar>(y, x) = 255;
        }
    }
}

// What is darker than paper, in a copy in which a slope is looked for.
struct Copy {
    cv::Mat mask, thick;  // thick: with a row added above and one below
    double scale = 1;

    // shrunk_faint: by that scale.
    Copy(const cv::Mat& shrunk_faint, double by) : scale(by) {
        cv::threshold(shrunk_faint, mask, kFaintHere, 255, cv::THRESH_BINARY);
        thick = thickened(mask);
    }
    // Of a part of the picture.
    double filling(cv::Range rows, cv::Range columns, double slope, double length_px) const {
        const auto here = [this](cv::Range range, int all) {
            return cv::Range(std::min(all, static_cast<int>(range.start * scale)),
                             std::min(all, static_cast<int>(range.end * scale)));
        };
        const cv::Range y = here(rows, mask.rows), x = here(columns, mask.cols);
        return filling_of_rows(mask(y, x), thick(cv::Range(y.start, y.end + 2), x), slope,
                               std::max(1, static_cast<int>(length_px * scale)));
    }
};

// The slope along which rules of at least this length go through a part of the picture; nothing where there are none.
// It is looked for in copies, the coarser first: at the right slope the rules fill few rows, and those wholly.
std::optional<double> slope_of_rules(const Copy& coarse, const Copy& fine, cv::Range rows, cv::Range columns,
                                     double length_px) {
    double slope = 0, most = 0;
    const auto look = [&](const Copy& copy, double from, double to, double step) {
        most = 0;
        for (double s = from; s < to + 1e-9; s += step) {
            const double filled = copy.filling(rows, columns, s, length_px);
            if (filled > most) most = filled, slope = s;
        }
    };
    look(coarse, -kMostSlope, kMostSlope, 3 * kSlopeStep);
    if (most > 0) look(fine, slope - 3 * kSlopeStep, slope + 3 * kSlopeStep, kSlopeStep);
    return most > 0 ? std::optional(slope) : std::nullopt;
}

// Of rules along one slope, at least so long.
PrintedRules straight_across(const cv::Mat& faint, const cv::Mat& ink, const cv::Mat& dark, double slope,
                             int length_px) {
    PrintedRules out(faint.size());
    const cv::Mat rules = runs(sheared(faint, slope), length_px);
    if (cv::countNonZero(rules) == 0) return out;
    const cv::Mat written = sheared(ink, slope), depth = sheared(dark, slope);
    // Rules fill few rows: what touches lies in rows next to one another.
    cv::Mat filled, labels, stats, centres;
    cv::reduce(rules, filled, 1, cv::REDUCE_MAX);
    for (int begin = 0, end = 0; begin < rules.rows; begin = end) {
        const bool any = filled.at<uchar>(begin) != 0;
        while (end < rules.rows && (filled.at<uchar>(end) != 0) == any) ++end;
        if (!any) continue;
        const int count = cv::connectedComponentsWithStats(rules.rowRange(begin, end), labels, stats, centres);
        for (int i = 1; i < count; ++i) {
            const cv::Rect box(stats.at<int>(i, cv::CC_STAT_LEFT), stats.at<int>(i, cv::CC_STAT_TOP),
                               stats.at<int>(i, cv::CC_STAT_WIDTH), stats.at<int>(i, cv::CC_STAT_HEIGHT));
            if (box.height > 4 * kRuleThicknessPx) continue;
            std::vector<Cut> cuts;
            for (int x = box.x; x < box.br().x; ++x) {
                int top = box.y, bottom = box.br().y - 1;
                while (top < bottom && labels.at<int>(top, x) != i) ++top;
                while (bottom > top && labels.at<int>(bottom, x) != i) --bottom;
                Cut cut{begin + top, begin + bottom, 0};
                for (int y = cut.top; y <= cut.bottom; ++y)
                    cut.darkest = std::max<int>(cut.darkest, depth.at<uchar>(y, x));
                cuts.push_back(cut);
            }
            take(cuts, box.x, bare_darkness(cuts), written, rules, out);
        }
    }
    for (cv::Mat* mask : {&out.free, &out.all, &out.under}) *mask = sheared(*mask, -slope) & faint;
    return out;
}

// Where a rule is in a column, and how it goes on.
struct Course {
    double y = 0, slope = 0;
    double thickness = 0, darkness = 0;  // of the rule, where it is bare
};

// Follows rules beyond what is known of them.
class Follower {
public:
    Follower(const cv::Mat& faint, const cv::Mat& ink, const cv::Mat& dark, PrintedRules& out)
        : faint_(faint), ink_(ink), dark_(dark), known_(out.all | out.under), out_(out) {}

    void follow_all() {
        if (cv::countNonZero(known_) == 0) return;
        cv::Mat labels, stats, centres;
        const int count = cv::connectedComponentsWithStats(known_, labels, stats, centres);
        for (int i = 1; i < count; ++i) {
            const cv::Rect box(stats.at<int>(i, cv::CC_STAT_LEFT), stats.at<int>(i, cv::CC_STAT_TOP),
                               stats.at<int>(i, cv::CC_STAT_WIDTH), stats.at<int>(i, cv::CC_STAT_HEIGHT));
            for (const int way : {-1, 1}) {
                // A run along one slope leaves a rule that bends slowly: it is followed from before its end, and from
                // before what is written there.
                const int end = way < 0 ? box.x : box.br().x - 1;
                for (int back = kKnownPx / 2; back < std::min(box.width, kMostBackPx); back += kKnownPx)
                    if (const auto course = course_at(labels, i, box, end - way * back)) {
                        follow(*course, end - way * back, way);
                        break;
                    }
            }
        }
        for (cv::Mat* mask : {&out_.free, &out_.all, &out_.under}) *mask &= faint_;
    }

private:
    // In a column, of a rule that is known about it: a line through the places there (least squares).
    std::optional<Course> course_at(const cv::Mat& labels, int label, const cv::Rect& box, int column) const {
        std::vector<Cut> cuts;
        double n = 0, sx = 0, sy = 0, sxx = 0, sxy = 0, thickness = 0;
        for (int x = std::max(box.x, column - kKnownPx / 2); x < std::min(box.br().x, column + kKnownPx / 2); ++x) {
            int top = box.y;
            while (top < box.br().y - 1 && labels.at<int>(top, x) != label) ++top;
            const Cut cut = column_about(x, top);
            if (!bare(cut)) continue;
            cuts.push_back(cut);
            const double y = (cut.top + cut.bottom) / 2.0, at = x - column;
            n += 1, sx += at, sy += y, sxx += at * at, sxy += at * y, thickness += cut.bottom - cut.top + 1;
        }
        if (n < kLeastKnownPx) return std::nullopt;
        const double slope = (n * sxy - sx * sy) / (n * sxx - sx * sx);
        return Course{(sy - slope * sx) / n, slope, thickness / n, bare_darkness(cuts)};
    }

    void follow(Course course, int from, int way) {
        std::vector<Cut> cuts;
        size_t kept = 0;
        double gain = 0, most = 0;
        const double half = (course.thickness - 1) / 2;
        for (int x = from + way; x >= 0 && x < faint_.cols && gain > most - kMostLoss; x += way) {
            course.y += way * course.slope;
            if (course.y < kAsidePx || course.y > faint_.rows - 1 - kAsidePx) break;
            const Sight sight = look(course, half, x);
            gain += sight.counts;
            course.y += sight.trust * kPlaceGain * sight.aside;
            course.slope += sight.trust * way * kSlopeGain * sight.aside;
            Cut cut{std::max(0, static_cast<int>(std::lround(course.y - half))),
                    std::min(faint_.rows - 1, static_cast<int>(std::lround(course.y + half))), 0};
            cut.darkest = darkest(x, cut.top, cut.bottom);
            cuts.push_back(cut);
            if (gain > most) most = gain, kept = cuts.size();
        }
        if (most < kLeastGain) return;
        cuts.resize(kept);
        if (way < 0) std::ranges::reverse(cuts);
        take(cuts, way < 0 ? from - static_cast<int>(kept) : from + 1, course.darkness, ink_, known_, out_);
    }

    // What a column tells of where the rule is.
    struct Sight {
        double aside = 0;   // px from where it should be
        double trust = 0;   // in that
        double counts = 0;  // for its going on, or against
    };
    Sight look(const Course& course, double half, int x) const {
        const int row = static_cast<int>(std::lround(course.y));
        for (int k = 0; k <= 2 * kAsidePx; ++k) {  // the nearest first
            const int y = row + (k % 2 == 0 ? -k / 2 : (k + 1) / 2);
            if (y < 0 || y >= faint_.rows || faint_.at<uchar>(y, x) == 0) continue;
            const Cut seen = column_about(x, y);
            if (bare(seen) && seen.darkest <= kOnRule * course.darkness + kFaintestRule)
                return {(seen.top + seen.bottom) / 2.0 - course.y, 1, 1};
            // Ink stands on it or hangs from it: its other edge is seen.
            for (const double aside : {seen.bottom - half - course.y, seen.top + half - course.y})
                if (std::abs(aside) < kAsidePx) return {aside, kEdgeTrust, kEdgeTrust};
            return {0, 0, kCrossed};
        }
        return {0, 0, kNothing};
    }

    static bool bare(const Cut& cut) { return cut.bottom - cut.top < kBarePx; }

    // What is darker than paper at all above and below a place.
    Cut column_about(int x, int y) const {
        Cut out{y, y, 0};
        while (out.top > 0 && faint_.at<uchar>(out.top - 1, x) != 0 && y - out.top <= kBarePx) --out.top;
        while (out.bottom + 1 < faint_.rows && faint_.at<uchar>(out.bottom + 1, x) != 0 && out.bottom - y <= kBarePx)
            ++out.bottom;
        out.darkest = darkest(x, out.top, out.bottom);
        return out;
    }

    int darkest(int x, int top, int bottom) const {
        int out = 0;
        for (int y = top; y <= bottom; ++y) out = std::max<int>(out, dark_.at<uchar>(y, x));
        return out;
    }

    const cv::Mat &faint_, &ink_, &dark_;
    const cv::Mat known_;
    PrintedRules& out_;
};

// A part of the picture and the slope of the rules that go through it.
struct RuledPart {
    cv::Range rows, columns;
    double slope = 0;
};

double least_length(int width) { return std::max(kRuleShare * width, kLeastRulePx); }

// shrink: makes a copy of what is darker than paper, scaled by a factor of 1 or less.
template <class Shrink>
std::vector<RuledPart> ruled_parts(cv::Size size, const Shrink& shrink) {
    const double scale = std::min(1.0, static_cast<double>(kSlopePx) / size.width);
    const cv::Mat small = shrink(scale);
    const Copy coarse(shrunk(small, 0.5), scale / 2), fine(small, scale);
    const auto range = [](double begin, double share, int all) {
        const int first = static_cast<int>(begin * all);
        return cv::Range(first, std::min(all, first + static_cast<int>(share * all) + 1));
    };
    std::vector<RuledPart> out;
    for (double left = 0; left < 1 - kStrip + kStripStep / 2; left += kStripStep)
        for (double top = 0; top < 1 - kBand + kBandStep / 2; top += kBandStep) {
            const cv::Range columns = range(left, kStrip, size.width), rows = range(top, kBand, size.height);
            if (const auto slope = slope_of_rules(coarse, fine, rows, columns, least_length(size.width)))
                out.push_back({rows, columns, *slope});
        }
    return out;
}

PrintedRules rules_in(const std::vector<RuledPart>& parts, const cv::Mat& faint, const cv::Mat& ink,
                      const cv::Mat& dark) {
    PrintedRules out(faint.size());
    for (const auto& [rows, columns, slope] : parts) {
        const PrintedRules found = straight_across(faint(rows, columns), ink(rows, columns), dark(rows, columns), slope,
                                                   static_cast<int>(least_length(faint.cols)));
        out.free(rows, columns) |= found.free;
        out.all(rows, columns) |= found.all;
        out.under(rows, columns) |= found.under;
    }
    Follower(faint, ink, dark, out).follow_all();
    out.free -= out.under, out.all -= out.under;
    return out;
}

}  // namespace

PrintedRules::PrintedRules(cv::Size size) : free(size, CV_8U, cv::Scalar(0)), all(free.clone()), under(free.clone()) {}

PrintedRules rules_across(const cv::Mat& faint, const cv::Mat& ink, const cv::Mat& dark) {
    const std::vector<RuledPart> parts = ruled_parts(faint.size(), [&](double by) { return shrunk(faint, by); });
    if (parts.empty()) return PrintedRules(faint.size());
    return rules_in(parts, faint, ink, dark);
}

PrintedRules rules_down(const cv::Mat& faint, const cv::Mat& ink, const cv::Mat& dark) {
    // Only copies are turned before it is known that there are any.
    const std::vector<RuledPart> parts =
        ruled_parts({faint.rows, faint.cols}, [&](double by) { return cv::Mat(shrunk(faint, by).t()); });
    PrintedRules out(faint.size());
    if (parts.empty()) return out;
    const PrintedRules across = rules_in(parts, faint.t(), ink.t(), dark.t());
    if (cv::countNonZero(across.all | across.under) == 0) return out;
    cv::transpose(across.free, out.free);
    cv::transpose(across.all, out.all);
    cv::transpose(across.under, out.under);
    return out;
}

}  // namespace fernleaf
