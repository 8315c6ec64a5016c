#include "exports/bundle_dialog.h"

#include <QSignalSpy>
#include <QTemporaryDir>

#include "wait_until.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class BundlesInWindow : public Window {};

TEST_F(BundlesInWindow, ThePassphraseIsTypedTwice) {
    start_with_page();
    BundleDialog dialog(*session_);
    dialog.show();
    QSignalSpy decided(&dialog, &BundleDialog::decided);
    EXPECT_FALSE(dialog.passphrase()->isEnabled());
    dialog.lock()->setChecked(true);
    EXPECT_TRUE(dialog.passphrase()->isEnabled());
    QTest::mouseClick(dialog.decide_button(), Qt::LeftButton);
    EXPECT_TRUE(dialog.problem()->isVisible()) << "none was typed";
    QTest::keyClicks(dialog.passphrase(), "frost");
    EXPECT_FALSE(dialog.problem()->isVisible());
    QTest::keyClicks(dialog.again(), "forst");
    QTest::mouseClick(dialog.decide_button(), Qt::LeftButton);
    EXPECT_TRUE(dialog.problem()->text().contains("differ"));
    EXPECT_EQ(decided.count(), 0);
    dialog.again()->setText("frost");
    QTest::mouseClick(dialog.decide_button(), Qt::LeftButton);
    ASSERT_EQ(decided.count(), 1);
    EXPECT_EQ(decided[0][0].toString(), "frost");
    EXPECT_FALSE(dialog.isVisible());
    BundleDialog open(*session_);
    open.show();
    QSignalSpy left_open(&open, &BundleDialog::decided);
    QTest::mouseClick(open.decide_button(), Qt::LeftButton);
    ASSERT_EQ(left_open.count(), 1);
    EXPECT_TRUE(left_open[0][0].toString().isEmpty());
}

TEST_F(BundlesInWindow, GoOutAndComeBackAsANotebook) {
    const QTemporaryDir folder;
    const QString path = folder.filePath("trials.fernleaf");
    start_with_page();
    write_hill(20, 40);
    session_->wait_idle();
    QSignalSpy notices(&session_->messages(), &Messages::notice), problems(&session_->messages(), &Messages::problem);
    session_->transfers().export_bundle(path, "frost");
    WAIT_UNTIL(notices.count() == 1);
    EXPECT_TRUE(notices[0][0].toString().startsWith("Exported"));
    // Without its passphrase it is asked for, and nothing is brought in.
    QObject::disconnect(&session_->transfers(), &Transfers::passphrase_wanted, window_.get(), nullptr);
    QSignalSpy wanted(&session_->transfers(), &Transfers::passphrase_wanted);
    session_->transfers().import_files({path}, {});
    WAIT_UNTIL(wanted.count() == 1);
    EXPECT_EQ(wanted[0][0].toString(), path);
    session_->wait_idle();
    EXPECT_EQ(session_->library().notebooks()->size(), 1U);
    session_->transfers().import_files({path}, {}, "forst");
    WAIT_UNTIL(problems.count() == 1);
    EXPECT_TRUE(problems[0][0].toString().contains("passphrase"));
    QSignalSpy imported(&session_->transfers(), &Transfers::imported);
    session_->transfers().import_files({path}, {}, "frost");
    WAIT_UNTIL(imported.count() == 1);
    session_->wait_idle();
    EXPECT_EQ(session_->library().notebooks()->size(), 2U);
    EXPECT_EQ(session_->page()->strokes.size(), 6U);
    EXPECT_NE(session_->page()->info.notebook, session_->library().notebooks()->front().id);
}

}  // namespace
}  // namespace fernleaf
