#include "demo/demo_library.h"

#include <gtest/gtest.h>

#include <set>

#include "store/temporary_library.h"

namespace fernleaf {
namespace {

TEST(DemoLibrary, HoldsTheScenarioInSeveralHandsAndColours) {
    TemporaryLibrary library;
    const auto made = make_demo_library(*library.library);
    ASSERT_TRUE(made) << made.error().message;
    const auto texts = demo_texts();
    ASSERT_TRUE(texts);
    EXPECT_GE(library->notebooks()->size(), 4U);
    EXPECT_GE(texts->size(), 12U);
    std::set<uint32_t> colours;
    size_t pages = 0, scans = 0, plots = 0;
    for (const Notebook& notebook : *library->notebooks()) {
        const auto infos = library->pages(notebook.id);
        for (const PageInfo& info : *infos) {
            const auto page = library->load_page(info.id);
            ASSERT_TRUE(page);
            ++pages;
            scans += page->pictures.size();
            plots += page->plots.size();
            EXPECT_TRUE(page->pictures.empty() ? page->strokes.size() > 20 : page->strokes.empty());
            const Box sheet = Box::of(0, 0, info.width_mm, info.height_mm);
            for (const Stroke& s : page->strokes) {
                colours.insert(s.pen.colour);
                EXPECT_TRUE(sheet.contains({s.box().left, s.box().top}) &&
                            sheet.contains({s.box().right, s.box().bottom}))
                    << notebook.title << " " << info.number;
            }
        }
    }
    EXPECT_EQ(pages, texts->size());
    EXPECT_EQ(scans, 1U);
    EXPECT_EQ(plots, 1U) << "of the irrigation pump";
    EXPECT_GE(colours.size(), 4U);
    EXPECT_EQ(library->intake()->size(), 3U);
    // What was said on the walk is tied to what was written meanwhile.
    const auto tracks = library->tracks();
    ASSERT_EQ(tracks->size(), 1U);
    const VoiceTrack& walk = tracks->front();
    EXPECT_GT(when_at(walk, length_ms(walk)) - when_at(walk, 0), 7'000'000) << "two hours";
    EXPECT_LT(length_ms(walk), 60'000) << "its silence is cut";
    EXPECT_GT(library->written_between(when_at(walk, 0), when_at(walk, length_ms(walk)))->size(), 100U);
    EXPECT_TRUE(library->check()->empty());
    EXPECT_FALSE(make_demo_library(*library.library)) << "a library in use must not be filled again";
}

}  // namespace
}  // namespace fernleaf
