#include "exchange/plain_text.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

ReadLine line(int region, std::vector<std::string> words, RegionKind kind = RegionKind::text) {
    ReadLine l;
    l.region = region;
    l.kind = kind;
    for (std::string& w : words) l.words.push_back({std::move(w), 1, {}, {}, {}, false});
    return l;
}

TEST(PlainText, ParagraphsAreSetApartAndDrawingsLeaveNothing) {
    const Reading page{{line(0, {"Late", "frost"}), line(0, {"on", "row", "7"}), line(1, {}, RegionKind::drawing),
                        line(2, {"Water"})}};
    EXPECT_EQ(plain_text(page), "Late frost\non row 7\n\nWater\n");
}

TEST(PlainText, PagesAreDividedByFormFeeds) {
    EXPECT_EQ(plain_text({Reading{{line(0, {"a"})}}, Reading{}, Reading{{line(3, {"b"})}}}), "a\n\f\fb\n");
}

}  // namespace
}  // namespace fernleaf
