// The history of a page in the real window.
#include <QSignalSpy>

#include "pages/history_dialog.h"
#include "wait_until.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class HistoryInWindow : public Window {
protected:
    void start() {
        start_with_page();
        take(Tool::pen);
        mouse_stroke({{20, 40}, {40, 40}, {40, 60}});
        mouse_stroke({{60, 40}, {80, 40}, {80, 60}});
        mouse_stroke({{100, 40}, {120, 40}, {120, 60}});
        session_->wait_idle();
        ASSERT_EQ(session_->page()->strokes.size(), 3U);
    }
    std::unique_ptr<HistoryDialog> dialog() {
        auto out = std::make_unique<HistoryDialog>(*session_);
        out->show();
        session_->wait_idle();
        EXPECT_TRUE(wait_until([&] { return out->strip()->maximum() > 0; }));
        return out;
    }
};

TEST_F(HistoryInWindow, AnEarlierStateIsSeenAndRestored) {
    ASSERT_NO_FATAL_FAILURE(start());
    const auto history = dialog();
    EXPECT_EQ(history->strip()->maximum(), 3);
    EXPECT_EQ(history->strip()->value(), 3);
    EXPECT_EQ(history->sittings()->count(), 1);
    EXPECT_FALSE(history->restore_button()->isEnabled()) << "it is so now";
    WAIT_UNTIL(!history->picture()->pixmap().isNull());
    const QImage now = history->picture()->pixmap().toImage();
    history->strip()->setValue(1);
    WAIT_UNTIL(history->picture()->pixmap().toImage() != now);
    ASSERT_TRUE(history->restore_button()->isEnabled());
    QTest::mouseClick(history->restore_button(), Qt::LeftButton);
    session_->wait_idle();
    WAIT_UNTIL(session_->page()->strokes.size() == 1);
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(session_->page()->strokes.size(), 3U);
}

TEST_F(HistoryInWindow, AnEarlierStateGetsAPageOfItsOwn) {
    ASSERT_NO_FATAL_FAILURE(start());
    const PageId page = session_->page()->info.id;
    const auto history = dialog();
    history->strip()->setValue(2);
    QSignalSpy added(&session_->history(), &HistoryDesk::page_added);
    QTest::mouseClick(history->copy_button(), Qt::LeftButton);
    WAIT_UNTIL(added.count() == 1);
    session_->wait_idle();
    EXPECT_EQ(session_->page()->info.number, 2);
    EXPECT_EQ(session_->page()->strokes.size(), 2U);
    EXPECT_EQ(session_->library().load_page(page)->strokes.size(), 3U);
}

TEST_F(HistoryInWindow, OfABlankPageSaysSo) {
    start_with_page();
    HistoryDialog history(*session_);
    history.show();
    session_->wait_idle();
    EXPECT_FALSE(history.strip()->isEnabled());
    EXPECT_FALSE(history.restore_button()->isEnabled());
    EXPECT_FALSE(history.copy_button()->isEnabled());
}

}  // namespace
}  // namespace fernleaf
