#include "transcript/written_line.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

ReadLine line(RegionKind kind, const Box& box) {
    ReadLine out;
    out.kind = kind, out.box = box;
    out.words = {{"x=4", 1, box, {}, {}}};
    return out;
}

TEST(WrittenLine, WordsBesideAFormulaGoOnWithIt) {
    const ReadLine words = line(RegionKind::text, Box::of(20, 40, 30, 6));
    EXPECT_TRUE(goes_on(words, line(RegionKind::math, Box::of(54, 41, 20, 7))));
    EXPECT_TRUE(goes_on(line(RegionKind::math, Box::of(2, 41, 17, 7)), words));
    EXPECT_FALSE(goes_on(words, line(RegionKind::math, Box::of(54, 50, 20, 7)))) << "lower";
    EXPECT_FALSE(goes_on(words, line(RegionKind::math, Box::of(20, 41, 20, 7)))) << "not behind";
    EXPECT_FALSE(goes_on(words, line(RegionKind::math, Box::of(120, 41, 20, 7)))) << "too far";
    EXPECT_FALSE(goes_on(words, line(RegionKind::text, Box::of(54, 41, 20, 7)))) << "two columns";
    ReadLine unread = line(RegionKind::math, Box::of(54, 41, 20, 7));
    unread.words.clear();
    EXPECT_FALSE(goes_on(words, unread));
}

}  // namespace
}  // namespace fernleaf
