#include "store/page_file.h"

#include <gtest/gtest.h>

#include "store/temporary_library.h"

namespace fernleaf {
namespace {

// A page with something of most kinds, and ink that type was set from.
PageId rich_page(TemporaryLibrary& library) {
    const PageId page = library.page();
    Stroke gone = test_stroke(20, 30), stays = test_stroke(40, 60);
    stays.start_ms = 1'790'000'000'000;
    Edit write{"Write", {{gone, stays}}};
    EXPECT_TRUE(library->commit(page, write));
    Edit set{"Set in type"};
    set.removed.strokes = {write.added.strokes[0]};
    TextBlock text;
    text.at = {20, 30};
    text.paragraphs = {{}};
    text.paragraphs[0].runs = {{"Zwölf Kisten – “süß”"}};
    text.ink = {write.added.strokes[0].id};
    set.added.texts = {text};
    set.added.dividers = {{}};
    EXPECT_TRUE(library->commit(page, set));
    library.say(page, {{write.added.strokes[1].id}, {40, 60, 42, 63}, "gate"});
    EXPECT_TRUE(library->set_tags({{library->tags_named({"frost"})->front(), page}}, true));
    return page;
}

TEST(PageFile, ComesBackAsItWas) {
    TemporaryLibrary library;
    const PageId page = rich_page(library);
    EXPECT_TRUE(library->name_page(page, "The lower gate"));
    const PageCopy before = *library->take_copy(page);
    ASSERT_EQ(before.ink.strokes.size(), 1U);
    const auto after = decode_page(encode_page(before));
    ASSERT_TRUE(after) << after.error().message;
    EXPECT_EQ(static_cast<const Elements&>(after->page), static_cast<const Elements&>(before.page));
    EXPECT_EQ(after->ink, before.ink);
    EXPECT_EQ(after->corrections, before.corrections);
    EXPECT_EQ(after->tags, before.tags);
    EXPECT_EQ(after->page.info.title, "The lower gate");
    EXPECT_EQ(after->page.info.created_ms, before.page.info.created_ms);
    EXPECT_EQ(static_cast<const Sheet&>(after->page.info), static_cast<const Sheet&>(before.page.info));
}

TEST(PageFile, DamagedOnesAreErrors) {
    TemporaryLibrary library;
    const std::string good = encode_page(*library->take_copy(rich_page(library)));
    EXPECT_FALSE(decode_page(""));
    EXPECT_FALSE(decode_page("[]"));
    for (size_t length = 0; length < good.size(); length += 7) EXPECT_FALSE(decode_page(good.substr(0, length)));
    for (const auto& [from, to] :
         std::vector<std::pair<std::string, std::string>>{{"\"width\":148.0", "\"width\":1e300"},
                                                          {"\"width\":148.0", "\"width\":-1"},
                                                          {"\"kind\":0,", "\"kind\":99,"},
                                                          {"\"created_ms\":", "\"created_ms\":1e400,\"x\":"},
                                                          {"\"text\":\"gate\"", "\"text\":7"}}) {
        std::string changed = good;
        const size_t at = changed.find(from);
        ASSERT_NE(at, std::string::npos) << from;
        changed.replace(at, from.size(), to);
        EXPECT_FALSE(decode_page(changed)) << to;
    }
}

}  // namespace
}  // namespace fernleaf
