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

TEST(PlainText, AFormsLabelsAndAnswersBecomeCells) {
    ReadLine row = line(0, {"Ordered", "by:", "Ines", "Varga"}), foot = line(1, {"Return", "to", "the", "shed"});
    const double lefts[] = {20, 37, 80, 95};
    for (size_t i = 0; i < 4; ++i) {
        row.words[i].box = Box::of(lefts[i], 40, 14, 5);
        foot.words[i].box = Box::of(20 + 15.0 * static_cast<double>(i), 80, 14, 5);
    }
    EXPECT_EQ(form_text({{row, line(1, {}, RegionKind::drawing), foot}}),
              "Ordered by\tInes Varga\nReturn to the shed\n");
    EXPECT_EQ(form_text({}), "");
}

TEST(PlainText, WordsAboutAFormulaStandInOneLineWithIt) {
    Reading reading{{line(0, {"Yield:"}), line(1, {"420-273="}), line(2, {"litres"}), line(2, {"end"})}};
    reading.lines[1].kind = RegionKind::math, reading.lines[1].result = "147";
    for (int i = 0; i < 3; ++i) reading.lines[static_cast<size_t>(i)].box = Box::of(20 + 30 * i, 40, 26, 6);
    reading.lines[3].box = Box::of(20, 50, 26, 6);
    EXPECT_EQ(plain_text(reading), "Yield: 420-273= litres\n= 147\nend\n");
}

TEST(PlainText, AFormulaIsItsLatexAndBelowItWhatItComesTo) {
    ReadLine sum = line(1, {"12+21="}, RegionKind::math);
    sum.result = "33";
    const Reading reading{
        {line(0, {"Sums"}), sum, line(2, {"a=3"}, RegionKind::math), line(3, {}, RegionKind::math), line(4, {"end"})}};
    EXPECT_EQ(plain_text(reading), "Sums\n\n12+21=\n= 33\n\na=3\n\nend\n") << "one that was not read says nothing";
}

}  // namespace
}  // namespace fernleaf
