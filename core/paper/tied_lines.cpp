#include "paper/tied_lines.h"

#include <algorithm>
#include <climits>
#include <cmath>
#include <deque>

#include "ink/grouping.h"

namespace fernleaf {
namespace {

// Of the usual height of pieces.
constexpr double kTall = 1.5;        // higher ones may tie lines
constexpr double kTallest = 6;       // what is higher is a drawing
constexpr double kCore = 0.2;        // how far from a line's middle its ink is surely its own
constexpr double kNear = 8;          // how far beside its end a line still runs
constexpr double kAbout = 4;         // how far about a place a line's ink tells where it runs there
constexpr double kApart = 0.6;       // nearer lines are one
constexpr double kLeastWidth = 0.3;  // of what is written at one line's height at least
constexpr double kWritten = 0.2;     // the share of columns with ink that writing has there
constexpr double kInside = 0.08;     // of the piece's height: so far within it a line must run

// The height of most ink: half of all pieces, by their width, are higher.
double usual_height(const std::vector<InkPiece>& pieces) {
    std::vector<std::pair<int, int>> heights;  // height, width
    int64_t all = 0, lower = 0;
    for (const InkPiece& p : pieces) {
        if (p.box.height < p.box.width / 8) continue;
        heights.emplace_back(p.box.height, std::min(p.box.width, 4 * p.box.height));
        all += heights.back().second;
    }
    std::ranges::sort(heights);
    for (const auto& [height, width] : heights)
        if (2 * (lower += width) >= all) return height;
    return 0;
}

// Where a line's ink lies at x: in the middle of what of it is near, else on the straight line through all.
double y_at(const InkLine& line, const std::vector<InkComponent>& pieces, double x, double unit) {
    double n = 0, sum = 0;
    for (const size_t m : line.members) {
        const InkComponent& p = pieces[m];
        if (p.box.left > x + kAbout * unit || p.box.right < x - kAbout * unit) continue;
        n += p.ink, sum += p.ink * p.mean_y;
    }
    return n > 0 ? sum / n : line.box.centre().y + line.slope * (x - line.box.centre().x);
}

// Where the lines that a piece is part of run at its middle, px from above.
std::vector<double> lines_through(const cv::Rect& box, const std::vector<InkLine>& lines,
                                  const std::vector<InkComponent>& pieces, double unit) {
    std::vector<double> out;
    for (const InkLine& line : lines) {
        if (line.drawing || line.box.left - kNear * unit > box.x + box.width || line.box.right + kNear * unit < box.x)
            continue;
        const double y = y_at(line, pieces, box.x + box.width / 2.0, unit);
        if (y > box.y + kInside * box.height && y < box.y + (1 - kInside) * box.height) out.push_back(y);
    }
    std::ranges::sort(out);
    std::vector<double> apart;
    for (const double y : out)
        if (apart.empty() || y - apart.back() > kApart * unit) apart.push_back(y);
    return apart;
}

// For each pixel of a piece the line it belongs to, or -1 beside it. Empty when it is no writing in several lines.
cv::Mat parts_of(const InkMask& ink, const InkPiece& piece, const std::vector<double>& lines, double unit) {
    const cv::Mat labels = ink.labels(piece.box);
    cv::Mat part(labels.size(), CV_32S, cv::Scalar(-1));
    std::deque<cv::Point> waiting;
    std::vector<int> columns(lines.size(), 0), first(lines.size(), labels.cols), last(lines.size(), -1);
    for (int x = 0; x < labels.cols; ++x)
        for (size_t l = 0; l < lines.size(); ++l) {
            const double middle = lines[l] - piece.box.y;
            const int from = std::max(0, static_cast<int>(std::lround(middle - kCore * unit)));
            const int to = std::min(labels.rows, static_cast<int>(std::lround(middle + kCore * unit)));
            bool there = false;
            for (int y = from; y < to; ++y)
                if (labels.at<int>(y, x) == piece.label && part.at<int>(y, x) < 0) {
                    part.at<int>(y, x) = static_cast<int>(l);
                    waiting.emplace_back(x, y);
                    there = true;
                }
            if (!there) continue;
            ++columns[l];
            first[l] = std::min(first[l], x), last[l] = x;
        }
    size_t written = 0;
    for (size_t l = 0; l < lines.size(); ++l) {
        const int width = last[l] - first[l] + 1;
        written += width > kLeastWidth * unit && columns[l] > kWritten * width;
    }
    if (written < 2) return {};
    while (!waiting.empty()) {
        const cv::Point at = waiting.front();
        waiting.pop_front();
        for (int dy = -1; dy <= 1; ++dy)
            for (int dx = -1; dx <= 1; ++dx) {
                const cv::Point to = at + cv::Point(dx, dy);
                if (to.x < 0 || to.y < 0 || to.x >= part.cols || to.y >= part.rows) continue;
                if (labels.at<int>(to) != piece.label || part.at<int>(to) >= 0) continue;
                part.at<int>(to) = part.at<int>(at);
                waiting.push_back(to);
            }
    }
    return part;
}

}  // namespace

int part_tied_lines(InkMask& ink) {
    const double unit = usual_height(ink.pieces);
    std::vector<InkComponent> usual;
    std::vector<size_t> tall;
    int next_label = 1;
    for (size_t i = 0; i < ink.pieces.size(); ++i) {
        const InkPiece& piece = ink.pieces[i];
        next_label = std::max(next_label, piece.label + 1);
        if (piece.box.height > kTall * unit)
            tall.push_back(i);
        else
            usual.push_back(component_of(piece));
    }
    std::erase_if(tall, [&](size_t i) { return ink.pieces[i].box.height > kTallest * unit; });
    if (tall.empty() || usual.empty()) return 0;
    // Labels of what is no ink must not be given again.
    double highest = 0;
    cv::minMaxLoc(ink.labels, nullptr, &highest);
    next_label = std::max(next_label, static_cast<int>(highest) + 1);
    const std::vector<InkLine> lines = group_shapes(usual, smallest_letter_px(ink));
    std::vector<size_t> gone;
    std::vector<InkPiece> made;
    for (const size_t i : tall) {
        const InkPiece piece = ink.pieces[i];
        const std::vector<double> through = lines_through(piece.box, lines, usual, unit);
        if (through.size() < 2) continue;
        const cv::Mat part = parts_of(ink, piece, through, unit);
        if (part.empty()) continue;
        std::vector<InkPiece> parts(through.size());
        std::vector<cv::Point2d> sums(through.size());
        std::vector<cv::Point> low(through.size(), {INT_MAX, INT_MAX}), high(through.size(), {-1, -1});
        cv::Mat labels = ink.labels(piece.box);
        for (int y = 0; y < part.rows; ++y)
            for (int x = 0; x < part.cols; ++x) {
                const int l = part.at<int>(y, x);
                if (l < 0) continue;
                const auto at = static_cast<size_t>(l);
                labels.at<int>(y, x) = next_label + l;
                ++parts[at].area;
                sums[at] += cv::Point2d(x, y);
                low[at] = {std::min(low[at].x, x), std::min(low[at].y, y)};
                high[at] = {std::max(high[at].x, x), std::max(high[at].y, y)};
            }
        for (size_t l = 0; l < parts.size(); ++l) {
            if (parts[l].area == 0) continue;
            parts[l].label = next_label + static_cast<int>(l);
            parts[l].box = cv::Rect(low[l], high[l] + cv::Point(1, 1)) + piece.box.tl();
            parts[l].middle = sums[l] / parts[l].area + cv::Point2d(piece.box.tl());
            made.push_back(parts[l]);
        }
        next_label += static_cast<int>(parts.size());
        gone.push_back(i);
    }
    for (size_t k = gone.size(); k-- > 0;) ink.pieces.erase(ink.pieces.begin() + static_cast<std::ptrdiff_t>(gone[k]));
    ink.pieces.insert(ink.pieces.end(), made.begin(), made.end());
    return static_cast<int>(gone.size());
}

}  // namespace fernleaf
