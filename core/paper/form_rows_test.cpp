#include "paper/form_rows.h"

#include <gtest/gtest.h>

#include <sstream>

namespace fernleaf {
namespace {

FormLine line(double left, double top, const std::string& text, bool printed, int region) {
    FormLine out;
    out.line.region = region;
    out.line.certainty = 1;
    double x = left;
    std::istringstream words(text);
    for (std::string word; words >> word;) {
        const double width = 2.0 * static_cast<double>(word.size());
        out.line.words.push_back({word, 0.9, Box::of(x, top, width, 4), {}, {}, false});
        out.line.box.include(out.line.words.back().box);
        out.printed.push_back(printed);
        x += width + 2;
    }
    return out;
}

std::vector<std::string> texts(const std::vector<FormLine>& lines) {
    std::vector<std::string> out;
    for (const FormLine& l : lines) out.push_back(l.line.text());
    return out;
}

TEST(FormRows, AnswersJoinTheirLabelsHoweverFarBehind) {
    std::vector<FormLine> lines{line(20, 40, "Device:", true, 0), line(20, 54, "Place", true, 0),
                                line(110, 41, "water pump", false, 1), line(115, 53, "north orchard", false, 1),
                                line(20, 90, "Return this sheet to the shed by the end of the month", true, 2)};
    join_rows(lines);
    EXPECT_EQ(texts(lines), (std::vector<std::string>{"Device: water pump", "Place north orchard",
                                                      "Return this sheet to the shed by the end of the month"}));
    EXPECT_EQ(lines[0].line.region, 0);
    EXPECT_NEAR(lines[0].line.box.right, 130, 0.1);
    EXPECT_EQ(lines[0].printed, (std::vector<bool>{true, false, false}));
}

TEST(FormRows, TwoFieldsInARowAreReadBeforeTheRowBelow) {
    std::vector<FormLine> lines{line(20, 40, "Name:", true, 0),  line(20, 54, "Row:", true, 0),
                                line(50, 40, "Ines", false, 1),  line(50, 54, "seven", false, 1),
                                line(110, 40, "Date:", true, 2), line(110, 54, "Owner:", true, 2),
                                line(140, 40, "3 May", false, 3)};
    join_rows(lines);
    EXPECT_EQ(texts(lines), (std::vector<std::string>{"Name: Ines Date: 3 May", "Row: seven Owner:"}));
}

TEST(FormRows, WhereAllIsShortNoLabelNeedsToBeTold) {
    std::vector<FormLine> lines;
    const std::vector<std::string> labels{"Variety", "Weight", "Row", "Owner"},
        answers{"Juno", "32 kg", "seven", "Ines"};
    for (size_t i = 0; i < 4; ++i) lines.push_back(line(20, 40.0 + 14.0 * static_cast<double>(i), labels[i], true, 0));
    for (size_t i = 0; i < 4; ++i)
        lines.push_back(line(110, 40.0 + 14.0 * static_cast<double>(i), answers[i], true, 1));
    join_rows(lines);
    EXPECT_EQ(texts(lines), (std::vector<std::string>{"Variety Juno", "Weight 32 kg", "Row seven", "Owner Ines"}));
    lines.resize(3);
    lines.push_back(line(110, 40, "Juno", true, 1));
    join_rows(lines);
    EXPECT_EQ(lines.size(), 4U) << "one pair tells nothing";
}

TEST(FormRows, ColumnsOfRunningTextStayColumns) {
    std::vector<FormLine> lines;
    for (int i = 0; i < 4; ++i) lines.push_back(line(20, 40 + 8 * i, "the frost came in the night and", i % 2 == 0, 0));
    for (int i = 0; i < 4; ++i) lines.push_back(line(110, 40 + 8 * i, "stayed on the low field", i % 2 == 0, 1));
    const auto before = texts(lines);
    join_rows(lines);
    EXPECT_EQ(texts(lines), before);
}

}  // namespace
}  // namespace fernleaf
