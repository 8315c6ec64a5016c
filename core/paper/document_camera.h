// A camera over a desk: tells from its pictures, one after the other, where the sheet lies, what is wrong with it, and
// when to take one by itself: a sheet that lies still and sharp, and is not the one that was taken last.
//
//   DocumentCamera camera;
//   const CameraView view = camera.look(frame, now_ms);
//   if (view.state == CameraState::ready) keep(frame), camera.taken();
//
// The sheet is sought in a small copy (sheet_finding.h); still is when its corners stay within a hundredth of its
// diagonal for more than half a second; sharpness is told as of photographs (picture_faults.h); two sheets are the same
// when small grey pictures of them, laid flat, correlate. One thread at a time; a look takes a few hundred ms.
#pragma once

#include <opencv2/core.hpp>
#include <optional>

#include "document/faults.h"
#include "document/sheet_outline.h"

namespace fernleaf {

enum class CameraState {
    no_sheet,
    moving,  // the sheet, the camera or a hand
    faulty,  // lies still, but is blurred or glares: faults tells
    ready,   // to be taken now
    taken    // lies there and is taken
};

struct CameraView {
    CameraState state = CameraState::no_sheet;
    std::optional<SheetOutline> outline;  // px of the frame
    Faults faults;
};

class DocumentCamera {
public:
    // frame: CV_8UC3, BGR. now_ms: never goes back.
    CameraView look(const cv::Mat& frame, int64_t now_ms);
    // The frame that was looked at last is kept: its sheet is not ready again before it is another.
    void taken() { taken_ = seen_; }

private:
    std::optional<SheetOutline> outline_;
    int64_t still_since_ = 0;
    cv::Mat seen_, taken_;  // small grey pictures of sheets
};

}  // namespace fernleaf
