// Tells what is wrong with a photograph of a sheet, so that it can be taken again while there is time.
//
// Blur is told by how steep edges are for their height (a Gaussian's edge rises by its height over sqrt(2 pi)
// deviations a pixel). A lamp or a flash by paper that is white in all channels while the rest of it is not. A screen
// by its grid of dots, a lone sharp peak in the spectra of parts of the picture (rules and squares are a comb of them).
// Creases by light that changes steeply in most parts of the sheet: a shadow does so along its edge alone. How often
// each is told, rightly and wrongly, stands in docs/paper.md.
#pragma once

#include <opencv2/core.hpp>

#include "document/faults.h"

namespace fernleaf {

// flat: the straightened sheet, uncleaned, CV_8UC3, BGR. width_mm: of the sheet. That there is no sheet is not told.
Faults faults_of(const cv::Mat& flat, double width_mm);

// The deviation of the Gaussian that the picture's edges seem to be blurred by, px; 0 where there are too few to tell.
double blur_px(const cv::Mat& page);

// Whether a whole picture is light and even enough to be a sheet of paper, such as a scan.
bool like_paper(const cv::Mat& pixels);

}  // namespace fernleaf
