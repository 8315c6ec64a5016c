// The dialog that says how a notebook is read, driven as a person would.
#include "window/reading_dialog.h"

#include <gtest/gtest.h>

#include <QSignalSpy>
#include <QTest>

#include "look/theme.h"
#include "paper/examples.h"
#include "reading/models_directory.h"
#include "store/temporary_library.h"

namespace fernleaf {
namespace {

class HowToRead : public testing::Test {
protected:
    void SetUp() override {
        use_theme(Theme::light());
        Notebook notebook;
        notebook.title = "Saatgut";
        notebook_ = *library_->add_notebook(notebook);
        page_ = *library_->add_page(notebook_, {});
        session_ = std::make_unique<Session>(std::move(library_.library), models_directory());
        session_->open_page(page_);
        session_->wait_idle();
        open();
    }
    void open() {
        dialog_ = std::make_unique<ReadingDialog>(*session_);
        dialog_->show();
        session_->wait_idle();
    }
    void TearDown() override {
        dialog_.reset();
        session_.reset();
    }
    QListWidgetItem* item(const char* code) {
        for (int i = 0; i < dialog_->languages()->count(); ++i)
            if (dialog_->languages()->item(i)->data(Qt::UserRole).toString() == code)
                return dialog_->languages()->item(i);
        return nullptr;
    }
    Notebook notebook() { return *session_->library().notebook(notebook_); }

    TemporaryLibrary library_;
    NotebookId notebook_ = 0;
    PageId page_ = 0;
    std::unique_ptr<Session> session_;
    std::unique_ptr<ReadingDialog> dialog_;
};

TEST_F(HowToRead, OffersEveryLanguageThatIsReadyByItsName) {
    EXPECT_EQ(dialog_->languages()->count(), 29);
    ASSERT_TRUE(item("cs"));
    EXPECT_EQ(item("cs")->text(), "Czech");
    EXPECT_EQ(item("no")->text(), "Norwegian");
    EXPECT_EQ(item("en")->checkState(), Qt::Checked);
    EXPECT_EQ(item("de")->checkState(), Qt::Unchecked);
}

TEST_F(HowToRead, WhatIsChosenIsKeptAndUsed) {
    item("de")->setCheckState(Qt::Checked);
    dialog_->language_weight()->setValue(2);
    dialog_->notebook_words()->setPlainText("Pfropfreis\n\nPfropfreis\n  Unterlage ");
    dialog_->persons_words()->setPlainText("Mirela");
    dialog_->accept();
    session_->wait_idle();
    EXPECT_EQ(notebook().languages, (std::vector<std::string>{"en", "de"}));
    EXPECT_EQ(notebook().language_weight, 0.2);
    EXPECT_EQ(session_->document().notebook().language_weight, 0.2);
    EXPECT_EQ(session_->library().preferences(notebook_)->words,
              (std::vector<std::string>{"Mirela", "Pfropfreis", "Unterlage"}));
    open();
    EXPECT_EQ(dialog_->notebook_words()->toPlainText(), "Pfropfreis\nUnterlage");
    EXPECT_EQ(item("de")->checkState(), Qt::Checked);
}

TEST_F(HowToRead, CancelChangesNothing) {
    item("de")->setCheckState(Qt::Checked);
    dialog_->notebook_words()->setPlainText("Pfropfreis");
    QTest::keyClick(dialog_.get(), Qt::Key_Escape);
    session_->wait_idle();
    EXPECT_EQ(notebook().languages, (std::vector<std::string>{"en"}));
    EXPECT_TRUE(session_->library().words(notebook_)->empty());
}

TEST_F(HowToRead, FourLanguagesAreTheMost) {
    for (const char* code : {"de", "fr", "cs"}) item(code)->setCheckState(Qt::Checked);
    item("pl")->setCheckState(Qt::Checked);
    EXPECT_EQ(item("pl")->checkState(), Qt::Unchecked);
    EXPECT_EQ(item("cs")->checkState(), Qt::Checked);
}

TEST_F(HowToRead, WordsThatAreNoWordsAreRefused) {
    QSignalSpy problems(&session_->messages(), &Messages::problem);
    dialog_->notebook_words()->setPlainText("two words");
    dialog_->accept();
    session_->wait_idle();
    ASSERT_EQ(problems.count(), 1);
    EXPECT_TRUE(problems[0][0].toString().contains("one word a line"));
    EXPECT_TRUE(session_->library().words(notebook_)->empty());
}

TEST_F(HowToRead, ANotebookMayBeInAnotherHand) {
    session_->teaching().add_hand("Tobias");
    session_->wait_idle();
    ASSERT_EQ(dialog_->hand()->count(), 2);
    EXPECT_EQ(dialog_->hand()->itemText(0), "My hand");
    EXPECT_EQ(dialog_->hand()->currentText(), "Tobias");  // just made: chosen
    EXPECT_TRUE(dialog_->hand_state()->text().startsWith("Not learnt yet"));
    EXPECT_FALSE(dialog_->forget()->isEnabled());
    dialog_->accept();
    session_->wait_idle();
    EXPECT_EQ(notebook().hand, 2);
}

TEST_F(HowToRead, APageWithoutTheLinesTeachesNothing) {
    QSignalSpy problems(&session_->messages(), &Messages::problem);
    QTest::mouseClick(dialog_->learn_page(), Qt::LeftButton);
    session_->wait_idle();
    ASSERT_EQ(problems.count(), 1);
    EXPECT_TRUE(problems[0][0].toString().contains("weren't found"));
    EXPECT_EQ(session_->library().hands()->front().examples, 0U);
}

TEST_F(HowToRead, WordListsAreTextWithOneWordALine) {
    EXPECT_EQ(words_of(" pear \n\nquince\r\npear"), (QStringList{"pear", "quince"}));
    EXPECT_TRUE(words_of("").isEmpty());
}

TEST_F(HowToRead, TellsHowFormulasAreWorkedOut) {
    EXPECT_EQ(dialog_->digits()->value(), 6);
    EXPECT_TRUE(dialog_->decimals()->isChecked());
    EXPECT_FALSE(dialog_->earlier_values()->isChecked());
    dialog_->angle()->setCurrentIndex(dialog_->angle()->findText("Degrees"));
    dialog_->digits()->setValue(4);
    dialog_->decimals()->setChecked(false);
    dialog_->earlier_values()->setChecked(true);
    dialog_->accept();
    session_->wait_idle();
    EXPECT_EQ(notebook().working, (WorkingManner{AngleUnit::degree, 4, true, true}));
    open();
    EXPECT_EQ(dialog_->angle()->currentText(), "Degrees");
    EXPECT_EQ(dialog_->digits()->value(), 4);
    EXPECT_TRUE(dialog_->earlier_values()->isChecked());
}

}  // namespace
}  // namespace fernleaf
