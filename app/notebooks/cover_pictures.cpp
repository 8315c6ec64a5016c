#include "notebooks/cover_pictures.h"

#include "base/barrier.h"
#include "render/page_painter.h"

namespace fernleaf {
namespace {

constexpr int kMostPx = 600;

}  // namespace

QImage CoverPictures::of(const QString& file) {
    if (file.isEmpty()) return {};
    const auto [known, fresh] = decoded_.try_emplace(file);
    if (fresh)
        worker_.post([this, file] {
            Page page;
            page.pictures = {{1, file.toStdString(), "", 0, {0, 0, 1, 1}}};
            const auto images = guarded([&]() -> Result<PictureImages> {
                return load_pictures(
                    page, [this](const std::string& hash) { return library_.file(hash); }, kMostPx);
            });
            if (!images || images->empty()) return;
            QMetaObject::invokeMethod(
                this,
                [this, file, image = images->begin()->second] {
                    decoded_[file] = image;
                    emit ready();
                },
                Qt::QueuedConnection);
        });
    return known->second;
}

}  // namespace fernleaf
