#include "paper/document_camera.h"

#include <gtest/gtest.h>

#include "paper/test_photo.h"

namespace fernleaf {
namespace {

const SheetOutline kLaid{{{{180, 120}, {770, 150}, {800, 1010}, {120, 960}}}, {}};

cv::Mat seen(const SheetOutline& outline = kLaid, bool written = true) {
    cv::Mat out = table({960, 1200}, {70, 90, 110});
    lay_sheet(out, outline);
    if (written) scrawl(out, outline);
    return out;
}

SheetOutline moved(double by) {
    SheetOutline out = kLaid;
    for (Point& p : out.corners) p = p + Point{by, by / 2};
    return out;
}

TEST(DocumentCamera, TakesASheetOnceWhenItLiesStillAndSharp) {
    DocumentCamera camera;
    EXPECT_EQ(camera.look(table({960, 1200}, {70, 90, 110}), 0).state, CameraState::no_sheet);
    EXPECT_EQ(camera.look(seen(moved(60)), 300).state, CameraState::moving);
    const CameraView first = camera.look(seen(), 600);
    EXPECT_EQ(first.state, CameraState::moving);
    ASSERT_TRUE(first.outline);
    EXPECT_LT(distance(first.outline->corners[2], kLaid.corners[2]), 12);
    EXPECT_EQ(camera.look(seen(), 900).state, CameraState::moving) << "not long enough";
    const CameraView still = camera.look(seen(), 1300);
    EXPECT_EQ(still.state, CameraState::ready) << still.faults.blurred << still.faults.glare;
    camera.taken();
    EXPECT_EQ(camera.look(seen(), 1600).state, CameraState::taken);
    EXPECT_EQ(camera.look(seen(), 9000).state, CameraState::taken);
    // The next one lies elsewhere and says something else.
    cv::Mat other = seen(moved(40), false);
    for (int y = 300; y < 800; y += 90) cv::rectangle(other, {300, y}, {600, y + 40}, {50, 40, 40}, cv::FILLED);
    EXPECT_EQ(camera.look(other, 9300).state, CameraState::moving);
    EXPECT_EQ(camera.look(other, 10'000).state, CameraState::ready);
}

TEST(DocumentCamera, ABlurredSheetIsToldAndNotTaken) {
    DocumentCamera camera;
    cv::Mat blurred;
    cv::GaussianBlur(seen(), blurred, {}, 7);
    camera.look(blurred, 0);
    const CameraView view = camera.look(blurred, 1000);
    EXPECT_EQ(view.state, CameraState::faulty);
    EXPECT_TRUE(view.faults.blurred);
    EXPECT_EQ(camera.look(seen(), 1300).state, CameraState::ready) << "sharp now, and it lay still";
}

TEST(DocumentCamera, PicturesOfNothingAreNoSheet) {
    DocumentCamera camera;
    EXPECT_EQ(camera.look({}, 0).state, CameraState::no_sheet);
    EXPECT_EQ(camera.look(cv::Mat(4, 4, CV_8UC3, cv::Scalar(1, 2, 3)), 100).state, CameraState::no_sheet);
}

}  // namespace
}  // namespace fernleaf
