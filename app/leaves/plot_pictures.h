// Pictures of plots, kept so that a leaf can be drawn again without working their curves out.
#pragma once

#include <QPixmap>
#include <vector>

#include "document/plot/plot.h"
#include "render/page_painter.h"

namespace fernleaf {

// UI thread only.
class PlotPictures {
public:
    // scale: px a mm, ratio: of the screen's pixels to these. Valid until the next call.
    const QPixmap& of(const Plot& plot, double scale, double ratio, const PageScheme& scheme);

private:
    struct Kept {
        Plot plot;
        double scale = 1, ratio = 1;
        bool dark = false;
        QPixmap picture;
    };
    std::vector<Kept> kept_;  // the last used first
};

}  // namespace fernleaf
