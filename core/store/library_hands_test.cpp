// Word lists and hands in the library.
#include <gtest/gtest.h>

#include "store/temporary_library.h"

namespace fernleaf {
namespace {

using Words = std::vector<std::string>;

class LibraryHands : public testing::Test {
protected:
    NotebookId notebook() {
        Notebook n;
        n.title = "Grafting trials";
        return *library_->add_notebook(n);
    }
    TemporaryLibrary library_;
};

TEST_F(LibraryHands, WordListsAreKeptApartAndInOrder) {
    const NotebookId id = notebook();
    EXPECT_TRUE(library_->set_words(id, {"Varga", "scion", "scion"}));
    EXPECT_TRUE(library_->add_word(kPersonsWords, "Mirela"));
    EXPECT_TRUE(library_->add_word(kPersonsWords, "Mirela"));
    EXPECT_EQ(*library_->words(id), (Words{"Varga", "scion"}));
    EXPECT_EQ(*library_->words(kPersonsWords), (Words{"Mirela"}));
    library_.reopen();
    EXPECT_EQ(library_->preferences(id)->words, (Words{"Mirela", "Varga", "scion"}));
    EXPECT_TRUE(library_->set_words(id, {}));
    EXPECT_TRUE(library_->words(id)->empty());
}

TEST_F(LibraryHands, WhatIsNoWordChangesNothing) {
    const NotebookId id = notebook();
    ASSERT_TRUE(library_->set_words(id, {"scion"}));
    EXPECT_FALSE(library_->set_words(id, {"pear", "two words"}));
    EXPECT_FALSE(library_->set_words(id, {""}));
    EXPECT_FALSE(library_->add_word(id, "\xFF"));
    EXPECT_FALSE(library_->add_word(id, std::string(300, 'a')));
    EXPECT_EQ(*library_->words(id), (Words{"scion"}));
}

TEST_F(LibraryHands, EveryLibraryBeginsWithOneHand) {
    const auto hands = library_->hands();
    ASSERT_TRUE(hands);
    ASSERT_EQ(hands->size(), 1U);
    EXPECT_EQ(hands->front().id, 1);
    EXPECT_EQ(hands->front().examples, 0U);
    EXPECT_EQ(library_->notebook(notebook())->hand, 1);
}

TEST_F(LibraryHands, ExamplesAndWhatWasLearntSurvive) {
    const HandId hand = *library_->add_hand("Tobias");
    ASSERT_TRUE(
        library_->add_examples(hand, {{3, std::string(120, '\x7F'), "frost"}, {1, std::string(40, '\0'), "a"}}));
    ASSERT_TRUE(library_->save_hand({hand, "Tobias", 2, 2, 20.5, 10.25}, std::string("\0learnt\xFF", 8)));
    library_.reopen();
    const auto hands = *library_->hands();
    ASSERT_EQ(hands.size(), 2U);
    EXPECT_EQ(hands[1].name, "Tobias");
    EXPECT_EQ(hands[1].examples, 2U);
    EXPECT_EQ(hands[1].learnt_from, 2U);
    EXPECT_EQ(hands[1].errors_after, 10.25);
    EXPECT_EQ(library_->taught_hand(hand)->size(), 8U);
    const auto examples = *library_->examples(hand);
    ASSERT_EQ(examples.size(), 2U);
    EXPECT_EQ(examples[0].text, "frost");
    EXPECT_EQ(examples[0].pixels, std::string(120, '\x7F'));

    Notebook n = *library_->notebook(notebook());
    n.hand = hand, n.language_weight = 0.2, n.languages = {"de", "en"};
    ASSERT_TRUE(library_->change_notebook(n));
    const auto preferences = *library_->preferences(n.id);
    EXPECT_EQ(preferences.hand.size(), 8U);
    EXPECT_EQ(preferences.language_weight, 0.2);
    EXPECT_EQ(preferences.languages, (Words{"de", "en"}));

    ASSERT_TRUE(library_->reset_hand(hand));
    EXPECT_TRUE(library_->taught_hand(hand)->empty());
    EXPECT_TRUE(library_->examples(hand)->empty());
    EXPECT_TRUE(library_->check()->empty());
}

TEST_F(LibraryHands, DamagedExamplesAndNamelessHandsAreRefused) {
    EXPECT_FALSE(library_->add_examples(1, {{3, "short", "frost"}}));
    EXPECT_FALSE(library_->add_examples(1, {{1, std::string(40, 'x'), ""}}));
    EXPECT_FALSE(library_->add_examples(99, {{1, std::string(40, 'x'), "a"}}));  // no such hand
    EXPECT_TRUE(library_->examples(1)->empty());
    EXPECT_FALSE(library_->add_hand("  "));
    EXPECT_FALSE(library_->rename_hand(1, ""));
    EXPECT_TRUE(library_->rename_hand(1, "Ines"));
    EXPECT_EQ(library_->hands()->front().name, "Ines");
}

}  // namespace
}  // namespace fernleaf
