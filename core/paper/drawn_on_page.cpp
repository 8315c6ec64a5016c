#include "paper/drawn_on_page.h"

#include <algorithm>
#include <opencv2/imgproc.hpp>

#include "base/quantile.h"
#include "drawing/drawing_reading.h"
#include "drawing/drawn_ink.h"
#include "drawing/pen_path.h"
#include "paper/stroke_tracing.h"

namespace fernleaf {
namespace {

constexpr double kInkShare = 0.5;                        // of the ink's darkness: paler rules are printed
constexpr int kClosePx = 5;                              // what parts rules from ink is narrower
constexpr double kWholePage = 0.95;                      // of it: what reaches so far is its edge, or ruled paper
constexpr double kLetterMm = 3;                          // high: the measure of all else
constexpr double kLeastDrawnMm = 4.5;                    // across what may be drawn,
constexpr double kEvidenceMm = 9;                        // and one at least must be as large, or nothing is looked for
constexpr double kTallMm = 7;                            // high, which words are not
constexpr double kThin = 0.3;                            // of its box that a figure's line fills, at most
constexpr double kTouchShare = 0.04, kLeastTouchPx = 6;  // of a path's length: how near it comes back to itself
constexpr double kLoopSteps = 160;                       // in which a path is looked at
constexpr double kAlong = 3;          // times as wide as the pen: so far from what is drawn its ink lies
constexpr double kMostlyDrawn = 0.7;  // of a piece's ink
constexpr size_t kMostPieces = 2500;  // more are a photograph, or hatching
constexpr size_t kMostTraced = 500;

double darkness_of(const InkMask& ink) {
    constexpr int kRows = 4;  // of which one tells enough
    std::vector<uchar> dark;
    for (const InkPiece& piece : ink.pieces)
        for (int y = piece.box.y; y < piece.box.br().y; y += kRows)
            for (int x = piece.box.x; x < piece.box.br().x; ++x)
                if (ink.labels.at<int>(y, x) == piece.label) dark.push_back(ink.dark.at<uchar>(y, x));
    return median(std::move(dark));
}

// A loop and the tails that lead to it and leave it, as a box and what touches it; the path whole where there is none.
std::vector<std::vector<Point>> parted(const std::vector<Point>& path) {
    const double all = path_length(path), reach = std::max(kLeastTouchPx, kTouchShare * all);
    const std::vector<Point> even = resampled(path, std::max(1.0, all / kLoopSteps));
    const size_t n = even.size();
    // The widest loop: as little as can be is before and after it. Where ways come together the nearest is meant.
    size_t from = 0, to = 0, last = n / 2;
    double nearest = reach;
    for (size_t tails = 0; tails < last; ++tails)
        for (size_t before = 0; before <= tails; ++before) {
            const size_t a = before, b = n - 1 - (tails - before);
            if (b <= a) continue;
            const double d = distance(even[a], even[b]);
            if (d >= nearest) continue;
            if (nearest == reach)
                last = std::min(last, tails + static_cast<size_t>(2 * reach * static_cast<double>(n) / all) + 1);
            nearest = d, from = a, to = b;
        }
    if (to == 0) return {path};
    std::vector<std::vector<Point>> out;
    const auto add = [&](size_t first, size_t end, double least) {
        std::vector<Point> part(even.begin() + static_cast<std::ptrdiff_t>(first),
                                even.begin() + static_cast<std::ptrdiff_t>(end) + 1);
        if (part.size() > 1 && path_length(part) > least) out.push_back(std::move(part));
    };
    add(0, from, reach / 2), add(from, to, 0), add(to, n - 1, reach / 2);
    if (out.size() > 1) return out;
    return {path};
}

bool is_diagram(const std::vector<ReadShape>& shapes) {
    Reading reading;
    reading.lines.emplace_back().shapes = shapes;
    return read_drawing(reading).is_diagram();
}

// Connected ink, rules included.
struct Blot {
    cv::Rect box;
    int label = 0, area = 0;
    double across() const { return std::hypot(box.width, box.height); }
    bool thin() const {
        return area < kThin * box.width * box.height ||
               std::min(box.width, box.height) * 6 < std::max(box.width, box.height);
    }
};

class Page {
public:
    explicit Page(const InkMask& ink) : ink_(ink) {}

    DrawnOnPage find() {
        DrawnOnPage out;
        out.drawn.resize(ink_.pieces.size());
        if (ink_.pieces.empty() || ink_.pieces.size() > kMostPieces) return out;
        std::vector<int> heights;
        for (const InkPiece& piece : ink_.pieces)
            if (piece.box.height > smallest_letter_px(ink_)) heights.push_back(piece.box.height);
        if (heights.empty()) return out;
        unit_ = median(std::move(heights)) / kLetterMm;
        const cv::Mat rules = ink_.rules & (ink_.dark > kInkShare * darkness_of(ink_));
        if (!anything_drawn(rules)) return out;
        find_blots(rules);
        if (!trace()) return out;
        const std::vector<FoundTable> tables = tables_in(strokes_);
        std::vector<bool> taken(strokes_.size()), drawn(strokes_.size());
        for (const FoundTable& table : tables) {
            for (const size_t s : table.rules) taken[s] = drawn[s] = true;
            for (const auto& in_cell : table.ink)
                for (const size_t s : in_cell) taken[s] = true;
            out.tables.push_back(in_px(table));
        }
        std::vector<Stroke> rest;
        std::vector<size_t> at;
        for (size_t i = 0; i < strokes_.size(); ++i)
            if (!taken[i]) rest.push_back(strokes_[i]), at.push_back(i);
        // Frames by themselves are a form's, and what stands in them is read as it always was.
        const DrawnInk shapes = drawn_ink(rest);
        std::vector<ReadShape> read = shapes.shapes(rest);
        if (is_diagram(read)) {
            for (ReadShape& shape : read) out.shapes.push_back(in_px(std::move(shape)));
            for (size_t i = 0; i < rest.size(); ++i) drawn[at[i]] = shapes.drawn[i];
        }
        mark(drawn, out);
        return out;
    }

private:
    // Most pages hold nothing but words, and are done with here.
    bool anything_drawn(const cv::Mat& rules) const {
        return cv::countNonZero(rules) > kEvidenceMm * unit_ * ink_.stroke_px ||
               std::ranges::any_of(ink_.pieces, [&](const InkPiece& piece) {
                   return piece.box.height > kTallMm * unit_ && piece.area < kThin * piece.box.width * piece.box.height;
               });
    }

