#include <array>

#include "bench/paper/paper_camera.h"

namespace fernleaf {
namespace {

constexpr std::array kGrounds{"wood", "cloth", "desk", "bright", "dark"};

class FirstCamera : public PaperCamera {
public:
    Shot take(const std::vector<cv::Mat>& sheets, bool whole, int long_side_px, std::mt19937& random) const override {
        View view = any_view(random);
        view.long_side_px = long_side_px;
        if (sheets.size() > 1) view.tilt_deg = std::min(view.tilt_deg, 30.0);
        if (whole || sheets.size() > 1) view.fill = std::min(view.fill, 0.95);
        Shot out{take_photo(sheets, view, random), kGrounds[static_cast<size_t>(view.ground)], {}};
        if (view.curl > 0) out.traits.emplace_back("curled");
        if (view.tilt_deg > 30) out.traits.emplace_back("tilted over 30");
        if (view.torn) out.traits.emplace_back("torn");
        if (view.fill >= 1) out.traits.emplace_back("a corner outside");
        return out;
    }
};

}  // namespace

std::unique_ptr<PaperCamera> first_camera() { return std::make_unique<FirstCamera>(); }

}  // namespace fernleaf
