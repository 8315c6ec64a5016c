// What corrections teach, through the session that the window uses.
#include "desk/teaching_desk.h"

#include <gtest/gtest.h>

#include <QSignalSpy>
#include <QTest>
#include <fstream>

#include "desk/session.h"
#include "paper/examples.h"
#include "reading/models_directory.h"
#include "store/temporary_library.h"
#include "wait_until.h"

namespace fernleaf {
namespace {

class Taught : public testing::Test {
protected:
    void SetUp() override {
        Notebook notebook;
        notebook.title = "Grafting trials";
        notebook_ = *library_->add_notebook(notebook);
        page_ = *library_->add_page(notebook_, {});
        folder_ = library_.directory;
    }
    void start() {
        session_ = std::make_unique<Session>(std::move(library_.library), models_directory());
        session_->open_page(page_);
        session_->wait_idle();
    }
    void TearDown() override { session_.reset(); }

    // H I in strokes of 4 mm.
    void write_hi(double x, double y) {
        const auto bar = [&](Point a, Point b) {
            Stroke s;
            for (int k = 0; k <= 8; ++k) s.points.push_back({Point{x, y} + a + (b - a) * (k / 8.0)});
            session_->editing().write(s);
        };
        bar({0, -4}, {0, 0}), bar({2.4, -4}, {2.4, 0}), bar({0, -2}, {2.4, -2});
        bar({4.2, -4}, {4.2, 0});
    }
    // Examples no font has drawn: thin marks that differ from letter to letter.
    static std::vector<Example> examples(int count) {
        std::vector<Example> out;
        for (int i = 0; i < count; ++i) {
            const std::string text = "frost on the low orchard at " + std::to_string(10 + i);
            cv::Mat pixels = cv::Mat::zeros(40, 12 * static_cast<int>(text.size()) + 12, CV_8U);
            for (size_t k = 0; k < text.size(); ++k) {
                const int height = 4 + text[k] % 13;
                pixels(cv::Rect(8 + 12 * static_cast<int>(k), 28 - height, 2 + text[k] % 3, height)) = 255;
            }
            out.push_back({pixels, text});
        }
        return out;
    }
    HandInfo hand() { return session_->library().hands()->front(); }

    TemporaryLibrary library_;
    std::filesystem::path folder_;
    NotebookId notebook_ = 0;
    PageId page_ = 0;
    std::unique_ptr<Session> session_;
};

TEST_F(Taught, ACorrectionIsKeptAsAnExampleAndItsNameIsLearntAtOnce) {
    start();
    write_hi(30, 40);
    session_->wait_idle();
    ASSERT_TRUE(session_->word({0, 0}));
    session_->correcting().correct({0, 0}, "Okoro,");
    session_->wait_idle();
    EXPECT_EQ(*session_->library().words(notebook_), (std::vector<std::string>{"Okoro"}));
    const auto kept = *session_->library().examples(1);
    ASSERT_EQ(kept.size(), 1U);
    EXPECT_EQ(kept[0].text, "Okoro,");
    EXPECT_GT(kept[0].width, 10);
    EXPECT_EQ(session_->reading().lines[0].text(), "Okoro,");
}

TEST_F(Taught, AWordThatTheLanguageListsIsNotAddedToTheNotebooks) {
    start();
    write_hi(30, 40);
    session_->wait_idle();
    session_->correcting().correct({0, 0}, "hills");
    session_->wait_idle();
    EXPECT_TRUE(session_->library().words(notebook_)->empty());
    EXPECT_EQ(hand().examples, 1U);
}

TEST_F(Taught, TheHandIsLearntByItselfWhenEnoughExamplesHaveCome) {
    start();
    QSignalSpy notices(&session_->messages(), &Messages::notice);
    session_->teaching().keep(1, examples(4));
    session_->wait_idle();
    EXPECT_EQ(hand().learnt_from, 0U);
    session_->teaching().keep(1, examples(12));
    session_->wait_idle();
    EXPECT_EQ(hand().learnt_from, 16U);
    EXPECT_LT(hand().errors_after, hand().errors_before);
    EXPECT_FALSE(session_->library().taught_hand(1)->empty());
    ASSERT_GE(notices.count(), 1);
    EXPECT_TRUE(notices.last()[0].toString().contains("16 examples"));

    // Saved, forgotten, and brought back.
    const QString file = QString::fromStdString((folder_ / "my.fernhand").string());
    session_->teaching().save_hand_to(1, file);
    session_->teaching().reset(1);
    session_->wait_idle();
    EXPECT_TRUE(session_->library().taught_hand(1)->empty());
    EXPECT_EQ(hand().examples, 0U);
    session_->teaching().load_hand_from(1, file);
    session_->wait_idle();
    EXPECT_FALSE(session_->library().taught_hand(1)->empty());
}

TEST_F(Taught, TooLittleToLearnFromIsSaid) {
    start();
    QSignalSpy problems(&session_->messages(), &Messages::problem);
    session_->teaching().teach(1);
    session_->teaching().save_hand_to(1, QString::fromStdString((folder_ / "none").string()));
    std::ofstream(folder_ / "letter.txt") << "dear friend";
    session_->teaching().load_hand_from(1, QString::fromStdString((folder_ / "letter.txt").string()));
    session_->teaching().load_hand_from(1, QString::fromStdString((folder_ / "nowhere").string()));
    session_->wait_idle();
    ASSERT_EQ(problems.count(), 4);
    EXPECT_TRUE(problems[0][0].toString().contains("ten lines"));
    EXPECT_TRUE(problems[1][0].toString().contains("nothing to save"));
    EXPECT_TRUE(problems[2][0].toString().contains("letter.txt"));
    EXPECT_TRUE(problems[3][0].toString().contains("can't be read"));
}

TEST_F(Taught, PagesNobodyLooksAtWaitWhileThePenIsDown) {
    Edit written{"Write", {{test_stroke(20, 40), test_stroke(24, 40), test_stroke(28, 40)}}};
    const PageId other = *library_->add_page(notebook_, {});
    ASSERT_TRUE(library_->commit(other, written));
    start();
    session_->readings().set_pen_down(true);
    session_->readings().read_all_anew();
    // Only the open page is read, and saved; then the other's turn would come.
    const auto left = [&] { return *session_->library().unread(); };
    WAIT_UNTIL(left().size() == 2);
    WAIT_UNTIL(left() == std::vector{other});
    WAIT_UNTIL(!session_->readings().in_progress());
    EXPECT_EQ(left(), std::vector{other});
    session_->readings().set_pen_down(false);
    WAIT_UNTIL(left().empty());
}

}  // namespace
}  // namespace fernleaf