    void find_blots(const cv::Mat& rules) {
        cv::Mat all(ink_.dark.size(), CV_8U, cv::Scalar(0));
        for (const InkPiece& piece : ink_.pieces) all(piece.box).setTo(255, ink_.labels(piece.box) == piece.label);
        all |= rules;
        cv::morphologyEx(all, all, cv::MORPH_CLOSE, cv::getStructuringElement(cv::MORPH_RECT, {kClosePx, kClosePx}));
        cv::Mat stats, centres;
        const int count = cv::connectedComponentsWithStats(all, labels_, stats, centres);
        for (int i = 1; i < count; ++i) {
            const Blot blot{{stats.at<int>(i, cv::CC_STAT_LEFT), stats.at<int>(i, cv::CC_STAT_TOP),
                             stats.at<int>(i, cv::CC_STAT_WIDTH), stats.at<int>(i, cv::CC_STAT_HEIGHT)},
                            i,
                            stats.at<int>(i, cv::CC_STAT_AREA)};
            if (blot.box.width < kWholePage * all.cols && blot.box.height < kWholePage * all.rows)
                blots_.push_back(blot);
        }
    }

    // Whether there is anything that may be drawn.
    bool trace() {
        const auto may_be_drawn = [&](const Blot& blot) {
            return blot.across() > kLeastDrawnMm * unit_ && blot.thin();
        };
        if (std::ranges::none_of(blots_,
                                 [&](const Blot& b) { return may_be_drawn(b) && b.across() > kEvidenceMm * unit_; }) ||
            static_cast<size_t>(std::ranges::count_if(blots_, may_be_drawn)) > kMostTraced)
            return false;
        for (const Blot& blot : blots_) {
            if (!may_be_drawn(blot)) {
                const Box box = Box::of(blot.box.x, blot.box.y, blot.box.width, blot.box.height);
                add({{box.left, box.top},
                     {box.left + 0.3 * box.width(), box.bottom},
                     {box.centre().x, box.top},
                     {box.left + 0.7 * box.width(), box.bottom},
                     {box.right, box.top}});
                continue;
            }
            for (const TracedStroke& stroke : traced_strokes(labels_(blot.box) == blot.label)) {
                std::vector<Point> path;
                for (const Point& p : stroke.points) path.push_back(p + Point{blot.box.x + 0.5, blot.box.y + 0.5});
                if (path.size() < 2) continue;
                for (const std::vector<Point>& part : parted(path)) add(part);
            }
        }
        return true;
    }

    void add(const std::vector<Point>& path) {
        Stroke stroke;
        stroke.id = static_cast<StrokeId>(strokes_.size()) + 1;
        uint32_t time = 0;
        for (const Point& p : path) stroke.points.push_back({p * (1 / unit_), 0.5F, 0, 0, time += 8});
        strokes_.push_back(std::move(stroke));
    }

    ReadShape in_px(ReadShape shape) const {
        shape.strokes.clear();
        for (ShapeCandidate& c : shape.candidates) {
            c.shape = transformed(std::move(c.shape), Affine::scale(unit_, unit_, {}));
            c.error *= unit_;
        }
        return shape;
    }

    FoundTable in_px(const FoundTable& found) const {
        FoundTable out{found.table, found.certainty, in_px(found.box), {}, {}};
        out.table.rules.clear();
        for (ReadCell& cell : out.table.cells) cell.box = in_px(cell.box);
        return out;
    }
    Box in_px(const Box& box) const {
        return {box.left * unit_, box.top * unit_, box.right * unit_, box.bottom * unit_};
    }

    // Pieces that lie along what is drawn; a letter that only touches it does not.
    void mark(const std::vector<bool>& drawn, DrawnOnPage& out) const {
        cv::Mat along(ink_.dark.size(), CV_8U, cv::Scalar(0));
        for (size_t i = 0; i < strokes_.size(); ++i) {
            if (!drawn[i]) continue;
            std::vector<cv::Point> path;
            for (const InkPoint& p : strokes_[i].points)
                path.emplace_back(cvRound(p.at.x * unit_), cvRound(p.at.y * unit_));
            cv::polylines(along, path, false, 255, std::max(3, cvRound(kAlong * ink_.stroke_px)));
        }
        for (size_t i = 0; i < ink_.pieces.size(); ++i) {
            const InkPiece& piece = ink_.pieces[i];
            const cv::Mat own = ink_.labels(piece.box) == piece.label;
            out.drawn[i] = cv::countNonZero(own & along(piece.box)) > kMostlyDrawn * cv::countNonZero(own);
        }
    }

    const InkMask& ink_;
    double unit_ = 1;  // px to what drawing takes for a millimetre
    cv::Mat labels_;
    std::vector<Blot> blots_;
    std::vector<Stroke> strokes_;
};

}  // namespace

DrawnOnPage drawn_on_page(const InkMask& ink) { return Page(ink).find(); }

}  // namespace fernleaf
