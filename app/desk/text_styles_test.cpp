#include "desk/text_styles.h"

#include <gtest/gtest.h>

#include <QSettings>

namespace fernleaf {
namespace {

class Styles : public testing::Test {
protected:
    void SetUp() override { QSettings().clear(); }
    void TearDown() override { QSettings().clear(); }
    static KeptStyle find(const QString& name) {
        for (const KeptStyle& s : kept_styles())
            if (s.name == name) return s;
        ADD_FAILURE() << "no style " << name.toStdString();
        return {};
    }
};

TEST_F(Styles, EveryoneBeginsWithSome) {
    const auto usual = kept_styles();
    ASSERT_GE(usual.size(), 3U);
    for (const KeptStyle& s : usual) {
        EXPECT_FALSE(s.own) << s.name.toStdString();
        EXPECT_FALSE(s.name.isEmpty());
    }
    EXPECT_GT(find("Title").style.size_mm, find("Body").style.size_mm);
    EXPECT_EQ(find("Heading").heading, 2);
}

TEST_F(Styles, OnesOwnComeBackAsTheyWereKept) {
    const TextStyle style{"Fernleaf Sans", 6.5, true, true, true, true, 0x8A3B6B, 0xEBCB6B};
    keep_style({"Labels", style, 3, true});
    const KeptStyle back = find("Labels");
    EXPECT_EQ(back.style, style);
    EXPECT_EQ(back.heading, 3);
    EXPECT_TRUE(back.own);
}

TEST_F(Styles, ANewOneOfTheSameNameTakesTheOldOnesPlace) {
    keep_style({"Labels", {}, 0, true});
    TextStyle larger;
    larger.size_mm = 9;
    keep_style({"Labels", larger, 0, true});
    EXPECT_EQ(find("Labels").style.size_mm, 9);
    const size_t before = kept_styles().size();
    forget_style("Labels");
    EXPECT_EQ(kept_styles().size(), before - 1);
    forget_style("Body");
    EXPECT_EQ(kept_styles().size(), before - 1) << "those at hand stay";
}

TEST_F(Styles, WithoutANameAreNotKept) {
    const size_t before = kept_styles().size();
    keep_style({"  ", {}, 0, true});
    EXPECT_EQ(kept_styles().size(), before);
}

TEST_F(Styles, WhatMakesNoSenseInTheSettingsIsBroughtWithin) {
    QSettings().setValue("text_styles", R"([{"name":"Odd","size":9999,"heading":77,"colour":-1},{"name":""},7])");
    const KeptStyle odd = find("Odd");
    EXPECT_LE(odd.style.size_mm, 60);
    EXPECT_EQ(odd.heading, 3);
    EXPECT_LE(odd.style.colour, 0xFFFFFFU);
    QSettings().setValue("text_styles", "no json at all");
    EXPECT_GE(kept_styles().size(), 3U);
}

}  // namespace
}  // namespace fernleaf
