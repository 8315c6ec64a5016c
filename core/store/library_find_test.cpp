#include <gtest/gtest.h>

#include "base/local_day.h"
#include "store/temporary_library.h"

namespace fernleaf {
namespace {

class Finding : public testing::Test {
protected:
    Finding() {
        for (const char* title : {"Frost watch", "Press house"}) {
            Notebook n;
            n.title = title;
            if (notebooks_.empty()) n.languages = {"de"};
            notebooks_.push_back(*library_->add_notebook(n));
        }
        frost_ = page(0, {"frost", "alarm"});
        rime_ = page(0, {"rime", "on", "pears"});
        mill_ = page(1, {"mill", "frost"});
    }
    PageId page(size_t notebook, const std::vector<std::string>& words) {
        const PageId id = *library_->add_page(notebooks_[notebook], {});
        EXPECT_TRUE(library_->save_reading(id, sure_reading(words)));
        return id;
    }
    void tag(PageId page, NotebookId notebook, const std::string& name) {
        const auto tags = library_->tags_named({name});
        ASSERT_TRUE(tags);
        ASSERT_TRUE(library_->set_tags({{tags->at(0), page, notebook}}, true));
    }
    // The pages found, in their order.
    std::vector<PageId> found(const std::string& text, size_t limit = 200) {
        std::vector<PageId> out;
        const auto query = parse_query(text);
        EXPECT_TRUE(query) << text;
        const auto hits = library_->find(*query, limit);
        EXPECT_TRUE(hits) << text;
        for (const Hit& hit : *hits) out.push_back(hit.page);
        return out;
    }
    using Ids = std::vector<PageId>;

    TemporaryLibrary library_;
    std::vector<NotebookId> notebooks_;
    PageId frost_ = 0, rime_ = 0, mill_ = 0;
};

TEST_F(Finding, JoinsAndLeavesOut) {
    EXPECT_EQ(found("frost"), (Ids{frost_, mill_}));
    EXPECT_EQ(found("frost OR rime"), (Ids{frost_, rime_, mill_}));
    EXPECT_EQ(found("frost -mill"), Ids{frost_});
    EXPECT_EQ(found("frost -\"frost alarm\""), Ids{mill_});
    EXPECT_EQ(found("frost alarm OR mill"), (Ids{frost_, mill_}));
    EXPECT_TRUE(found("frost -frost").empty());
    EXPECT_EQ(found("pears -lang:en"), Ids{rime_});
}

TEST_F(Finding, NarrowsByTagsOfPagesAndNotebooks) {
    tag(rime_, 0, "Kälte");
    tag(0, notebooks_[1], "kalte Ernte");
    EXPECT_EQ(found("tag:kalte"), Ids{rime_}) << "where one has just this name";
    EXPECT_EQ(found("tag:kal"), (Ids{rime_, mill_}));
    EXPECT_EQ(found("frost tag:kal"), Ids{mill_});
    EXPECT_EQ(found("frost -tag:kal"), Ids{frost_});
    EXPECT_EQ(found("frost OR tag:kalte"), (Ids{rime_, frost_, mill_}));
    EXPECT_TRUE(found("tag:none").empty());
}

TEST_F(Finding, APageByItselfIsNamedByItsTitleOrItsFirstLine) {
    ASSERT_TRUE(library_->name_page(mill_, "The new mill"));
    const auto hits = library_->find(*parse_query("notebook:press"));
    ASSERT_EQ(hits->size(), 1U);
    EXPECT_EQ(hits->at(0).line, "The new mill");
    EXPECT_TRUE(hits->at(0).boxes.empty());
    EXPECT_EQ(library_->find(*parse_query("notebook:frost"))->at(0).line, "frost alarm");
}

TEST_F(Finding, NarrowsByFoldersInFolders) {
    const FolderId hill = *library_->add_folder("Hallow Hill", kNoFolder);
    const FolderId weather = *library_->add_folder("Weather", hill);
    ASSERT_TRUE(library_->place_notebook(notebooks_[0], weather, 0));
    EXPECT_EQ(found("folder:hallow frost"), Ids{frost_});
    EXPECT_EQ(found("folder:weather"), (Ids{frost_, rime_}));
    EXPECT_EQ(found("frost -folder:weather"), Ids{mill_});
}

TEST_F(Finding, NarrowsByDaysAndContents) {
    Stroke stroke = test_stroke(10, 20);
    stroke.start_ms = 1'790'000'000'000;
    Edit edit{"Write", {{stroke}}};
    ASSERT_TRUE(library_->commit(rime_, edit));
    const auto query = parse_query("day:today", stroke.start_ms);
    ASSERT_EQ(library_->find(*query)->size(), 1U);
    EXPECT_EQ(library_->find(*query)->at(0).page, rime_);
    EXPECT_TRUE(library_->find(*parse_query("day:yesterday", stroke.start_ms))->empty());
    Reading sums = sure_reading({"3+4"});
    sums.lines[0].kind = RegionKind::math;
    ASSERT_TRUE(library_->save_reading(frost_, sums));
    EXPECT_EQ(found("has:math"), Ids{frost_});
    EXPECT_TRUE(found("has:table").empty());
    EXPECT_TRUE(found("has:sound").empty());
    EXPECT_TRUE(found("has:picture").empty());
    Reading todo = sure_reading({kOpenBox, "prune"});
    ASSERT_TRUE(library_->save_reading(mill_, todo));
    EXPECT_EQ(found("has:todo"), Ids{mill_});
}

TEST_F(Finding, NearMissesComeLast) {
    const PageId slip = page(1, {"forst"});
    EXPECT_EQ(found("frost"), (Ids{frost_, mill_, slip}));
    EXPECT_EQ(found("forst").front(), slip);
    EXPECT_EQ(found("\"frost\""), (Ids{frost_, mill_}));
    EXPECT_EQ(found("frst"), (Ids{frost_, mill_, slip}));
    EXPECT_EQ(found("alarn"), Ids{frost_});
    EXPECT_TRUE(found("ron").empty()) << "short words are not guessed at";
}

TEST_F(Finding, TheLimitKeepsTheBest) {
    page(1, {"forst"});
    EXPECT_EQ(found("frost", 1), Ids{frost_});
    EXPECT_EQ(found("notebook:p OR notebook:f", 2).size(), 2U);
}

}  // namespace
}  // namespace fernleaf
