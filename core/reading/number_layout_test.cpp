#include "reading/number_layout.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

namespace fernleaf {
namespace {

// Upright bars instead of digits, and what a network would see of them.
class NumberLayout : public testing::Test {
protected:
    // x, top and bottom of a bar, px; the symbol seen there.
    void put(int x, int top, int bottom, char32_t seen) {
        cv::rectangle(pixels_, {x, top}, {x + 3, bottom - 1}, 255, cv::FILLED);
        const int step = static_cast<int>((x + 1) / 2);
        scores_.at<float>(step, alphabet_.symbol(seen)) = -0.1F;
        text_ += seen;
        spans_.push_back({step, step + 1});
    }
    void space(int x) {
        text_ += U' ';
        spans_.push_back({x / 2, x / 2 + 1});
    }
    std::u32string out() { return laid_out(pixels_, scores_, alphabet_, text_, spans_); }

    Alphabet alphabet_{U" 0123456789/abcdefgh"};
    cv::Mat pixels_ = cv::Mat::zeros(40, 400, CV_8U);
    cv::Mat scores_ = cv::Mat(200, 22, CV_32F, cv::Scalar(-8));
    std::u32string text_;
    std::vector<Span> spans_;
};

TEST_F(NumberLayout, ASpaceAsNarrowAsTheGapsWithinANumberIsNone) {
    put(10, 10, 30, U'8'), put(18, 10, 30, U'6'), put(26, 10, 30, U'0'), space(32);
    put(35, 10, 30, U'7'), put(43, 10, 30, U'5'), space(56), put(64, 10, 30, U'2');
    EXPECT_EQ(out(), U"86075 2");
}

TEST_F(NumberLayout, WhereDigitsStandFarApartASpaceMustBeWider) {
    put(10, 10, 30, U'8'), put(24, 10, 30, U'6'), put(38, 10, 30, U'0'), space(44);
    put(54, 10, 30, U'7'), space(70), put(84, 10, 30, U'5');
    EXPECT_EQ(out(), U"8607 5");
}

TEST_F(NumberLayout, SpacesBesideLettersStay) {
    put(10, 10, 30, U'8'), space(15), put(18, 10, 30, U'a'), space(23), put(26, 10, 30, U'b');
    EXPECT_EQ(out(), U"8 a b");
}

TEST_F(NumberLayout, ASlashNoTallerThanDigitsIsAOneInALongNumber) {
    put(10, 10, 30, U'7'), put(18, 10, 30, U'8'), put(26, 10, 30, U'2'), put(34, 10, 31, U'/');
    put(42, 10, 30, U'5'), put(50, 10, 30, U'0');
    EXPECT_EQ(out(), U"782150");
}

TEST_F(NumberLayout, TallSlashesAndThoseOfDatesStay) {
    put(10, 10, 30, U'7'), put(18, 10, 30, U'8'), put(26, 10, 30, U'2'), put(34, 5, 35, U'/'), put(42, 10, 30, U'5');
    put(50, 10, 30, U'0'), space(58), put(70, 10, 30, U'1'), put(78, 10, 30, U'2'), put(86, 10, 30, U'/');
    put(94, 10, 30, U'3');
    EXPECT_EQ(out(), U"782/50 12/3");
}

TEST_F(NumberLayout, ASlashThatCanBeNoOneStays) {
    put(10, 10, 30, U'7'), put(18, 10, 30, U'8'), put(26, 10, 30, U'2'), put(34, 10, 30, U'/'), put(42, 10, 30, U'5');
    scores_.col(alphabet_.symbol(U'1')).setTo(-20);
    EXPECT_EQ(out(), U"782/5");
}

}  // namespace
}  // namespace fernleaf
