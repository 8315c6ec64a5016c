#include "paper/baseline.h"

#include <gtest/gtest.h>

#include <cmath>
#include <opencv2/imgproc.hpp>
#include <random>

namespace fernleaf {
namespace {

constexpr int kLetters = 24;
constexpr double kHeight = 20;

// Discs of a height on a baseline, each moved down by what is said; 32 px from one to the next.
cv::Mat letters(const std::vector<double>& down, double slope = 0, double bend = 0) {
    constexpr int kFine = 4;  // shift of the coordinates: parts of a pixel are drawn
    cv::Mat page(160, 40 + 32 * static_cast<int>(down.size()), CV_8U, cv::Scalar(250));
    for (size_t i = 0; i < down.size(); ++i) {
        const double x = 30 + 32.0 * static_cast<double>(i), t = x / page.cols;
        const double bottom = 80 + slope * x + bend * t * t + down[i];
        cv::circle(page, cv::Point(static_cast<int>(x * 16), static_cast<int>((bottom - kHeight / 2) * 16)),
                   static_cast<int>(kHeight / 2 * 16), cv::Scalar(30), 3, cv::LINE_AA, kFine);
    }
    return page;
}

std::vector<std::optional<BaselineOffset>> offsets_in(const cv::Mat& page) {
    const InkMask ink = ink_mask(page);
    std::vector<size_t> pieces(ink.pieces.size());
    for (size_t i = 0; i < pieces.size(); ++i) pieces[i] = i;
    std::ranges::sort(pieces, {}, [&](size_t i) { return ink.pieces[i].middle.x; });
    return baseline_offsets(ink, pieces);
}

std::ptrdiff_t without_one(const std::vector<std::optional<BaselineOffset>>& offsets) {
    return std::ranges::count_if(offsets, [](const auto& o) { return !o.has_value(); });
}

double mean_offset(const std::vector<std::optional<BaselineOffset>>& offsets) {
    double sum = 0, count = 0;
    for (const auto& o : offsets)
        if (o) sum += std::abs(o->offset), ++count;
    return count > 0 ? sum / count : -1;
}

TEST(Baseline, LettersInARowStandOnItWhereverItGoes) {
    const std::vector<double> even(kLetters, 0);
    for (const auto& [slope, bend] : {std::pair{0.0, 0.0}, {0.03, 0.0}, {-0.02, 0.0}, {0.0, 30.0}, {0.02, -20.0}}) {
        const auto offsets = offsets_in(letters(even, slope, bend));
        ASSERT_EQ(offsets.size(), static_cast<size_t>(kLetters));
        EXPECT_EQ(without_one(offsets), 0);
        EXPECT_LT(mean_offset(offsets), 0.006) << slope << ", " << bend;
    }
}

TEST(Baseline, PartsOfAPixelAreSeen) {
    std::mt19937 random(3);
    std::normal_distribution<double> wander(0, 1);
    std::vector<double> down;
    for (int i = 0; i < kLetters; ++i) down.push_back(0.03 * kHeight * wander(random));
    const auto offsets = offsets_in(letters(down, 0.01));
    ASSERT_EQ(offsets.size(), down.size());
    EXPECT_GT(mean_offset(offsets), 0.014);
    EXPECT_LT(mean_offset(offsets), 0.035);
    // The lowest stands lowest.
    const size_t lowest = static_cast<size_t>(std::ranges::max_element(down) - down.begin());
    ASSERT_TRUE(offsets[lowest]);
    EXPECT_GT(offsets[lowest]->offset, 0.02);
}

TEST(Baseline, TheSofterTheBordersAndTheCoarserThePaperTheLessIsCertain) {
    const auto uncertain = [](double blur, double noise) {
        cv::Mat page = letters(std::vector<double>(kLetters, 0));
        if (blur > 0) cv::GaussianBlur(page, page, {}, blur);
        cv::Mat grain(page.size(), CV_8U);
        cv::randn(grain, 3 * noise, noise);
        page -= grain;
        const auto offsets = offsets_in(page);
        return offsets.empty() || !offsets[4] ? -1.0 : offsets[4]->uncertainty;
    };
    EXPECT_GT(uncertain(0, 3), 0);
    EXPECT_GT(uncertain(2, 3), 1.3 * uncertain(0, 3));
    EXPECT_GT(uncertain(1, 6), 1.3 * uncertain(1, 2));
    EXPECT_LT(uncertain(2, 6), 0.1);
}

TEST(Baseline, TailsAndDotsDontStandOnIt) {
    std::vector<double> down(kLetters, 0);
    down[5] = 8, down[17] = 8;
    cv::Mat page = letters(down);
    cv::circle(page, {30 + 32 * 10 + 16, 78}, 2, cv::Scalar(30), cv::FILLED);
    const auto offsets = offsets_in(page);
    ASSERT_EQ(offsets.size(), static_cast<size_t>(kLetters) + 1);
    EXPECT_FALSE(offsets[5]);
    EXPECT_FALSE(offsets[11]) << "the dot stands after the eleventh";
    EXPECT_FALSE(offsets[18]);
    EXPECT_EQ(without_one(offsets), 3);
    EXPECT_LT(mean_offset(offsets), 0.006);
}

TEST(Baseline, AFewLettersTellNone) {
    EXPECT_TRUE(baseline_offsets({}, {}).empty());
    const auto few = offsets_in(letters(std::vector<double>(5, 0)));
    EXPECT_EQ(without_one(few), 5);
    // Nor do letters that stand each somewhere else.
    std::vector<double> steps;
    for (int i = 0; i < 12; ++i) steps.push_back(i * 7 % 12 * 5.0 - 30);
    const auto all_about = offsets_in(letters(steps));
    EXPECT_EQ(without_one(all_about), 12);
}

}  // namespace
}  // namespace fernleaf
