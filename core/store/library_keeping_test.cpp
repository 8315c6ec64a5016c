#include <gtest/gtest.h>

#include "store/temporary_library.h"

namespace fernleaf {
namespace {

class Keeping : public testing::Test {
protected:
    Keeping() {
        for (const char* title : {"Frost watch", "Press house", "Walks"}) {
            Notebook n;
            n.title = title;
            notebooks_.push_back(*library_->add_notebook(n));
            pages_.push_back(*library_->add_page(notebooks_.back(), {}));
        }
    }
    TagId tag(const std::string& name) { return library_->tags_named({name})->at(0); }
    std::vector<std::string> names(const Result<std::vector<Tag>>& tags) {
        std::vector<std::string> out;
        for (const Tag& t : *tags) out.push_back(t.name);
        return out;
    }
    std::vector<std::string> titles() {
        std::vector<std::string> out;
        for (const Notebook& n : *library_->notebooks()) out.push_back(n.title);
        return out;
    }
    using Names = std::vector<std::string>;

    TemporaryLibrary library_;
    std::vector<NotebookId> notebooks_;
    std::vector<PageId> pages_;
};

TEST_F(Keeping, TagsAreOneWhateverTheirCaseAndAccents) {
    const TagId frost = tag("Frost");
    EXPECT_EQ(frost, tag("fröst"));
    EXPECT_NE(tag("Frost"), tag("rime"));
    EXPECT_EQ(names(library_->tags()), (Names{"Frost", "rime"}));
    EXPECT_NE(library_->tags()->at(0).colour, library_->tags()->at(1).colour);
    EXPECT_FALSE(library_->tags_named({"rime, frost"}));
    EXPECT_FALSE(library_->tags_named({"?"}));
}

TEST_F(Keeping, WhatWasTaggedAnewIsTakenBack) {
    const TagId frost = tag("frost");
    ASSERT_TRUE(library_->set_tags({{frost, pages_[0]}}, true));
    const auto changed = library_->set_tags({{frost, pages_[0]}, {frost, pages_[1]}, {frost, 0, notebooks_[2]}}, true);
    ASSERT_TRUE(changed);
    EXPECT_EQ(*changed, (std::vector<TagMark>{{frost, pages_[1]}, {frost, 0, notebooks_[2]}}));
    EXPECT_EQ(library_->tags()->at(0).pages, 3U);
    EXPECT_EQ(names(library_->tags_of_notebook(notebooks_[2])), Names{"frost"});
    ASSERT_TRUE(library_->set_tags(*changed, false));
    EXPECT_EQ(names(library_->tags_of(pages_[0])), Names{"frost"});
    EXPECT_TRUE(library_->tags_of(pages_[1])->empty());
    EXPECT_FALSE(library_->set_tags({{frost, 4711}}, true)) << "a page that is not there";
    EXPECT_TRUE(library_->check()->empty());
}

TEST_F(Keeping, ATagRenamedAsAnotherBecomesThatOne) {
    const TagId frost = tag("frost"), cold = tag("cold");
    ASSERT_TRUE(library_->set_tags({{frost, pages_[0]}, {cold, pages_[0]}, {cold, pages_[1]}}, true));
    EXPECT_EQ(*library_->rename_tag(cold, "Cold air"), cold);
    EXPECT_EQ(*library_->rename_tag(cold, "FROST"), frost);
    EXPECT_EQ(names(library_->tags()), Names{"frost"});
    EXPECT_EQ(library_->tags()->at(0).pages, 2U);
    EXPECT_FALSE(library_->rename_tag(cold, "gone"));
    EXPECT_TRUE(library_->check()->empty());
}

TEST_F(Keeping, TagsGoWithCopiesAndEndWithThePage) {
    const TagId frost = tag("frost");
    ASSERT_TRUE(library_->set_tags({{frost, pages_[0]}}, true));
    const PageId copy = *library_->copy_page(pages_[0], notebooks_[1], 1);
    EXPECT_EQ(names(library_->tags_of(copy)), Names{"frost"});
    ASSERT_TRUE(library_->bin_page(copy));
    EXPECT_EQ(library_->tags()->at(0).pages, 1U) << "without the bin";
    ASSERT_TRUE(library_->empty_bin());
    ASSERT_TRUE(library_->remove_tag(frost));
    EXPECT_TRUE(library_->tags_of(pages_[0])->empty());
    EXPECT_TRUE(library_->check()->empty());
}

TEST_F(Keeping, NotebooksStandInThePersonsOrder) {
    ASSERT_TRUE(library_->place_notebook(notebooks_[2], kNoFolder, 0));
    EXPECT_EQ(titles(), (Names{"Walks", "Frost watch", "Press house"}));
    ASSERT_TRUE(library_->place_notebook(notebooks_[2], kNoFolder, 99));
    EXPECT_EQ(titles(), (Names{"Frost watch", "Press house", "Walks"}));
    EXPECT_FALSE(library_->place_notebook(notebooks_[2], 4711, 0));
}

TEST_F(Keeping, FoldersHoldFoldersButNotThemselves) {
    const FolderId hill = *library_->add_folder("Hallow Hill", kNoFolder);
    const FolderId weather = *library_->add_folder(" Weather ", hill);
    EXPECT_EQ(*library_->folders(), (std::vector<Folder>{{hill, "Hallow Hill"}, {weather, "Weather", hill}}));
    EXPECT_FALSE(library_->place_folder(hill, weather, 0));
    EXPECT_FALSE(library_->place_folder(hill, hill, 0));
    EXPECT_FALSE(library_->add_folder("  ", kNoFolder));
    EXPECT_FALSE(library_->add_folder("Lost", 4711));
    ASSERT_TRUE(library_->place_notebook(notebooks_[0], weather, 0));
    ASSERT_TRUE(library_->remove_folder(weather));
    EXPECT_EQ(library_->notebook(notebooks_[0])->folder, hill) << "what was in it goes to where it was";
    ASSERT_TRUE(library_->remove_folder(hill));
    EXPECT_EQ(library_->notebook(notebooks_[0])->folder, kNoFolder);
    EXPECT_EQ(titles().size(), 3U);
}

TEST_F(Keeping, FoldersAreNotNestedForEver) {
    FolderId deep = kNoFolder;
    size_t made = 0;
    for (; made < 100; ++made) {
        const auto next = library_->add_folder("Deeper", deep);
        if (!next) break;
        deep = *next;
    }
    EXPECT_EQ(made, 32U);
}

TEST_F(Keeping, AnArchivedNotebookIsReadOnlyAndStillFound) {
    ASSERT_TRUE(library_->save_reading(pages_[0], sure_reading({"frost"})));
    ASSERT_TRUE(library_->archive_notebook(notebooks_[0], true));
    EXPECT_TRUE(library_->notebook(notebooks_[0])->archived);
    Edit edit{"Write", {{test_stroke(10, 20)}}};
    EXPECT_FALSE(library_->commit(pages_[0], edit));
    EXPECT_FALSE(library_->undo(pages_[0]));
    EXPECT_FALSE(library_->add_page(notebooks_[0], {}));
    EXPECT_FALSE(library_->move_page(pages_[0], notebooks_[1], 1));
    EXPECT_FALSE(library_->move_page(pages_[1], notebooks_[0], 1));
    EXPECT_FALSE(library_->copy_page(pages_[1], notebooks_[0], 1));
    EXPECT_FALSE(library_->bin_page(pages_[0]));
    EXPECT_TRUE(library_->copy_page(pages_[0], notebooks_[1], 1)) << "out of it";
    EXPECT_EQ(library_->find(*parse_query("frost"))->size(), 1U);
    ASSERT_TRUE(library_->archive_notebook(notebooks_[0], false));
    EXPECT_TRUE(library_->commit(pages_[0], edit));
}

TEST_F(Keeping, PagesHaveTitlesAndFavouritesInTheListOfPlaces) {
    ASSERT_TRUE(library_->save_reading(pages_[0], sure_reading({"frost", "alarm"})));
    ASSERT_TRUE(library_->name_page(pages_[1], " Pressing day "));
    ASSERT_TRUE(library_->favour_page(pages_[1], true));
    const auto places = library_->places();
    ASSERT_EQ(places->size(), 3U);
    EXPECT_EQ(places->at(0).title, "frost alarm");
    EXPECT_EQ(places->at(1).title, "Pressing day");
    EXPECT_TRUE(places->at(1).favourite);
    EXPECT_EQ(places->at(2).title, "");
    EXPECT_EQ(library_->pages(notebooks_[1])->at(0).title, "Pressing day");
    const PageId copy = *library_->copy_page(pages_[1], notebooks_[0], 1);
    EXPECT_EQ(library_->load_page(copy)->info.title, "Pressing day");
}

TEST_F(Keeping, BoxesToTickAreGathered) {
    ASSERT_TRUE(library_->save_reading(pages_[0], sure_reading({kOpenBox, "prune", "pears"})));
    ASSERT_TRUE(library_->save_reading(pages_[1], sure_reading({kTickedBox, "order", "wax"})));
    ASSERT_TRUE(library_->save_reading(pages_[2], sure_reading({"no", "box"})));
    ASSERT_EQ(library_->todos(false)->size(), 1U);
    EXPECT_EQ(library_->todos(false)->at(0).line.text(), std::string(kOpenBox) + " prune pears");
    const auto all = library_->todos(true);
    ASSERT_EQ(all->size(), 2U);
    EXPECT_EQ(all->at(1).line.ticked, true);
    EXPECT_EQ(all->at(1).notebook_title, "Press house");
    ASSERT_TRUE(library_->bin_page(pages_[0]));
    EXPECT_TRUE(library_->todos(false)->empty());
}

TEST_F(Keeping, WhatWasKeptIsThereAfterRepair) {
    ASSERT_TRUE(library_->set_tags({{tag("frost"), pages_[0]}}, true));
    const FolderId hill = *library_->add_folder("Hallow Hill", kNoFolder);
    ASSERT_TRUE(library_->place_notebook(notebooks_[0], hill, 0));
    library_.library.reset();
    ASSERT_TRUE(Library::repair(library_.directory));
    library_.reopen();
    EXPECT_EQ(names(library_->tags_of(pages_[0])), Names{"frost"});
    EXPECT_EQ(library_->notebook(notebooks_[0])->folder, hill);
    EXPECT_EQ(library_->folders()->size(), 1U);
}

TEST(Cards, LeadToPagesThatTellWhoLeadsThere) {
    TemporaryLibrary library;
    const PageId from = library.page("Frost watch"), to = library.page("Press house"), other = library.page("Walks");
    const auto link = [&](PageId on, PageId target) {
        Card card;
        card.box = Box::of(20, 30, kCardWidthMm, kCardHeightMm);
        card.name = "a \"page\":" + std::to_string(to) + "}";  // a name that would deceive
        card.page = target;
        card.page_made_ms = library->load_page(target)->info.created_ms;
        Edit edit{"Insert a link"};
        edit.added.cards = {card};
        EXPECT_TRUE(library->commit(on, edit));
        return edit;
    };
    const Edit first = link(from, to);
    link(other, from);
    ASSERT_TRUE(library->linked_from(to));
    ASSERT_EQ(library->linked_from(to)->size(), 1U);
    EXPECT_EQ(library->linked_from(to)->at(0).page, from);
    EXPECT_EQ(library->linked_from(from)->at(0).page, other);
    EXPECT_TRUE(library->linked_from(other)->empty());
    // A card taken away leads nowhere; nor does one in the bin.
    ASSERT_TRUE(library->undo(from));
    EXPECT_TRUE(library->linked_from(to)->empty());
    ASSERT_TRUE(library->redo(from));
    EXPECT_EQ(library->linked_from(to)->size(), 1U);
    ASSERT_TRUE(library->bin_page(from));
    EXPECT_TRUE(library->linked_from(to)->empty());
}

TEST(Cards, KeepTheirFiles) {
    TemporaryLibrary library;
    const PageId page = library.page();
    Card card;
    card.box = Box::of(20, 30, kCardWidthMm, kCardHeightMm);
    card.name = "report.pdf";
    card.file = *library->add_file("the report");
    card.bytes = 10;
    Edit edit{"Attach a file"};
    edit.added.cards = {card};
    ASSERT_TRUE(library->commit(page, edit));
    ASSERT_TRUE(library->empty_bin());
    EXPECT_EQ(*library->file(card.file), "the report");
    EXPECT_TRUE(library->check()->empty());
    const auto copied = library->copy_page(page, library->load_page(page)->info.notebook, 2);
    ASSERT_TRUE(copied);
    EXPECT_EQ(library->load_page(*copied)->cards.at(0).file, card.file);
}

}  // namespace
}  // namespace fernleaf
