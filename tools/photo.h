// Photographs of paper, made: sheets lie on a table under a lamp, a camera looks at them from somewhere, and its
// picture is blurred, noisy and compressed. What they show is known to the pixel, so that finding sheets can be
// measured.
//
//   std::mt19937 random(1);
//   const Photo photo = take_photo({page}, any_view(random), random);
//   photo.pixels, photo.sheets[0].corners
#pragma once

#include <array>
#include <opencv2/core.hpp>
#include <random>
#include <string>
#include <vector>

#include "base/geometry.h"
#include "ink/stroke.h"

namespace fernleaf {

// Draws ink as pens leave it on paper. sheet: CV_8UC3, BGR.
void draw_ink(cv::Mat& sheet, const std::vector<Stroke>& strokes, double px_per_mm);

enum class Ground { wood, cloth, desk, bright, dark };  // bright: nearly as bright as paper

struct View {
    Ground ground = Ground::desk;
    double tilt_deg = 0;      // how far the camera looks aslant, up to 45
    double tilt_towards = 0;  // radians: from which side
    double roll_deg = 0;      // the sheet's turn on the table, clockwise
    double fill = 0.8;        // of the picture's width or height, which the sheets take
    double off_x = 0,
           off_y = 0;   // of the picture's width and height: where the sheets' middle lies, from the picture's
    double curl = 0;    // how high the sheet bulges, in parts of its longer side, up to 0.06
    double shadow = 0;  // 0 to 0.5: light taken by something that stands in it
    double blur_px = 0.6;
    double noise = 3;  // grey levels
    int jpeg_quality = 88;
    int long_side_px = 2000;
    bool torn = false;  // a corner is torn off, others are rounded
};

// Of one sheet, or of several, as people take them.
View any_view(std::mt19937& random);

struct PhotographedSheet {
    std::array<Point, 4> corners;  // px, clockwise from the sheet's own top left; may lie outside the picture
    std::vector<Point> outline;    // px, clockwise: with the bulge of curled sides
};

struct Photo {
    cv::Mat pixels;  // CV_8UC3, BGR
    std::vector<PhotographedSheet> sheets;
};

// sheets: CV_8UC3 pictures of flat paper; several lie beside one another, each turned a little by itself.
Photo take_photo(const std::vector<cv::Mat>& sheets, const View& view, std::mt19937& random);

}  // namespace fernleaf
