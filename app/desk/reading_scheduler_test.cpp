#include "desk/reading_scheduler.h"

#include "desk/parts_fixture.h"
#include "ink/test_stroke.h"

namespace fernleaf {
namespace {

class Scheduler : public Parts {
protected:
    ReadingScheduler& readings() { return session_->readings(); }
    void write_hill(double x = 20, double y = 60) {
        const auto stroke = [&](const std::vector<Point>& corners) {
            std::vector<Point> there;
            for (const Point p : corners) there.push_back(p + Point{x, y});
            session_->editing().write(stroke_along(0, there));
        };
        stroke({{0, -6}, {0, 0}}), stroke({{3.6, -6}, {3.6, 0}}), stroke({{0, -3}, {3.6, -3}});
        stroke({{6.3, -6}, {6.3, 0}});
        stroke({{9, -6}, {9, 0}, {12, 0}});
        stroke({{14.1, -6}, {14.1, 0}, {17.1, 0}});
    }
    std::string read() { return readings().reading().lines.empty() ? "" : readings().reading().lines[0].text(); }
    std::string kept_reading(size_t page = 0) {
        const auto reading = session_->library().reading(ids_[page]);
        return reading->lines.empty() ? "" : reading->lines[0].text();
    }
};

TEST_F(Scheduler, ReadsWhatIsWrittenAndKeepsIt) {
    start();
    QSignalSpy changed(&readings(), &ReadingScheduler::changed);
    write_hill();
    session_->wait_idle();
    EXPECT_GE(changed.count(), 1);
    EXPECT_EQ(read(), "HILL");
    EXPECT_EQ(kept_reading(), "HILL");
    EXPECT_TRUE(session_->library().unread()->empty());
}

TEST_F(Scheduler, PausedItReadsOnRequestOnly) {
    start();
    readings().set_mode(ReadingMode::paused);
    write_hill();
    session_->wait_idle();
    EXPECT_EQ(read(), "");
    readings().read_now();
    session_->wait_idle();
    EXPECT_EQ(read(), "HILL");
}

TEST_F(Scheduler, APageThatIsLeftIsReadWhenNobodyLooks) {
    start(2);
    write_hill();
    session_->open_page(ids_[1]);
    session_->wait_idle();
    EXPECT_EQ(session_->page()->info.id, ids_[1]);
    EXPECT_EQ(kept_reading(0), "HILL");
    EXPECT_TRUE(session_->library().unread()->empty());
}

TEST_F(Scheduler, WhilePenIsDownOnlyTheOpenPageIsRead) {
    start(2);
    readings().set_mode(ReadingMode::paused);
    write_hill();
    session_->open_page(ids_[1]);
    session_->wait_idle();
    readings().set_pen_down(true);
    readings().set_mode(ReadingMode::on);
    readings().read_later({ids_[0]});
    QSignalSpy changed(&readings(), &ReadingScheduler::changed);
    write_hill();
    while (changed.isEmpty()) ASSERT_TRUE(changed.wait());
    EXPECT_EQ(kept_reading(0), "");
    readings().set_pen_down(false);
    session_->wait_idle();
    EXPECT_EQ(kept_reading(0), "HILL");
}

TEST_F(Scheduler, CorrectionsAreLaidOverEveryLaterReading) {
    start();
    write_hill();
    session_->wait_idle();
    session_->correcting().correct({0, 0}, "Hallow");
    EXPECT_EQ(read(), "Hallow");
    readings().read_now();
    session_->wait_idle();
    EXPECT_EQ(read(), "Hallow");
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(read(), "HILL");
}

TEST_F(Scheduler, WithoutItsDataAllElseWorks) {
    start();
    session_.reset();
    library_.reopen();
    session_ = std::make_unique<Session>(std::move(library_.library), "/nowhere");
    QSignalSpy problems(&session_->messages(), &Messages::problem);
    session_->open_page(ids_[0]);
    session_->wait_idle();
    EXPECT_EQ(problems.count(), 1);
    write_hill();
    session_->wait_idle();
    EXPECT_FALSE(readings().can_read());
    EXPECT_EQ(kept().strokes.size(), 6U);
    session_->typesetting().set_in_type({});
    EXPECT_EQ(problems.count(), 2);
}

}  // namespace
}  // namespace fernleaf
