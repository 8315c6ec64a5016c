#include <gtest/gtest.h>

#include "store/temporary_library.h"

namespace fernleaf {
namespace {

class Intake : public testing::Test {
protected:
    void SetUp() override {
        file_ = *library_->add_file("a photograph");
        Notebook notebook;
        notebook.title = "Press house";
        notebook_ = *library_->add_notebook(notebook);
    }
    IntakeEntry entry(const std::string& name) const {
        IntakeEntry out;
        out.file = file_, out.name = name, out.width_mm = 210, out.height_mm = 297;
        return out;
    }
    std::vector<std::string> names() {
        std::vector<std::string> out;
        for (const IntakeEntry& e : *library_->intake()) out.push_back(e.name);
        return out;
    }

    TemporaryLibrary library_;
    std::string file_;
    NotebookId notebook_ = 0;
};

Treatment some_treatment() {
    Treatment out;
    out.outline = SheetOutline{{{{10, 20}, {300, 25}, {310, 400}, {5, 390}}}, {{{0.02, 0.01}, {}, {}, {}}}};
    out.quarter_turns = 1, out.turn_deg = -2.5, out.aspect = 0.7071, out.look = Look::clean, out.without_rules = true;
    return out;
}

TEST_F(Intake, KeepsWhatWaitsAcrossARestart) {
    std::vector<IntakeEntry> entries{entry("shed.jpg"), entry("notes.jpg")};
    ASSERT_TRUE(library_->add_to_intake(entries));
    entries[0].treatment = some_treatment();
    entries[0].looked_at = entries[0].faults.blurred = entries[0].faults.no_sheet = true;
    entries[0].width_mm = 148, entries[0].height_mm = 210;
    ASSERT_TRUE(*library_->suggest_intake(entries[0]));
    entries[1].name = "Three notes";
    ASSERT_TRUE(library_->change_intake(entries[1]));
    library_.reopen();
    EXPECT_EQ(*library_->intake(), entries);
}

TEST_F(Intake, EntriesAreSetAfterAnotherAndIntoAnyOrder) {
    std::vector<IntakeEntry> first{entry("a"), entry("b")}, more{entry("a2"), entry("a3")};
    ASSERT_TRUE(library_->add_to_intake(first));
    ASSERT_TRUE(library_->add_to_intake(more, first[0].id));
    EXPECT_EQ(names(), (std::vector<std::string>{"a", "a2", "a3", "b"}));
    ASSERT_TRUE(library_->order_intake({first[1].id, more[0].id}));
    EXPECT_EQ(names(), (std::vector<std::string>{"b", "a2", "a", "a3"}));
    ASSERT_TRUE(library_->discard_intake({more[0].id, 12345}));
    EXPECT_EQ(names(), (std::vector<std::string>{"b", "a", "a3"}));
}

TEST_F(Intake, FilingMakesPagesWithWhatIsDoneToThem) {
    std::vector<IntakeEntry> entries{entry("a"), entry("b"), entry("c")};
    entries[1].treatment = some_treatment();
    ASSERT_TRUE(library_->add_to_intake(entries));
    const auto pages = library_->file_intake({entries[1].id, entries[0].id}, notebook_);
    ASSERT_TRUE(pages);
    ASSERT_EQ(pages->size(), 2U);
    const Page page = *library_->load_page((*pages)[0]);
    ASSERT_EQ(page.pictures.size(), 1U);
    EXPECT_EQ(page.pictures[0].treatment, some_treatment());
    EXPECT_EQ(page.pictures[0].file, file_);
    EXPECT_EQ(page.info.width_mm, 210);
    EXPECT_EQ(names(), std::vector<std::string>{"c"});
    EXPECT_TRUE(library_->file_intake({entries[0].id}, notebook_)->empty()) << "not twice";
    EXPECT_TRUE(library_->check()->empty());
}

TEST_F(Intake, WhatWaitsKeepsItsFileWhenTheBinIsEmptied) {
    std::vector<IntakeEntry> entries{entry("a")};
    ASSERT_TRUE(library_->add_to_intake(entries));
    ASSERT_TRUE(library_->empty_bin());
    EXPECT_TRUE(library_->file(file_));
    ASSERT_TRUE(library_->discard_intake({entries[0].id}));
    ASSERT_TRUE(library_->empty_bin());
    EXPECT_FALSE(library_->file(file_));
}

TEST_F(Intake, WhatIsFoundNeverOverridesWhatAPersonSaidMeanwhile) {
    std::vector<IntakeEntry> entries{entry("a"), entry("b")};
    ASSERT_TRUE(library_->add_to_intake(entries));
    IntakeEntry named = entries[0], found = entries[0];
    named.name = "Shed wall";
    ASSERT_TRUE(library_->change_intake(named));
    found.treatment = some_treatment(), found.looked_at = true, found.faults.glare = true;
    ASSERT_TRUE(*library_->suggest_intake(found));
    EXPECT_EQ(library_->intake()->at(0).name, "Shed wall");
    EXPECT_EQ(library_->intake()->at(0).treatment, some_treatment());
    EXPECT_FALSE(*library_->suggest_intake(found)) << "once";
    // Turned by hand while the page was worked out for how it lay before.
    IntakeEntry turned = library_->intake()->at(0);
    turned.treatment.quarter_turns = 3;
    ASSERT_TRUE(library_->change_intake(turned));
    found.width_mm = 500, found.faults.glare = false;
    ASSERT_TRUE(library_->judge_intake(found));
    EXPECT_EQ(library_->intake()->at(0).width_mm, 210) << "that is not how it lies now";
    turned.width_mm = 297, turned.faults.glare = false;
    ASSERT_TRUE(library_->judge_intake(turned));
    EXPECT_EQ(library_->intake()->at(0), turned);
    // Discarded while it was looked at.
    ASSERT_TRUE(library_->discard_intake({entries[1].id}));
    entries[1].looked_at = true;
    EXPECT_FALSE(*library_->suggest_intake(entries[1]));
    EXPECT_EQ(names(), std::vector<std::string>{"Shed wall"});
}

TEST_F(Intake, AnOutlineThatIsNoneIsRefused) {
    std::vector<IntakeEntry> entries{entry("a")};
    ASSERT_TRUE(library_->add_to_intake(entries));
    IntakeEntry twisted = entries[0];
    twisted.treatment.outline = SheetOutline{{{{0, 0}, {10, 10}, {10, 0}, {0, 10}}}, {}};
    EXPECT_FALSE(library_->change_intake(twisted));
    EXPECT_EQ(*library_->intake(), entries);
}

}  // namespace
}  // namespace fernleaf
