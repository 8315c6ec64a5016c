#include "reading/number_layout.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <opencv2/imgproc.hpp>

#include "base/quantile.h"
#include "base/text.h"
#include "reading/network.h"

namespace fernleaf {
namespace {

constexpr int kBlankColumn = 64;      // of 255 a pixel: the edge of a stroke's shade
constexpr int kInkPx = 96;            // of 255
constexpr double kLeastSpace = 0.32;  // of the height of digits: a narrower gap is none between numbers,
constexpr double kWiderGap = 1.45;    // nor one that is hardly wider than those within them
constexpr double kTaller = 1.13;      // than digits: a slash mostly is
// Logarithms of a one's probability where a slash is read: at least, and how far below the slash's.
constexpr double kLeastOne = -9, kNearlyAsSeen = 3;
constexpr size_t kShortNumber = 2;  // digits: days, months, parts of a fraction

// Of each column how much ink it has, and the columns that a stretch of time steps stands for.
struct Columns {
    int begin = 0, end = 0;
    cv::Mat ink;
};

Columns columns_between(const cv::Mat& pixels, int from, int to) {
    const auto column = [](int step) { return static_cast<int>(step * kColumnsPerStep); };
    Columns out;
    out.begin = std::clamp(column(from), 0, pixels.cols);
    out.end = std::clamp(column(to), out.begin, pixels.cols);
    if (out.begin < out.end) cv::reduce(pixels.colRange(out.begin, out.end), out.ink, 0, cv::REDUCE_SUM, CV_32S);
    return out;
}

// Where the widest run of blank columns ends, and how wide it is.
struct Blank {
    int end = 0, width = 0;
};

Blank widest_blank(const cv::Mat& ink) {
    Blank out;
    for (int x = 0, run = 0; x < ink.cols; ++x) {
        run = ink.at<int>(0, x) < kBlankColumn ? run + 1 : 0;
        if (run > out.width) out = {x + 1, run};
    }
    return out;
}

struct Extent {
    int top = 0, bottom = 0;
    int height() const { return bottom - top; }
};

Extent extent(const cv::Mat& pixels, int from, int to) {
    const Columns columns = columns_between(pixels, from, to);
    Extent out{pixels.rows, 0};
    if (columns.begin == columns.end) return {};
    cv::Mat most;
    cv::reduce(pixels.colRange(columns.begin, columns.end), most, 1, cv::REDUCE_MAX);
    for (int y = 0; y < most.rows; ++y)
        if (most.at<uchar>(y, 0) >= kInkPx) out.top = std::min(out.top, y), out.bottom = y + 1;
    return out.bottom > 0 ? out : Extent{};
}

class Layout {
public:
    Layout(const cv::Mat& pixels, const cv::Mat& scores, const Alphabet& alphabet, const std::u32string& text,
           const std::vector<Span>& spans)
        : pixels_(pixels), scores_(scores), alphabet_(alphabet), text_(text), spans_(spans) {
        std::vector<float> heights, gaps;
        for (size_t i = 0; i < text.size(); ++i) {
            if (!is_digit(text[i])) continue;
            heights.push_back(static_cast<float>(extent_of(i).height()));
            if (i + 1 < text.size() && is_digit(text[i + 1])) gaps.push_back(static_cast<float>(gap(i, i + 1)));
        }
        if (!heights.empty()) digit_height_ = median(heights);
        if (!gaps.empty()) gap_within_ = median(gaps);
    }

    std::u32string text() const {
        std::u32string out;
        for (size_t i = 0; i < text_.size(); ++i) {
            if (text_[i] == U' ' && is_no_space(i)) continue;
            out += text_[i] == U'/' && is_one(i) ? U'1' : text_[i];
        }
        return out;
    }

private:
    double gap(size_t first, size_t second) const {
        return widest_blank(columns_between(pixels_, spans_[first].begin, spans_[second].end).ink).width;
    }
    // From halfway to the character before to halfway to the next.
    Extent extent_of(size_t i) const {
        const int from = i == 0 ? 0 : widest_gap(pixels_, spans_[i - 1].end - 1, spans_[i].begin);
        const int to =
            i + 1 == text_.size() ? scores_.rows : widest_gap(pixels_, spans_[i].end - 1, spans_[i + 1].begin);
        return extent(pixels_, from, std::max(from + 1, to));
    }
    bool is_no_space(size_t i) const {
        if (i == 0 || i + 1 == text_.size() || !is_digit(text_[i - 1]) || !is_digit(text_[i + 1])) return false;
        return gap(i - 1, i + 1) < std::max(kLeastSpace * digit_height_, kWiderGap * gap_within_);
    }
    // Digits in one number before a place, or behind it.
    size_t digits_before(size_t i) const {
        size_t n = 0;
        while (n < i && is_digit(text_[i - n - 1])) ++n;
        return n;
    }
    size_t digits_behind(size_t i) const {
        size_t n = 0;
        while (i + n + 1 < text_.size() && is_digit(text_[i + n + 1])) ++n;
        return n;
    }
    bool is_one(size_t i) const {
        const size_t before = digits_before(i), behind = digits_behind(i);
        // By itself between numbers, a day and a month, half of something: there the network must nearly see a one.
        const bool alone = before == 0 && behind == 0;
        if (alone && !(i > 1 && is_digit(text_[i - 2])) && !(i + 2 < text_.size() && is_digit(text_[i + 2])))
            return false;
        const bool slash_fits = alone || (before > 0 && behind > 0 && std::max(before, behind) <= kShortNumber);
        const double least = slash_fits ? seen(i, U'/') - kNearlyAsSeen : kLeastOne;
        return seen(i, U'1') > least && extent_of(i).height() <= kTaller * digit_height_;
    }
    double seen(size_t i, char32_t c) const {
        float best = std::numeric_limits<float>::lowest();
        for (int t = spans_[i].begin; t < spans_[i].end; ++t)
            best = std::max(best, scores_.at<float>(t, alphabet_.symbol(c)));
        return best;
    }

    const cv::Mat &pixels_, &scores_;
    const Alphabet& alphabet_;
    const std::u32string& text_;
    const std::vector<Span>& spans_;
    double digit_height_ = 0, gap_within_ = 0;  // px
};

}  // namespace

int widest_gap(const cv::Mat& pixels, int from, int to) {
    const Columns columns = columns_between(pixels, from, to);
    if (columns.begin == columns.end) return from;
    const Blank widest = widest_blank(columns.ink);
    cv::Point least;
    cv::minMaxLoc(columns.ink, nullptr, nullptr, &least);
    const int middle = widest.width > 0 ? widest.end - 1 - widest.width / 2 : least.x;
    return static_cast<int>(std::lround((columns.begin + middle) / kColumnsPerStep));
}

std::u32string laid_out(const cv::Mat& pixels, const cv::Mat& scores, const Alphabet& alphabet,
                        const std::u32string& text, const std::vector<Span>& spans) {
    if (spans.size() != text.size() || std::ranges::none_of(text, is_digit)) return text;
    return Layout(pixels, scores, alphabet, text, spans).text();
}

}  // namespace fernleaf
