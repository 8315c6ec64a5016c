// Pictures of any size, however small or thin, go through everything that is done to pictures.
#include <gtest/gtest.h>

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>

#include "paper/corner_marks.h"
#include "paper/lifted_ink.h"
#include "paper/page_reading.h"
#include "paper/scan_lines.h"
#include "paper/sheet_edges.h"
#include "paper/sheet_picture.h"
#include "paper/upright.h"
#include "reading/test_reader.h"

namespace fernleaf {
namespace {

class SmallPicture : public WithReader, public testing::WithParamInterface<cv::Size> {
protected:
    // Grains of all greys, and some ink: nothing about it is smooth.
    static cv::Mat pixels(uint64_t seed) {
        cv::Mat out(GetParam(), CV_8UC3);
        cv::RNG random(seed);
        random.fill(out, cv::RNG::UNIFORM, 0, 256);
        return out;
    }
};

TEST_P(SmallPicture, IsLookedAtStraightenedCleanedAndReadWithoutHarm) {
    for (const cv::Mat& picture : {pixels(1), cv::Mat(GetParam(), CV_8UC3, cv::Scalar::all(255)),
                                   cv::Mat(GetParam(), CV_8UC3, cv::Scalar::all(0))}) {
        const std::vector<Suggestion> sheets = suggested(picture);
        ASSERT_FALSE(sheets.empty());
        for (const Suggestion& sheet : sheets) {
            EXPECT_GT(sheet.width_mm, 0);
            EXPECT_GT(sheet.height_mm, 0);
            set_upright(picture, sheet, [&](const cv::Mat& page) { return upright_turns(page, *reader_, {}); });
        }
        for (const Look look : {Look::original, Look::clean, Look::grey, Look::black_white})
            for (const bool bare : {false, true}) {
                Treatment treatment;
                treatment.look = look;
                treatment.without_rules = bare;
                if (bare) treatment.lifted = {Box::of(0.1, 0.1, 0.5, 0.5)};
                EXPECT_FALSE(treated(picture, treatment).empty());
                if (look != Look::clean || bare) continue;
                const auto w = static_cast<double>(picture.cols), h = static_cast<double>(picture.rows);
                treatment.outline = SheetOutline{{{{0, 0}, {w, 0}, {w, h}, {0, h}}}, {}};
                treatment.turn_deg = 3;
                EXPECT_FALSE(treated(picture, treatment).empty());
            }
        corner_marks(picture);
        std::vector<uchar> png;
        ASSERT_TRUE(cv::imencode(".png", picture, png));
        Page page;
        page.pictures = {{1, "f", "a.png", 0, Box::of(0, 0, 100, 60)}};
        const FileSource files = [&](const std::string&) -> Result<std::string> {
            return std::string(png.begin(), png.end());
        };
        read_page(page, files, *reader_, {}, {}, {});
        lift_ink(picture, page.pictures[0], *reader_, nullptr, {});
    }
}

INSTANTIATE_TEST_SUITE_P(Sizes, SmallPicture,
                         testing::Values(cv::Size(1, 1), cv::Size(2, 2), cv::Size(100, 1), cv::Size(1, 100),
                                         cv::Size(2000, 5), cv::Size(5000, 10), cv::Size(9000, 3), cv::Size(3, 9000),
                                         cv::Size(20000, 2), cv::Size(15, 15), cv::Size(16, 16), cv::Size(33, 17),
                                         cv::Size(40, 2000), cv::Size(6000, 20), cv::Size(9000, 40), cv::Size(64, 64)));

}  // namespace
}  // namespace fernleaf
