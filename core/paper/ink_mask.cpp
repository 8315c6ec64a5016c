#include "paper/ink_mask.h"

#include <opencv2/imgproc.hpp>

#include "base/quantile.h"
#include "paper/board_frame.h"
#include "paper/mean_about.h"
#include "paper/pen_blur.h"
#include "paper/rule_finding.h"
#include "paper/shrunk.h"

namespace fernleaf {
namespace {

constexpr int kBlankPx = 25;                           // so near a board's edge there is board without ink
constexpr int kThickestSidePx = kRuleThicknessPx + 2;  // of a box to be filled in, if it is not aslant
constexpr double kSideSlope = 0.06, kSideShape = 4;    // aslant at most; times as long as wide at least
constexpr int kLightPx = 400;   // longer side of the copy in which the light on the paper is looked for
constexpr int kStrokesPx = 17;  // of it: narrower things are on the paper
constexpr double kLightSigma = 2;
constexpr int kFaintest = 22;             // darker than the paper by this many of 255, at least
constexpr double kBroadestStroke = 0.25;  // of the picture's shorter side
constexpr int kSmallestPx = 5;            // pieces of fewer pixels are dirt,
constexpr int kSmallestDotPx = 3;         // unless they stand where a dot may
constexpr double kLeastDot = 0.3;         // of the square on a stroke's width: smaller pieces are dirt
constexpr double kThinnest = 0.4;         // of a stroke's width
constexpr double kFaintDot = 0.1;         // where no rule is that it could be left of: a blurred dot is that small
constexpr double kAlongRule = 6;          // px: so near a rule is as dark
constexpr double kFarFromRules = 1e-5;
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
constexpr double kAsTwoRules = 2.2;  // where rules cross

cv::Mat darkness(const cv::Mat& grey) {
    cv::Mat paper, small = shrunk(grey, factor_to(grey, kLightPx)).clone();
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

// Four times the mean distance of a bar's pixels from what is outside is its width and two; of pieces the one in the
// middle, by the way that a pen of its width went: a dark surface that looks in counts for little.
double width_of_strokes(const cv::Mat& distances, const cv::Mat& labels, const std::vector<InkPiece>& pieces) {
    std::vector<std::pair<double, double>> widths;  // with the ways
    double all = 0;
    for (const InkPiece& piece : pieces) {
        double sum = 0;
        for (int y = piece.box.y; y < piece.box.br().y; ++y)
            for (int x = piece.box.x; x < piece.box.br().x; ++x)
                if (labels.at<int>(y, x) == piece.label) sum += distances.at<float>(y, x);
        const double width = std::max(1.0, 4 * sum / piece.area - 2);
        widths.emplace_back(width, piece.area / width);
        all += widths.back().second;
    }
    std::ranges::sort(widths);
    double passed = 0;
    for (const auto& [width, way] : widths)
        if ((passed += way) >= all / 2) return width;
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
// it. How dark a rule is under a stroke is seen beside it; by its middle, or by all of it with its soft border.
cv::Mat without_rules(const cv::Mat& dark, const cv::Mat& rules, const cv::Mat& crossed, bool by_middle) {
    // It changes slowly along a rule: half the size tells it as well.
    const cv::Size half((dark.cols + 1) / 2, (dark.rows + 1) / 2);
    cv::Mat weights(half, CV_32F, cv::Scalar(0)), values(half, CV_32F, cv::Scalar(0)), out = dark.clone();
    for (int y = 0; y < dark.rows; ++y) {
        const uchar *on_rule = rules.ptr<uchar>(y), *depth = dark.ptr<uchar>(y);
        for (int x = 0; x < dark.cols; ++x) {
            if (on_rule[x] == 0) continue;
            const float value = depth[x], weight = by_middle ? value * value / (255 * 255) : 1;
            float &all = weights.at<float>(y / 2, x / 2), &mean = values.at<float>(y / 2, x / 2);
            all += weight / 4;
            if (all > 0) mean += (value - mean) * weight / 4 / all;
        }
    }
    const cv::Mat beside = mean_about(values, weights, half, kAlongRule / 2, {}, kFarFromRules);
    for (int y = 0; y < out.rows; ++y)
        for (int x = 0; x < out.cols; ++x) {
            if (crossed.at<uchar>(y, x) == 0) continue;
            const double left = (255 - dark.at<uchar>(y, x)) / (255 - std::min(beside.at<float>(y / 2, x / 2), 200.0F));
            out.at<uchar>(y, x) = cv::saturate_cast<uchar>(255 * (1 - left));
        }
    return out;
}

// What the paper's grain is as dark as, where nothing is written.
double grain_of(const cv::Mat& soft, const cv::Mat& ink, const InkMask& out) {
    cv::Mat half, away;
    cv::resize(ink, half, {(ink.cols + 1) / 2, (ink.rows + 1) / 2}, 0, 0, cv::INTER_AREA);
    cv::distanceTransform(half == 0, away, cv::DIST_L2, 3);
    std::vector<uchar> grain;
    for (int y = 0; y < soft.rows; y += 2)
        for (int x = 0; x < soft.cols; x += 2)
            if (2 * away.at<float>(y / 2, x / 2) > kBarePaper * out.stroke_px && out.rules.at<uchar>(y, x) == 0)
                grain.push_back(soft.at<uchar>(y, x));
    return quantile(std::move(grain), kMostGrain);
}

cv::Rect grown(const cv::Rect& box, int by, cv::Size within) {
    return cv::Rect(box.x - by, box.y - by, box.width + 2 * by, box.height + 2 * by) & cv::Rect({}, within);
}

// Dots that blur made fainter than ink is taken to be: spots no larger than a stroke is wide, clear of rules and near
// to ink. They become pieces with labels of their own. out: with all other pieces.
std::vector<InkPiece> faint_dots(const cv::Mat& soft, const cv::Mat& by_rules, double least, InkMask& out) {
    std::vector<InkPiece> dots;
    cv::Mat ink(soft.size(), CV_8U, cv::Scalar(0));
    for (const InkPiece& piece : out.pieces) ink(piece.box).setTo(255, out.labels(piece.box) == piece.label);
    const PenBlur pen = pen_blur(out.dark);
    if (pen.width_px <= 0) return dots;
    const double faintest = std::max({static_cast<double>(kFaintestRule), kAboveGrain * out.grain,
                                      kDotShare * dot_beside_stroke(pen) * cv::mean(soft, ink)[0]});
    if (faintest >= least) return dots;
    cv::Mat spots, labels, stats, centres;
    double next = 0;
    cv::minMaxLoc(out.labels, nullptr, &next);
    // Spots lie near to ink: beyond all of it nothing is looked at.
    const int reach = static_cast<int>(std::ceil((kDotReach + kMostDot) * out.stroke_px)) + 2;
    const cv::Rect written = grown(cv::boundingRect(ink), reach, ink.size());
    if (written.empty()) return dots;
    const cv::Mat soft_here = soft(written), ink_here = ink(written), rules_here = by_rules(written);
    cv::Mat taken = ink_here.clone();
    // What runs together with a letter at one level may stand by itself at a higher one.
    for (const double level : {faintest, (faintest + least) / 2, least}) {
        cv::threshold(soft_here, spots, level, 255, cv::THRESH_BINARY);
        const int count = cv::connectedComponentsWithStats(spots, labels, stats, centres);
        for (int i = 1; i < count; ++i) {
            const cv::Rect box(stats.at<int>(i, cv::CC_STAT_LEFT), stats.at<int>(i, cv::CC_STAT_TOP),
                               stats.at<int>(i, cv::CC_STAT_WIDTH), stats.at<int>(i, cv::CC_STAT_HEIGHT));
            const int area = stats.at<int>(i, cv::CC_STAT_AREA);
            const auto [thin, wide] = std::minmax({box.width, box.height});
            if (area < kSmallestDotPx || wide > kMostDot * out.stroke_px || thin < kRoundDot * wide) continue;
            const cv::Mat own = labels(box) == i;
            if (cv::countNonZero(own & (rules_here(box) | taken(box))) > 0) continue;
            const cv::Rect about = grown(box, reach, ink_here.size());
            if (cv::countNonZero(ink_here(about)) == 0) continue;
            cv::Mat away;
            cv::distanceTransform(255 - ink_here(about), away, cv::DIST_L2, 3);
            double nearest = 0;
            cv::minMaxLoc(away(box - about.tl()), &nearest, nullptr, nullptr, nullptr, own);
            if (nearest > kDotReach * out.stroke_px) continue;
            const int label = static_cast<int>(++next);
            const cv::Rect there = box + written.tl();
            out.labels(there).setTo(label, own);
            taken(box).setTo(255, own);
            dots.push_back(
                {label, there, {centres.at<double>(i, 0) + written.x, centres.at<double>(i, 1) + written.y}, area});
        }
    }
    return dots;
}

// A straight thin bar from one rule to another: the side of a box to be filled in, too short to be a rule by itself.
bool side_of_box(const InkPiece& piece, const cv::Mat& by_rules) {
    const int thin = std::min(piece.box.width, piece.box.height), wide = std::max(piece.box.width, piece.box.height);
    if (thin > kThickestSidePx + kSideSlope * wide || wide < kSideShape * thin || piece.area > kThickestSidePx * wide)
        return false;
    const bool down = piece.box.height > piece.box.width;
    const auto ends_on_rule = [&](bool far) {
        const int x = down || !far ? piece.box.x : piece.box.br().x, y = down && far ? piece.box.br().y : piece.box.y;
        const cv::Rect end = down ? cv::Rect(x - 2, y - 3, thin + 4, 6) : cv::Rect(x - 3, y - 2, 6, thin + 4);
        return cv::countNonZero(by_rules(end & cv::Rect({}, by_rules.size()))) > 0;
    };
    return ends_on_rule(false) && ends_on_rule(true);
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
    const PrintedRules rows = rules_across(faint, ink, soft), columns = rules_down(faint, ink, soft);
    // Where rules cross one another nothing else need cross them.
    out.rules = rows.free | columns.free | (rows.all & columns.all);
    const cv::Mat crossed = (rows.all | rows.under | columns.all | columns.under) & ~out.rules;
    if (cv::countNonZero(crossed) > 0) {
        // By its middle a rule goes wholly; of strokes that takes too much.
        const cv::Mat least_dark = without_rules(out.dark, out.rules, crossed, true);
        cv::GaussianBlur(least_dark, soft, {}, 0.7);
        cv::threshold(soft, ink, least, 255, cv::THRESH_BINARY);
        cv::Mat strokes;
        cv::dilate(ink - out.rules, strokes, cv::getStructuringElement(cv::MORPH_RECT, {3, 3}));
        out.dark = without_rules(out.dark, out.rules, crossed, false);
        least_dark.copyTo(out.dark, crossed & ~strokes);
        cv::GaussianBlur(out.dark, soft, {}, 0.7);
        out.rules |= crossed & ~strokes;
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
    // Only where there is ink is there a distance to what is none.
    distances = cv::Mat(ink.size(), CV_32F, cv::Scalar(0));
    if (const cv::Rect inked = grown(cv::boundingRect(ink), 1, ink.size()); !inked.empty()) {
        cv::Mat here = distances(inked);
        cv::distanceTransform(ink(inked), here, cv::DIST_L2, 3);
    }
    out.stroke_px = width_of_strokes(distances, out.labels, all);
    // What is as broad as the picture is no stroke: a dark surface, or nothing but ink, where there is no distance to
    // paper at all.
    if (out.stroke_px > kBroadestStroke * std::min(grey.cols, grey.rows)) {
        ink.setTo(0), out.dark.setTo(0), out.labels.setTo(0);
        all.clear();
        out.stroke_px = 0;
    }
    out.grain = grain_of(soft, ink, out);
    const double nib = out.stroke_px * out.stroke_px;
    cv::Mat by_rules;
    cv::dilate(out.rules, by_rules, cv::getStructuringElement(cv::MORPH_RECT, {5, 5}));
    const cv::Rect inner(kMarginPx, kMarginPx, grey.cols - 2 * kMarginPx, grey.rows - 2 * kMarginPx);
    const double of_rules = cv::mean(soft, out.rules)[0];
    cv::Mat crossings;
    cv::dilate(rows.all & columns.all, crossings, cv::getStructuringElement(cv::MORPH_RECT, {5, 5}));
    for (const InkPiece& piece : all) {
        if (piece.area < kFaintDot * nib) continue;
        // What is left of a rule is small, or thinner than any pen.
        const bool crumb =
            piece.area < kLeastDot * nib || std::min(piece.box.width, piece.box.height) < kThinnest * out.stroke_px;
        if (crumb && as_dark_as_rules(out, piece, soft, by_rules, crossings, of_rules)) continue;
        if (bit_of_rule(out, piece, soft, by_rules, of_rules) || side_of_box(piece, by_rules)) {
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
    cv::Mat grey = shrunk_grey(pixels, std::min(1.0, static_cast<double>(kInkWidthPx) / pixels.cols));
    const cv::Rect board = within_frame(grey);
    if (!board.empty() && board.size() != grey.size()) {
        // Beyond the frame the board goes on, blank.
        cv::Mat blank, whole;
        cv::dilate(grey(board), blank, cv::getStructuringElement(cv::MORPH_RECT, {kBlankPx, kBlankPx}));
        cv::copyMakeBorder(blank, whole, board.y, grey.rows - board.br().y, board.x, grey.cols - board.br().x,
                           cv::BORDER_REPLICATE);
        grey(board).copyTo(whole(board));
        grey = whole;
    }
    return ink_mask(grey);
}

}  // namespace fernleaf
