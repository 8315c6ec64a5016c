#include "base/copy_on_write.h"

#include <gtest/gtest.h>

#include <string>
#include <thread>

namespace fernleaf {
namespace {

TEST(CopyOnWrite, CopiesShareUntilOneIsChanged) {
    CopyOnWrite<std::string> a(std::string("frost"));
    CopyOnWrite<std::string> b = a;
    EXPECT_TRUE(a.shares_with(b));
    b.change() += " watch";
    EXPECT_FALSE(a.shares_with(b));
    EXPECT_EQ(*a, "frost");
    EXPECT_EQ(*b, "frost watch");
    const std::string* before = &*b;
    b.change() += "!";
    EXPECT_EQ(&*b, before) << "what nobody shares is changed where it is";
}

TEST(CopyOnWrite, NothingIsAnEmptyValue) {
    CopyOnWrite<std::string> a;
    EXPECT_TRUE(a->empty());
    CopyOnWrite<std::string> b = std::move(a);
    EXPECT_TRUE(b->empty());
    b.change() = "x";
    a = b;
    b = CopyOnWrite<std::string>();
    EXPECT_EQ(*a, "x");
    a = *&a;
    EXPECT_EQ(*a, "x");
}

TEST(CopyOnWrite, ThreadsReadTheirsWhileAnotherIsChanged) {
    CopyOnWrite<std::string> mine(std::string(1000, 'a'));
    for (int i = 0; i < 200; ++i) {
        std::thread reader([theirs = mine] {
            for (const char c : *theirs) ASSERT_EQ(c, theirs->front());
        });
        mine.change().assign(1000, static_cast<char>('a' + i % 26));
        reader.join();
    }
}

}  // namespace
}  // namespace fernleaf
