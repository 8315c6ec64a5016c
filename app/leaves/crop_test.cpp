// Cropping a picture in its frame, and pictures let go over the page, in the real window.
#include <QDropEvent>
#include <QMimeData>

#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class Cropping : public Window {
protected:
    void SetUp() override {
        Window::SetUp();
        start_with_page();
    }
    const std::vector<Picture>& pictures() { return session_->page()->pictures; }
    const Picture& picture() { return pictures().at(0); }
    void choose_picture() {
        QImage image(400, 300, QImage::Format_RGB32);
        image.fill(Qt::darkGreen);
        session_->pictures().add_picture(image, {70, 80});
        session_->wait_idle();
        take(Tool::lasso);
        ink()->choosing().select({picture().id});
    }
    // Straight to the window: there is no drag under way that would lead it there.
    void let_go(QDropEvent& drop) { static_cast<QObject*>(window_.get())->event(&drop); }
    void drag(Point from, Point to) {
        mouse_stroke({from, to});
        session_->wait_idle();
    }
};

TEST_F(Cropping, ASidePulledInCutsThePictureAndPulledOutBringsItBack) {
    choose_picture();
    const Box whole = picture().box;
    button("Crop the picture")->click();
    EXPECT_TRUE(ink()->choosing().cropping());
    drag({whole.right, whole.centre().y}, {whole.right - 10, whole.centre().y});
    EXPECT_NEAR(picture().box.right, whole.right - 10, 0.5);
    EXPECT_NEAR(picture().box.left, whole.left, 1e-6);
    EXPECT_NEAR(picture().crop.right, 1 - 10 / whole.width(), 0.02);
    EXPECT_EQ(session_->document().undo_state().undo, "Crop");
    EXPECT_TRUE(ink()->choosing().cropping()) << "the frame stays for the next pull";
    drag({whole.right - 10, whole.centre().y}, {whole.right + 30, whole.centre().y});
    EXPECT_NEAR(picture().box.right, whole.right, 1e-6) << "no further than the picture goes";
    session_->editing().undo();
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(picture().crop, (Box{0, 0, 1, 1}));
    EXPECT_EQ(picture().box, whole);
}

TEST_F(Cropping, CornersAndArrowsWorkAndEnterEndsIt) {
    choose_picture();
    const Box whole = picture().box;
    ink()->choosing().crop();
    drag({whole.left, whole.top}, {whole.left + 8, whole.top + 6});
    EXPECT_NEAR(picture().box.left, whole.left + 8, 0.5);
    EXPECT_NEAR(picture().box.top, whole.top + 6, 0.5);
    const Box before = picture().box;
    QTest::keyClick(ink(), Qt::Key_Left, Qt::ShiftModifier);
    EXPECT_LT(picture().box.right, before.right);
    QTest::keyClick(ink(), Qt::Key_Left, Qt::AltModifier);
    EXPECT_LT(picture().box.left, before.left);
    QTest::keyClick(ink(), Qt::Key_Return);
    EXPECT_FALSE(ink()->choosing().cropping());
    EXPECT_EQ(ink()->selection().chosen().pictures.size(), 1U) << "it is still chosen";
}

TEST_F(Cropping, EndsWhereSomethingElseIsTouchedAndLeavesLockedPicturesAlone) {
    choose_picture();
    ink()->choosing().crop();
    QTest::mouseClick(ink(), Qt::LeftButton, {}, at(20, 180));
    EXPECT_FALSE(ink()->choosing().cropping());
    ink()->choosing().select({picture().id});
    ink()->choosing().lock(true);
    session_->wait_idle();
    EXPECT_FALSE(ink()->choosing().may_crop());
    ink()->choosing().crop();
    EXPECT_FALSE(ink()->choosing().cropping());
}

TEST_F(Cropping, APictureLetGoOverThePageIsPutThere) {
    const QString path = QString::fromStdString((library_.directory / "shed.png").string());
    QImage image(200, 100, QImage::Format_RGB32);
    image.fill(Qt::darkYellow);
    ASSERT_TRUE(image.save(path));
    QMimeData data;
    data.setUrls({QUrl::fromLocalFile(path)});
    const QPoint place = ink()->mapTo(window_.get(), at(60, 90));
    QDropEvent drop(place, Qt::CopyAction, &data, Qt::LeftButton, {});
    let_go(drop);
    session_->wait_idle();
    ASSERT_EQ(pictures().size(), 1U);
    EXPECT_NEAR(picture().box.centre().x, 60, 1);
    EXPECT_NEAR(picture().box.centre().y, 90, 1);
    EXPECT_EQ(session_->document().pages_in_notebook(), 1);

    QDropEvent elsewhere(QPoint(40, 400), Qt::CopyAction, &data, Qt::LeftButton, {});
    let_go(elsewhere);
    session_->wait_idle();
    EXPECT_EQ(session_->library().pages(session_->document().notebook().id)->size(), 1U);
    EXPECT_EQ(session_->intake().entries().size(), 1U) << "over the notebooks it goes into the tray";
}

}  // namespace
}  // namespace fernleaf
