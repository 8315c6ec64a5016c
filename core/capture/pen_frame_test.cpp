#include "capture/pen_frame.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

const std::string kTwo = encoded(Frame{FrameKind::stroke, 7, "abc"}) + encoded(Frame{FrameKind::bye, 8, ""});

TEST(FrameReader, ReadsFramesHoweverTheBytesAreCut) {
    for (size_t cut = 0; cut <= kTwo.size(); ++cut) {
        FrameReader reader;
        std::vector<Frame> frames;
        for (const std::string& part : {kTwo.substr(0, cut), kTwo.substr(cut)}) {
            reader.feed(part);
            while (auto frame = reader.next()) frames.push_back(*std::move(frame));
        }
        ASSERT_EQ(frames.size(), 2U) << cut;
        EXPECT_EQ(frames[0].body, "abc");
        EXPECT_EQ(frames[0].number, 7U);
        EXPECT_EQ(frames[1].kind, FrameKind::bye);
        EXPECT_FALSE(reader.take_damaged());
    }
}

TEST(FrameReader, LeavesOutAFrameOfWhichOneByteIsAnother) {
    const size_t first = kTwo.size() - encoded(Frame{FrameKind::bye, 8, ""}).size();
    for (size_t at = 0; at < first; ++at) {
        std::string changed = kTwo;
        changed[at] = static_cast<char>(changed[at] ^ 0x10);
        FrameReader reader;
        reader.feed(changed);
        // A length that became larger waits for more than there is.
        reader.feed(std::string(kLargestFrameBody, '\0'));
        const auto frame = reader.next();
        ASSERT_TRUE(frame) << at;
        EXPECT_EQ(frame->kind, FrameKind::bye) << at;
        EXPECT_TRUE(reader.take_damaged());
        EXPECT_FALSE(reader.next()) << at;
    }
}

TEST(FrameReader, HoldsNoMoreThanAFrameOfWhatIsNone) {
    FrameReader reader;
    for (int i = 0; i < 1000; ++i) {
        reader.feed("FLPN and then something else; FLP");
        EXPECT_FALSE(reader.next());
    }
    EXPECT_TRUE(reader.take_damaged());
    reader.feed(kTwo);
    reader.feed(std::string(kLargestFrameBody, ' '));
    EXPECT_TRUE(reader.next());
}

}  // namespace
}  // namespace fernleaf
