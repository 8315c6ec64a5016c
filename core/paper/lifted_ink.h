// Lifted ink: what was written on paper becomes strokes, with their colour and width, in a plausible order.
//
//   const LiftedInk ink = lift_ink(page, picture, reader, print, settings);
//   picture.treatment.lifted = ink.places;      // and there it goes from the picture
//
// Printed words stay on the picture. How strokes are found in a piece of ink: stroke_tracing.h.
#pragma once

#include <opencv2/core.hpp>
#include <vector>

#include "base/cancel.h"
#include "document/page.h"
#include "paper/printed_text.h"

namespace fernleaf {

struct LiftedInk {
    std::vector<Stroke> strokes;  // mm of the page the picture lies on; without ids
    std::vector<Box> places;      // for Treatment::lifted: where it was
};

// page: CV_8UC3, what picture_to_read gives of the picture as if nothing was lifted; what was is left out. Only what
// the picture's crop shows is lifted, and of that what lies within a closed line (mm of the page the picture lies on);
// an empty one holds all. Cancelled, it has nothing.
LiftedInk lift_ink(const cv::Mat& page, const Picture& picture, const Reader& reader, PrintSkills* print,
                   const ReadSettings& settings, const std::vector<Point>& within = {}, const CancelToken& cancel = {},
                   const Progress& progress = {});

}  // namespace fernleaf
