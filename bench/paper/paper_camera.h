// The two cameras that take the bench's photographs.
//
// The first is the demo's (tools/photo.h); most constants of core/paper were set on its pictures. The second was
// written without regard to it: real pictures as grounds, folds and waves, stains, hands and things in the picture, a
// window frame's shadow, light in linear terms, blur that varies over the picture, shot noise, noise reduction, tone
// curves, white balance, sharpening. Of its pictures one half may set constants, the other is looked at for figures
// only (second_camera).
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <vector>

#include "demo/photo.h"

namespace fernleaf {

struct Shot {
    Photo photo;
    std::string ground;
    std::vector<std::string> traits;  // such as "curled"
};

class PaperCamera {
public:
    virtual ~PaperCamera() = default;
    // whole: no corner outside the picture. long_side_px: of the picture.
    virtual Shot take(const std::vector<cv::Mat>& sheets, bool whole, int long_side_px, std::mt19937& random) const = 0;
};

std::unique_ptr<PaperCamera> first_camera();

// grounds: directories of pictures, of which every second one is a ground; held_back: the others, for figures only.
// Nothing where they hold no such pictures.
std::unique_ptr<PaperCamera> second_camera(const std::vector<std::filesystem::path>& grounds, bool held_back);

}  // namespace fernleaf
