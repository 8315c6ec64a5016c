#include <QTemporaryDir>

#include "intake/camera_dialog.h"
#include "paper/test_photo.h"
#include "wait_until.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

// Shows what it is given.
class HeldCamera : public CameraDevice {
public:
    bool start() override {
        last = this;
        return true;
    }
    void stop() override {}
    void show(const cv::Mat& pixels) { emit frame(image_of(pixels)); }
    void unplug() { emit lost({}); }
    inline static HeldCamera* last = nullptr;
};

class HeldCameras : public CameraDevices {
public:
    explicit HeldCameras(bool any = true) : any_(any) {}
    std::vector<CameraName> cameras() const override {
        return any_ ? std::vector<CameraName>{{"held", "Held"}} : std::vector<CameraName>{};
    }
    std::unique_ptr<CameraDevice> open(const QByteArray&) const override { return std::make_unique<HeldCamera>(); }

private:
    bool any_;
};

class Camera : public Window {
protected:
    static cv::Mat sheet(double by, bool other) {
        SheetOutline laid{{{{180, 120}, {770, 150}, {800, 1010}, {120, 960}}}, {}};
        for (Point& p : laid.corners) p = p + Point{by, by};
        cv::Mat out = table({960, 1200}, {70, 90, 110});
        lay_sheet(out, laid);
        if (!other) scrawl(out, laid);
        for (int y = 300; other && y < 800; y += 90)
            cv::rectangle(out, {300, y}, {600, y + 40}, {50, 40, 40}, cv::FILLED);
        return out;
    }
};

TEST_F(Camera, TakesSheetsByItselfIntoTheTray) {
    start_with_page();
    CameraDialog dialog(session_->intake(), std::make_unique<HeldCameras>());
    dialog.show();
    const cv::Mat first = sheet(0, false), second = sheet(30, true);
    const auto shown_until_taken = [&](const cv::Mat& pixels, int taken) {
        return wait_until([&] {
            HeldCamera::last->show(pixels);
            return dialog.taken() == taken;
        });
    };
    ASSERT_TRUE(shown_until_taken(first, 1));
    ASSERT_TRUE(shown_until_taken(second, 2));
    // One that was taken is not taken again.
    WAIT_UNTIL((HeldCamera::last->show(second), dialog.says()->text().startsWith("Picture taken. Place")));
    EXPECT_EQ(dialog.taken(), 2);
    session_->wait_idle();
    EXPECT_EQ(session_->intake().entries().size(), 2U);
    HeldCamera::last->unplug();
    EXPECT_TRUE(dialog.says()->text().contains("disconnected"));
}

TEST_F(Camera, TakesWhatItIsToldTo) {
    start_with_page();
    CameraDialog dialog(session_->intake(), std::make_unique<HeldCameras>());
    dialog.show();
    EXPECT_FALSE(dialog.take_button()->isEnabled()) << "nothing is seen yet";
    dialog.by_itself()->setChecked(false);
    HeldCamera::last->show(table({960, 1200}, {70, 90, 110}));
    QTest::mouseClick(dialog.take_button(), Qt::LeftButton);
    EXPECT_EQ(dialog.taken(), 1);
    session_->wait_idle();
    EXPECT_EQ(session_->intake().entries().size(), 1U);
}

TEST_F(Camera, ABlurredSheetIsToldAndNotTaken) {
    start_with_page();
    CameraDialog dialog(session_->intake(), std::make_unique<HeldCameras>());
    dialog.show();
    cv::Mat blurred;
    cv::GaussianBlur(sheet(0, false), blurred, {}, 7);
    WAIT_UNTIL((HeldCamera::last->show(blurred), dialog.says()->text().contains("blurred")));
    EXPECT_EQ(dialog.taken(), 0);
    WAIT_UNTIL((HeldCamera::last->show(sheet(0, false)), dialog.taken() == 1));
}

TEST_F(Camera, TheStandInShowsTheFoldersPictures) {
    start_with_page();
    QTemporaryDir folder;
    EXPECT_TRUE(image_of(sheet(0, false)).save(folder.filePath("a.png")));
    qputenv("FERNLEAF_CAMERA", folder.path().toUtf8());
    CameraDialog dialog(session_->intake(), usual_cameras());
    qunsetenv("FERNLEAF_CAMERA");
    dialog.show();
    WAIT_UNTIL(dialog.taken() == 1);
    session_->wait_idle();
    ASSERT_EQ(session_->intake().entries().size(), 1U);
    EXPECT_TRUE(session_->intake().entries()[0].name.starts_with("camera"));
    EXPECT_TRUE(session_->intake().entries()[0].treatment.outline);
}

TEST_F(Camera, WithoutOneItSaysWhatToDo) {
    start_with_page();
    CameraDialog dialog(session_->intake(), std::make_unique<HeldCameras>(false));
    EXPECT_TRUE(dialog.says()->text().startsWith("No camera was found"));
    EXPECT_FALSE(dialog.take_button()->isEnabled());
}

}  // namespace
}  // namespace fernleaf
