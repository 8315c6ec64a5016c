#include "leaves/plot_pictures.h"

#include <QPainter>
#include <algorithm>

#include "render/plot_look.h"

namespace fernleaf {
namespace {

constexpr size_t kMostKept = 24;

}  // namespace

const QPixmap& PlotPictures::of(const Plot& plot, double scale, double ratio, const PageScheme& scheme) {
    const auto known = std::ranges::find_if(kept_, [&](const Kept& kept) {
        return kept.plot == plot && kept.scale == scale && kept.ratio == ratio && kept.dark == scheme.dark;
    });
    if (known != kept_.end()) {
        std::rotate(kept_.begin(), known, known + 1);
        return kept_.front().picture;
    }
    const Box box = ElementTraits<Plot>::bounds(plot);
    QPixmap picture((QSizeF(box.width(), box.height()) * scale * ratio).toSize().expandedTo({1, 1}));
    picture.fill(Qt::transparent);
    QPainter painter(&picture);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.scale(scale * ratio, scale * ratio);
    painter.translate(-box.left, -box.top);
    draw_plot(painter, plot, scheme);
    painter.end();
    picture.setDevicePixelRatio(ratio);
    if (kept_.size() == kMostKept) kept_.pop_back();
    kept_.insert(kept_.begin(), {plot, scale, ratio, scheme.dark, std::move(picture)});
    return kept_.front().picture;
}

}  // namespace fernleaf
