#include "desk/task_runner.h"

#include <gtest/gtest.h>

#include <QSignalSpy>
#include <stdexcept>

#include "wait_until.h"

namespace fernleaf {
namespace {

class Tasks : public testing::Test {
protected:
    Worker worker_{{}};
    Messages messages_;
    TaskRunner tasks_{worker_, messages_};
    QSignalSpy changed_{&tasks_, &TaskRunner::changed}, problems_{&messages_, &Messages::problem};
};

TEST_F(Tasks, RunOneAtATimeAndTellWhenTheyAreOver) {
    bool ran = false;
    tasks_.run("Importing", [&](const CancelToken&, const Progress&) { ran = true; });
    EXPECT_TRUE(tasks_.running());
    EXPECT_EQ(changed_[0][0].toString(), "Importing");
    tasks_.run("Exporting", [](const CancelToken&, const Progress&) { FAIL() << "another was under way"; });
    EXPECT_EQ(problems_.count(), 1);
    WAIT_UNTIL(!tasks_.running());
    EXPECT_TRUE(ran);
    EXPECT_EQ(changed_.last()[0].toString(), "");
}

TEST_F(Tasks, AreCancelledOnRequest) {
    tasks_.run("Importing", [](const CancelToken& cancel, const Progress&) {
        while (!cancel.cancelled()) std::this_thread::yield();
    });
    tasks_.cancel();
    WAIT_UNTIL(!tasks_.running());
    EXPECT_EQ(problems_.count(), 0);
}

TEST_F(Tasks, ThatThrowAreToldAndTheNextOneRuns) {
    tasks_.run("Importing", [](const CancelToken&, const Progress&) { throw std::runtime_error("a library's"); });
    WAIT_UNTIL(!tasks_.running());
    ASSERT_EQ(problems_.count(), 1);
    EXPECT_TRUE(problems_[0][0].toString().contains("a library's"));
    bool ran = false;
    tasks_.run("Exporting", [&](const CancelToken&, const Progress&) { ran = true; });
    WAIT_UNTIL(!tasks_.running());
    EXPECT_TRUE(ran);
}

TEST_F(Tasks, HideTheProgressOfQuietWork) {
    tasks_.show_quietly("Reading 3 pages", 0.5);
    EXPECT_EQ(changed_.count(), 1);
    tasks_.run("Importing", [](const CancelToken&, const Progress&) {});
    const auto shown = changed_.count();
    tasks_.show_quietly("Reading 2 pages", 0.6);
    EXPECT_EQ(changed_.count(), shown);
    WAIT_UNTIL(!tasks_.running());
}

}  // namespace
}  // namespace fernleaf
