#include "document/tag.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

TEST(TagNames, AreTidyAndEachOnce) {
    EXPECT_EQ(tag_names("#frost,  cold   room , Frost,"), (std::vector<std::string>{"frost", "cold room"}));
    EXPECT_EQ(tag_names("a:b"), std::vector<std::string>{"a:b"});
}

TEST(TagNames, LeaveOutWhatIsNone) {
    EXPECT_TRUE(tag_names("").empty());
    EXPECT_TRUE(tag_names(" ,#, ?!").empty());
    EXPECT_TRUE(tag_names(std::string(kLongestTagName + 1, 'x')).empty());
    EXPECT_TRUE(tag_names("fr\xC3st").empty()) << "no UTF-8";
    EXPECT_EQ(tag_names("two\nlines"), std::vector<std::string>{"two lines"});
}

}  // namespace
}  // namespace fernleaf
