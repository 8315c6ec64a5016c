#include "paper/sheet_search.h"

#include <gtest/gtest.h>

#include "paper/quadrilateral.h"
#include "paper/test_photo.h"

namespace fernleaf {
namespace {

const std::array<Point, 4> kSheet{{{120, 80}, {520, 80}, {520, 640}, {120, 640}}};

// A photograph of one sheet and what is sought in it, in its own px.
struct Sought {
    cv::Mat photo = table({700, 800}, {70, 90, 110});
    EdgePicture picture;
    std::vector<EdgeLine> lines;
    std::optional<SheetSearch> search;
    explicit Sought(bool shadow = false) {
        lay_sheet(photo, {kSheet, {}});
        if (shadow) photo(cv::Rect(0, 400, 700, 400)) *= 0.7;
        picture = edge_picture(photo, 800, true);
        lines = edge_lines(picture, 100);
        search.emplace(picture, lines, photo);
    }
    SheetCandidate judged(const std::array<Point, 4>& corners) const {
        SheetCandidate c = search->candidate(corners).value();
        search->judge(c);
        return c;
    }
};

TEST(SheetSearch, TheSheetIsAmongItsCandidatesTheBestFirst) {
    const Sought sought;
    const auto found = sought.search->candidates(sought.search->clearest(40), 100);
    const auto near = [](const SheetCandidate& c) {
        for (size_t i = 0; i < 4; ++i)
            if (distance(c.corners[i], kSheet[i]) > 3) return false;
        return true;
    };
    EXPECT_GE(std::ranges::count_if(found, near), 1);
    for (size_t i = 1; i < found.size(); ++i) EXPECT_GE(found[i - 1].score, found[i].score) << "the best first";
}

TEST(SheetSearch, OfBordersThatAreNoneASheetIsJudgedWorse) {
    const Sought sought;
    const double whole = sought.judged(kSheet).score;
    EXPECT_GT(whole, 0.85);
    EXPECT_LT(sought.judged({{{120, 80}, {330, 80}, {330, 640}, {120, 640}}}).score, whole - 0.1) << "a half of it";
    EXPECT_LT(sought.judged({{{60, 20}, {600, 20}, {600, 720}, {60, 720}}}).score, whole - 0.1) << "ground about it";
}

TEST(SheetSearch, BeyondAShadowsEdgeIsTheSamePaperBeyondTheSheetIsNot) {
    const Sought sought(true);
    const SheetCandidate lit = sought.judged({{{120, 80}, {520, 80}, {520, 398}, {120, 398}}});
    const Beyond below = sought.search->beyond(lit, sought.judged(kSheet));
    ASSERT_TRUE(below.seen);
    EXPECT_TRUE(same_paper(below, 7));
    EXPECT_GT(below.light, 5) << "darker, for it is in shadow";
    EXPECT_GT(below.alike, 0.9);
    SheetCandidate wide = lit;
    wide.corners = {{{10, 80}, {690, 80}, {690, 398}, {10, 398}}};
    const Beyond beside = sought.search->beyond(lit, wide);
    ASSERT_TRUE(beside.seen);
    EXPECT_FALSE(same_paper(beside, 7));
}

TEST(SheetSearch, SidesAboutABlockOfWritingDoNotCutThroughIt) {
    const Sought sought;
    const Box block = Box::of(180, 140, 260, 400);
    for (const size_t i : sought.search->about(block, 20)) {
        if (sought.lines[i].frame) continue;
        const double away = std::abs(dot(sought.lines[i].normal, block.centre()) - sought.lines[i].offset);
        EXPECT_GT(away, 0.5 * std::min(block.width(), block.height()) * 0.6);
    }
    EXPECT_GE(sought.search->about(block, 20).size(), 4U);
}

}  // namespace
}  // namespace fernleaf
