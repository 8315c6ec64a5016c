#include "paper/ink_mask.h"

#include <opencv2/imgproc.hpp>

#include "base/quantile.h"
#include "paper/pen_blur.h"

namespace fernleaf {
namespace {

constexpr int kLightPx = 400;   // longer side of the copy in which the light on the paper is looked for
constexpr int kStrokesPx = 17;  // of it: narrower things are on the paper
constexpr double kLightSigma = 2;
constexpr int kFaintest = 22;         // darker than the paper by this many of 255, at least
constexpr int kFaintestRule = 12;     // and rules by this many
constexpr double kRuleShare = 0.18;   // of the picture's width: a thin run this long is a printed rule
constexpr double kLeastRulePx = 150;  // on a small note a word is as long as that share
constexpr int kRuleThicknessPx = 4;
constexpr int kSmallestPx = 5;     // pieces of fewer pixels are dirt,
constexpr int kSmallestDotPx = 3;  // unless they stand where a dot may
constexpr double kLeastDot = 0.3;  // of the square on a stroke's width: smaller pieces are dirt
constexpr double kThinnest = 0.4;  // of a stroke's width
constexpr double kFaintDot = 0.1;  // where no rule is that it could be left of: a blurred dot is that small
constexpr double kAlongRule = 6;   // px: so near a rule is as dark
constexpr double kLeastBitPx = 40, kSlenderBit = 0.15;  // of its length: of a rule's bit
constexpr double kLeastBit = 2, kThinBit = 0.5;         // of a stroke's width: how long, and how thin by itself
constexpr double kAsRules = 1.3, kBitThickness = 1.5;   // of the rules' darkness, and of their thickness
constexpr double kSharpest = 0.3;                       // px: no picture is sharper
constexpr double kDotShare = 0.3;  // of the darkness a blurred dot should have: dots are often lighter than strokes
constexpr double kBarePaper = 3;   // of a stroke's width: as far from ink there is none
constexpr double kMostGrain = 0.99, kAboveGrain = 2;  // of its places, by darkness; and of that darkness
constexpr double kMostDot = 1.3, kDotReach = 2.5;     // of a stroke's width: across a dot, and from it to other ink
constexpr double kRoundDot = 0.5;                     // of its length: a dot's width
constexpr int kMarginPx = 3, kAlongPx = 12;
constexpr double kBroad = 2.5;       // strokes: broader things at the border are none
constexpr double kBare = 0.4;        // of a rule's places, by darkness: there nothing was written
constexpr double kOnRule = 1.4;      // as dark as a rule mostly is: darker is a stroke on it
constexpr double kAsTwoRules = 2.2;  // where rules cross
constexpr double kMostSlope = 0.204, kSlopeStep = 0.004;
constexpr int kSlopePx = 850;   // width of the copy in which the slope is looked for
constexpr int kFaintHere = 60;  // of 255: so much of a pixel of a copy is darker than paper
// A page that curls, or was not laid quite flat, has other slopes in other places: it is gone over in parts.
constexpr double kStrip = 0.36, kStripStep = 0.16;  // of the picture's width
constexpr double kBand = 0.37, kBandStep = 0.315;   // and height

cv::Mat darkness(const cv::Mat& grey) {
    cv::Mat small, paper;
    const double shrink = std::min(1.0, static_cast<double>(kLightPx) / std::max(grey.cols, grey.rows));
    cv::resize(grey, small, {}, shrink, shrink, cv::INTER_AREA);
    // The paper is what remains when dark strokes are closed over: shadows keep their edges. Then it is smoothed, no
    // more than these edges bear.
    const cv::Mat kernel = cv::getStructuringElement(cv::MORPH_ELLIPSE, {kStrokesPx, kStrokesPx});
    cv::morphologyEx(small, small, cv::MORPH_CLOSE, kernel);
    cv::GaussianBlur(small, small, {}, kLightSigma);
    cv::resize(small, paper, grey.size(), 0, 0, cv::INTER_CUBIC);
    cv::Mat flat;
    cv::divide(grey, paper, flat, 255);
    return 255 - flat;
}

// Each column shifted down by slope times its place.
cv::Mat sheared(const cv::Mat& mask, double slope) {
    std::vector<int> shift(static_cast<size_t>(mask.cols));
    for (int x = 0; x < mask.cols; ++x) shift[static_cast<size_t>(x)] = static_cast<int>(std::lround(slope * x));
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

// What belongs to runs along rows of at least this length; a run may step by a pixel where a rule is not quite
// straight.
cv::Mat runs(const cv::Mat& mask, int length) {
    cv::Mat thick, out(mask.size(), CV_8U, cv::Scalar(0));
    cv::dilate(mask, thick, cv::getStructuringElement(cv::MORPH_RECT, {1, 3}));
    for (int y = 0; y < thick.rows; ++y) {
        const uchar* row = thick.ptr<uchar>(y);
        for (int x = 0; x < thick.cols; ++x) {
            if (row[x] == 0) continue;
            const int begin = x;
            while (x < thick.cols && row[x] != 0) ++x;
            if (x - begin >= length) out(cv::Rect(begin, y, x - begin, 1)).setTo(255);
        }
    }
    return out & mask;
}

struct Rules {
    explicit Rules(cv::Size size) : free(size, CV_8U, cv::Scalar(0)), all(free.clone()), under(free.clone()) {}
    cv::Mat free;   // no stroke lies there
    cv::Mat all;    // as dark as rules are, whatever crosses them
    cv::Mat under;  // a stroke lies on the rule
};

// Of rules that run across, at least so long. faint: what is darker than paper at all; ink: what is as dark as ink;
// dark: how dark all is.
Rules across(const cv::Mat& faint, const cv::Mat& ink, const cv::Mat& dark, double length_px, double shrink) {
    const auto length_in = [&](const cv::Mat& m) { return static_cast<int>(length_px * m.cols / faint.cols); };
    // At the right slope the rules fill few rows, and those wholly. It is looked for in copies, the smaller first.
    double slope = 0, most = 0;
    const auto look = [&](double scale, double from, double to, double step) {
        cv::Mat small;
        cv::resize(faint, small, {}, scale, scale, cv::INTER_AREA);
        cv::threshold(small, small, kFaintHere, 255, cv::THRESH_BINARY);
        most = 0;
        for (double s = from; s < to + 1e-9; s += step) {
            cv::Mat rows;
            cv::reduce(runs(sheared(small, s), length_in(small)) / 255, rows, 1, cv::REDUCE_SUM, CV_64F);
            const double filled = rows.dot(rows);
            if (filled > most) most = filled, slope = s;
        }
    };
    look(shrink / 2, -kMostSlope, kMostSlope, 3 * kSlopeStep);
    if (most > 0) look(shrink, slope - 3 * kSlopeStep, slope + 3 * kSlopeStep, kSlopeStep);
    Rules out(faint.size());
    if (most <= 0) return out;
    const cv::Mat straight = sheared(faint, slope), written = sheared(ink, slope), depth = sheared(dark, slope);
    const cv::Mat rules = runs(straight, length_in(faint));
    cv::Mat labels, stats, centres;
    const int count = cv::connectedComponentsWithStats(rules, labels, stats, centres);
    for (int i = 1; i < count; ++i) {
        const cv::Rect box(stats.at<int>(i, cv::CC_STAT_LEFT), stats.at<int>(i, cv::CC_STAT_TOP),
                           stats.at<int>(i, cv::CC_STAT_WIDTH), stats.at<int>(i, cv::CC_STAT_HEIGHT));
        if (box.height > 4 * kRuleThicknessPx) continue;
        struct Cut {
            int top, bottom, darkest;
        };
        std::vector<Cut> cuts;
        std::vector<int> darkness;
        for (int x = box.x; x < box.br().x; ++x) {
            Cut cut{box.y, box.br().y - 1, 0};
            while (cut.top < cut.bottom && labels.at<int>(cut.top, x) != i) ++cut.top;
            while (cut.bottom > cut.top && labels.at<int>(cut.bottom, x) != i) --cut.bottom;
            for (int y = cut.top; y <= cut.bottom; ++y) cut.darkest = std::max<int>(cut.darkest, depth.at<uchar>(y, x));
            cuts.push_back(cut);
            darkness.push_back(cut.darkest);
        }
        const double usual = quantile(std::move(darkness), kBare);
        for (int x = box.x; x < box.br().x; ++x) {
            const auto& [top, bottom, darkest] = cuts[static_cast<size_t>(x - box.x)];
            // Darker than the rule: a stroke lies on it. Ink just above and below: one runs through it.
            const bool under = darkest > kOnRule * usual + kFaintestRule;
            const auto inked = [&](int y) {
                return y >= 0 && y < faint.rows && written.at<uchar>(y, x) != 0 && rules.at<uchar>(y, x) == 0;
            };
            bool crossed = false;
            for (int k = 1; k <= kRuleThicknessPx && !crossed; ++k) crossed = inked(top - k) && inked(bottom + k);
            for (int y = std::max(0, top - 1); y <= std::min(faint.rows - 1, bottom + 1); ++y) {
                (under ? out.under : out.all).at<uchar>(y, x) = 255;
                if (!under && !crossed) out.free.at<uchar>(y, x) = 255;
            }
        }
    }
    for (cv::Mat* mask : {&out.free, &out.all, &out.under}) *mask = sheared(*mask, -slope) & faint;
    return out;
}

Rules across(const cv::Mat& faint, const cv::Mat& ink, const cv::Mat& dark) {
    const double length = std::max(kRuleShare * faint.cols, kLeastRulePx);
    const double shrink = std::min(1.0, static_cast<double>(kSlopePx) / faint.cols);
    Rules out(faint.size());
    const auto range = [](double begin, double share, int all) {
        const int first = static_cast<int>(begin * all);
        return cv::Range(first, std::min(all, first + static_cast<int>(share * all) + 1));
    };
    for (double left = 0; left < 1 - kStrip + kStripStep / 2; left += kStripStep)
        for (double top = 0; top < 1 - kBand + kBandStep / 2; top += kBandStep) {
            const cv::Range columns = range(left, kStrip, faint.cols), rows = range(top, kBand, faint.rows);
            const Rules found = across(faint(rows, columns), ink(rows, columns), dark(rows, columns), length, shrink);
            out.free(rows, columns) |= found.free;
            out.all(rows, columns) |= found.all;
            out.under(rows, columns) |= found.under;
        }
    out.free -= out.under, out.all -= out.under;
    return out;
}

// Four times the mean distance of a bar's pixels from what is outside is its width and two; of pieces the one in the
// middle, by area.
double width_of_strokes(const cv::Mat& distances, const cv::Mat& labels, const std::vector<InkPiece>& pieces) {
    std::vector<std::pair<double, int>> widths;
    double all = 0;
    for (const InkPiece& piece : pieces) {
        double sum = 0;
        for (int y = piece.box.y; y < piece.box.br().y; ++y)
            for (int x = piece.box.x; x < piece.box.br().x; ++x)
                if (labels.at<int>(y, x) == piece.label) sum += distances.at<float>(y, x);
        widths.emplace_back(std::max(1.0, 4 * sum / piece.area - 2), piece.area);
        all += piece.area;
    }
    std::ranges::sort(widths);
    double passed = 0;
    for (const auto& [width, area] : widths)
        if ((passed += area) >= all / 2) return width;
    return 0;
}

// Whether a piece is a bit of a rule, as rules leave where the page curls: straight, thin and long, as dark as rules
// are, and touching one, or else thinner than any stroke. of_rules: how dark those are.
bool bit_of_rule(const InkMask& out, const InkPiece& piece, const cv::Mat& soft, const cv::Mat& by_rules,
                 double of_rules) {
    const int longer = std::max(piece.box.width, piece.box.height);
    if (longer < kLeastBit * out.stroke_px) return false;
    const cv::Mat own = out.labels(piece.box) == piece.label;
    if (cv::mean(soft(piece.box), own)[0] > kAsRules * of_rules) return false;
    std::vector<cv::Point> places;
    cv::findNonZero(own, places);
    const cv::Size2f size = cv::minAreaRect(places).size;
    const auto [thin, wide] = std::minmax({size.width, size.height});
    if (thin > kSlenderBit * wide) return false;
    const double thickness = piece.area / std::max(1.0, static_cast<double>(wide));
    if (thickness < kThinBit * out.stroke_px) return true;
    return longer >= kLeastBitPx && thickness < kBitThickness * kRuleThicknessPx &&
           cv::countNonZero(own & by_rules(piece.box)) > 0;
}

// Whether a crumb touches a rule and is no darker than rules are, or than two are where they cross: a dot that stands
// on a rule is.
bool as_dark_as_rules(const InkMask& out, const InkPiece& piece, const cv::Mat& soft, const cv::Mat& by_rules,
                      const cv::Mat& crossings, double of_rules) {
    const cv::Mat own = out.labels(piece.box) == piece.label;
    if (cv::countNonZero(own & by_rules(piece.box)) == 0) return false;
    const bool crossing = cv::countNonZero(own & crossings(piece.box)) > 0;
    double darkest = 0;
    cv::minMaxLoc(soft(piece.box), nullptr, &darkest, nullptr, nullptr, own);
    return darkest < (crossing ? kAsTwoRules : kOnRule) * of_rules + kFaintestRule;
}

// How dark the middle of a pen's dot seems beside that of its strokes, when both are blurred: of a disc and of a bar.
double dot_beside_stroke(const PenBlur& pen) {
    const double sigma = std::max(kSharpest, pen.blur_px), part = pen.width_px / sigma;
    return (1 - std::exp(-part * part / 8)) / seen_bar(pen.width_px, sigma).peak;
}

// Where strokes lie on rules both take their share of the light: without the rules' it is as dark as the strokes make
// it. How dark a rule is under a stroke is seen beside it (normalised convolution: Knutsson & Westin 1993).
void take_rules_from_under(const cv::Mat& crossed, InkMask& out) {
    cv::Mat weight, sum;
    out.rules.convertTo(weight, CV_32F, 1 / 255.0);
    out.dark.convertTo(sum, CV_32F);
    sum = sum.mul(weight);
    cv::GaussianBlur(sum, sum, {}, kAlongRule);
    cv::GaussianBlur(weight, weight, {}, kAlongRule);
    for (int y = 0; y < out.dark.rows; ++y)
        for (int x = 0; x < out.dark.cols; ++x) {
            if (crossed.at<uchar>(y, x) == 0) continue;
            const double rule = sum.at<float>(y, x) / std::max(1e-3F, weight.at<float>(y, x));
            const double left = (255 - out.dark.at<uchar>(y, x)) / (255 - std::min(rule, 200.0));
            out.dark.at<uchar>(y, x) = cv::saturate_cast<uchar>(255 * (1 - left));
        }
}

// What the paper's grain is as dark as, where nothing is written.
double grain_of(const cv::Mat& soft, const cv::Mat& ink, const InkMask& out) {
    cv::Mat away;
    cv::distanceTransform(255 - ink, away, cv::DIST_L2, 3);
    std::vector<uchar> grain;
    for (int y = 0; y < soft.rows; y += 2)
        for (int x = 0; x < soft.cols; x += 2)
            if (away.at<float>(y, x) > kBarePaper * out.stroke_px && out.rules.at<uchar>(y, x) == 0)
                grain.push_back(soft.at<uchar>(y, x));
    return quantile(std::move(grain), kMostGrain);
}

// Dots that blur made fainter than ink is taken to be: spots no larger than a stroke is wide, clear of rules and near
// to ink. They become pieces with labels of their own. out: with all other pieces.
std::vector<InkPiece> faint_dots(const cv::Mat& soft, const cv::Mat& by_rules, double least, InkMask& out) {
    std::vector<InkPiece> dots;
    cv::Mat ink(soft.size(), CV_8U, cv::Scalar(0));
    for (const InkPiece& piece : out.pieces) ink(piece.box).setTo(255, out.labels(piece.box) == piece.label);
    const PenBlur pen = pen_blur(out.dark);
    if (pen.width_px <= 0) return dots;
    cv::Mat away;
    cv::distanceTransform(255 - ink, away, cv::DIST_L2, 3);
    const double faintest = std::max({static_cast<double>(kFaintestRule), kAboveGrain * out.grain,
                                      kDotShare * dot_beside_stroke(pen) * cv::mean(soft, ink)[0]});
    if (faintest >= least) return dots;
    cv::Mat spots, labels, stats, centres, taken = ink.clone();
    double next = 0;
    cv::minMaxLoc(out.labels, nullptr, &next);
    // What runs together with a letter at one level may stand by itself at a higher one.
    for (const double level : {faintest, (faintest + least) / 2, least}) {
        cv::threshold(soft, spots, level, 255, cv::THRESH_BINARY);
        const int count = cv::connectedComponentsWithStats(spots, labels, stats, centres);
        for (int i = 1; i < count; ++i) {
            const cv::Rect box(stats.at<int>(i, cv::CC_STAT_LEFT), stats.at<int>(i, cv::CC_STAT_TOP),
                               stats.at<int>(i, cv::CC_STAT_WIDTH), stats.at<int>(i, cv::CC_STAT_HEIGHT));
            const int area = stats.at<int>(i, cv::CC_STAT_AREA);
            const auto [thin, wide] = std::minmax({box.width, box.height});
            if (area < kSmallestDotPx || wide > kMostDot * out.stroke_px || thin < kRoundDot * wide) continue;
            const cv::Mat own = labels(box) == i;
            double nearest = 0;
            cv::minMaxLoc(away(box), &nearest, nullptr, nullptr, nullptr, own);
            if (nearest > kDotReach * out.stroke_px || cv::countNonZero(own & (by_rules(box) | taken(box))) > 0)
                continue;
            const int label = static_cast<int>(++next);
            out.labels(box).setTo(label, own);
            taken(box).setTo(255, own);
            dots.push_back({label, box, {centres.at<double>(i, 0), centres.at<double>(i, 1)}, area});
        }
    }
    return dots;
}

}  // namespace

InkMask ink_mask(const cv::Mat& grey) {
    InkMask out;
    out.dark = darkness(grey);
    cv::Mat soft, ink, faint;
    cv::GaussianBlur(out.dark, soft, {}, 0.7);
    const double otsu = cv::threshold(soft, ink, 0, 255, cv::THRESH_BINARY | cv::THRESH_OTSU);
    const double least = std::max<double>(kFaintest, 0.75 * otsu);
    cv::threshold(soft, ink, least, 255, cv::THRESH_BINARY);
    cv::threshold(soft, faint, std::min<double>(kFaintestRule, least), 255, cv::THRESH_BINARY);
    const Rules rows = across(faint, ink, soft), columns = across(faint.t(), ink.t(), soft.t());
    // Where rules cross one another nothing else need cross them.
    out.rules = rows.free | columns.free.t() | (rows.all & columns.all.t());
    const cv::Mat crossed = (rows.all | rows.under | columns.all.t() | columns.under.t()) & ~out.rules;
    if (cv::countNonZero(crossed) > 0) {
        take_rules_from_under(crossed, out);
        cv::GaussianBlur(out.dark, soft, {}, 0.7);
        cv::threshold(soft, ink, least, 255, cv::THRESH_BINARY);
    }
    ink -= out.rules;

    cv::Mat stats, centres, distances;
    const int count = cv::connectedComponentsWithStats(ink, out.labels, stats, centres);
    std::vector<InkPiece> all;
    for (int i = 1; i < count; ++i) {
        const int area = stats.at<int>(i, cv::CC_STAT_AREA);
        if (area < kSmallestPx) continue;
        all.push_back({i,
                       {stats.at<int>(i, cv::CC_STAT_LEFT), stats.at<int>(i, cv::CC_STAT_TOP),
                        stats.at<int>(i, cv::CC_STAT_WIDTH), stats.at<int>(i, cv::CC_STAT_HEIGHT)},
                       {centres.at<double>(i, 0), centres.at<double>(i, 1)},
                       area});
    }
    cv::distanceTransform(ink, distances, cv::DIST_L2, 3);
    out.stroke_px = width_of_strokes(distances, out.labels, all);
    out.grain = grain_of(soft, ink, out);
    const double nib = out.stroke_px * out.stroke_px;
    cv::Mat by_rules;
    cv::dilate(out.rules, by_rules, cv::getStructuringElement(cv::MORPH_RECT, {5, 5}));
    const cv::Rect inner(kMarginPx, kMarginPx, grey.cols - 2 * kMarginPx, grey.rows - 2 * kMarginPx);
    const double of_rules = cv::mean(soft, out.rules)[0];
    cv::Mat crossings;
    cv::dilate(rows.all & columns.all.t(), crossings, cv::getStructuringElement(cv::MORPH_RECT, {5, 5}));
    for (const InkPiece& piece : all) {
        if (piece.area < kFaintDot * nib) continue;
        // What is left of a rule is small, or thinner than any pen.
        const bool crumb =
            piece.area < kLeastDot * nib || std::min(piece.box.width, piece.box.height) < kThinnest * out.stroke_px;
        if (crumb && as_dark_as_rules(out, piece, soft, by_rules, crossings, of_rules)) continue;
        if (bit_of_rule(out, piece, soft, by_rules, of_rules)) {
            out.rules(piece.box).setTo(255, out.labels(piece.box) == piece.label);
            continue;
        }
        if ((piece.box & inner) != piece.box) {
            // At the picture's border: what lies beside the sheet is a broad patch, fills a corner or runs along; a
            // rule that ends there is thin and long.
            double broadest = 0;
            cv::minMaxLoc(distances(piece.box), nullptr, &broadest);
            const auto [thin, wide] = std::minmax({piece.box.width, piece.box.height});
            const bool level = piece.box.y < inner.y || piece.box.br().y > inner.br().y;
            const bool along = (level ? piece.box.height : piece.box.width) < kAlongPx;
            const bool rule = thin < kAlongPx && wide > 2 * kAlongPx;
            const bool corner = (piece.box.x < inner.x || piece.box.br().x > inner.br().x) &&
                                (piece.box.y < inner.y || piece.box.br().y > inner.br().y);
            if (along || rule || corner || 2 * broadest > kBroad * out.stroke_px) continue;
        }
        out.pieces.push_back(piece);
    }
    for (const InkPiece& dot : faint_dots(soft, by_rules, least, out))
        if ((dot.box & inner) == dot.box) out.pieces.push_back(dot);
    return out;
}

InkMask ink_of_page(const cv::Mat& pixels) {
    cv::Mat grey = pixels;
    if (pixels.channels() == 3) cv::cvtColor(pixels, grey, cv::COLOR_BGR2GRAY);
    const double shrink = std::min(1.0, static_cast<double>(kInkWidthPx) / grey.cols);
    if (shrink < 1) cv::resize(grey, grey, {}, shrink, shrink, cv::INTER_AREA);
    return ink_mask(grey);
}

}  // namespace fernleaf
