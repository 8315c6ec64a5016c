// Mailing pages with the stand-in for a mail program.
#include <QFile>
#include <QSignalSpy>
#include <QTemporaryDir>

#include "document/errand.h"
#include "exports/mail_dialog.h"
#include "wait_until.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class Mail : public Window {
protected:
    void SetUp() override {
        Window::SetUp();
        qputenv("FERNLEAF_MAIL", folder_.path().toUtf8());
    }
    void TearDown() override {
        qunsetenv("FERNLEAF_MAIL");
        Window::TearDown();
    }
    std::string kept(const char* name) {
        QFile file(folder_.filePath(name));
        return file.open(QIODevice::ReadOnly) ? file.readAll().toStdString() : std::string();
    }

    QTemporaryDir folder_;
};

TEST_F(Mail, PagesAreAttachedAndTheAddressIsRemembered) {
    const PageId page = start_with_page();
    write_hill(20, 40);
    session_->wait_idle();
    MailDialog dialog(*session_, {page}, "Frost: watch/1");
    dialog.show();
    dialog.to()->setEditText("Ines");
    QTest::mouseClick(dialog.decide_button(), Qt::LeftButton);
    EXPECT_TRUE(dialog.isVisible());
    EXPECT_TRUE(dialog.problem()->isVisible());
    EXPECT_TRUE(dialog.problem()->text().contains("no mail address"));
    dialog.to()->setEditText("Ines Varga <ines@example.org>");
    EXPECT_FALSE(dialog.problem()->isVisible());
    dialog.text()->setPlainText("Two crates are missing.");
    QSignalSpy sent(&session_->mail(), &MailDesk::sent);
    QTest::mouseClick(dialog.decide_button(), Qt::LeftButton);
    EXPECT_FALSE(dialog.isVisible());
    WAIT_UNTIL(sent.count() == 1);
    const std::string mail = kept("Frost watch 1.eml");
    EXPECT_NE(mail.find("To: Ines Varga <ines@example.org>"), std::string::npos);
    EXPECT_NE(mail.find("Two crates are missing."), std::string::npos);
    EXPECT_NE(mail.find("\"Frost watch 1.pdf\""), std::string::npos);
    EXPECT_NE(mail.find("JVBERi0"), std::string::npos) << "a PDF in base64";
    EXPECT_EQ(MailDesk::contacts(), QStringList{"Ines Varga <ines@example.org>"});
    // Another of that name does not take its place.
    session_->mail().mail({"tobias@example.org", "Frost: watch/1", "", {page}, ".txt"});
    WAIT_UNTIL(sent.count() == 2);
    EXPECT_NE(kept("Frost watch 1 2.eml").find("\"Frost watch 1.txt\""), std::string::npos);
    EXPECT_EQ(kept("Frost watch 1.eml"), mail);
    EXPECT_EQ(MailDesk::contacts().first(), "tobias@example.org");
    MailDialog again(*session_, {page}, "Frost");
    EXPECT_EQ(again.to()->count(), 2);
}

TEST_F(Mail, ErrandsGoOnlyToAnAddressThatWasSetUp) {
    library_.page();
    Sheet sheet;
    sheet.width_mm = 148, sheet.height_mm = 210, sheet.errands = true;
    const Box box = errand_boxes(sheet)[static_cast<size_t>(Errand::send)].box;
    std::vector<CapturedPoint> tick;
    for (int i = 0; i <= 4; ++i)
        tick.push_back(
            {static_cast<int32_t>(100 * (box.left + i)), static_cast<int32_t>(100 * (box.top + i)), 128, 10, 0, 0});
    ASSERT_TRUE(library_->keep_captures("FL-1", {{1, {2, 5, 1}, 1'790'000'000'000, tick}}));
    open();
    session_->wait_idle();
    ASSERT_EQ(session_->library().todos(false)->size(), 1U) << "nobody said to whom";
    EXPECT_TRUE(QDir(folder_.path()).isEmpty());
    QSignalSpy ticked(&session_->keeping(), &KeepingDesk::ticked);
    MailDesk::set_errand_address("mirela@example.org");
    session_->mail().mail_errands();
    WAIT_UNTIL(session_->library().todos(false)->empty());
    WAIT_UNTIL(ticked.count() > 0);
    const QStringList files = QDir(folder_.path()).entryList(QDir::Files);
    ASSERT_EQ(files.size(), 1);
    const std::string mail = kept(files[0].toUtf8().constData());
    EXPECT_NE(mail.find("To: mirela@example.org"), std::string::npos);
    EXPECT_NE(mail.find("JVBERi0"), std::string::npos);
}

TEST_F(Mail, WhatCantBeKeptIsToldAndTheErrandStays) {
    const PageId page = start_with_page();
    qputenv("FERNLEAF_MAIL", "/proc/nowhere");
    QSignalSpy problems(&session_->messages(), &Messages::problem), sent(&session_->mail(), &MailDesk::sent);
    session_->mail().mail({"ines@example.org", "Frost", "", {page}, ".pdf"});
    WAIT_UNTIL(problems.count() == 1);
    session_->wait_idle();
    EXPECT_EQ(sent.count(), 0);
    EXPECT_TRUE(MailDesk::contacts().isEmpty());
    session_->mail().mail({"nobody", "Frost", "", {page}, ".pdf"});
    EXPECT_EQ(problems.count(), 2);
}

}  // namespace
}  // namespace fernleaf
