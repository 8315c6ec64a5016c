#include "render/page_picture.h"

#include <QBuffer>
#include <QSvgGenerator>
#include <algorithm>
#include <cmath>
#include <functional>

#include "base/file.h"

namespace fernleaf {
namespace {

constexpr double kDpi = 200;
constexpr double kMostPixels = 60e6, kMostPx = 30000;
constexpr int kSvgDpi = 254;  // ten units a millimetre

Box sheet_of(const Page& page) { return Box::of(0, 0, page.info.width_mm, page.info.height_mm); }

void paint(QPainter& painter, const Page& page, const FileSource& files) {
    PageScheme white = light_page();
    white.paper = Qt::white;
    const PageScheme scheme = scheme_on(white, page.info.colour);
    const PictureImages images = load_pictures(page, files);
    painter.setRenderHint(QPainter::Antialiasing);
    paint_paper(painter, page.info, scheme, images);
    paint_elements(painter, page, {scheme, images, sheet_of(page)});
}

std::string svg(const Box& box, const std::function<void(QPainter&)>& draw) {
    QBuffer buffer;
    buffer.open(QIODevice::WriteOnly);
    QSvgGenerator generator;
    generator.setOutputDevice(&buffer);
    generator.setResolution(kSvgDpi);
    const double unit = kSvgDpi / kMmPerInch;
    const QSizeF size(box.width() * unit, box.height() * unit);
    generator.setSize(size.toSize());
    generator.setViewBox(QRectF(QPointF(0, 0), size));
    QPainter painter(&generator);
    painter.scale(unit, unit);
    painter.translate(-box.left, -box.top);
    draw(painter);
    painter.end();
    return buffer.data().toStdString();
}

}  // namespace

QImage small_picture(const Page& page, const FileSource& files, const PageScheme& view, QSize most) {
    const Sheet& sheet = page.info;
    const double height = std::min(sheet.height_mm, sheet.width_mm * most.height() / most.width());
    const double scale = 2.0 * most.width() / sheet.width_mm;
    QImage image(2 * most.width(), std::max(1, static_cast<int>(height * scale)), QImage::Format_RGB32);
    const PageScheme scheme = scheme_on(view, sheet.colour);
    QPainter painter(&image);
    painter.scale(scale, scale);
    painter.setClipRect(QRectF(0, 0, sheet.width_mm, height));
    const PictureImages images = load_pictures(page, files, 4 * most.width());
    paint_paper(painter, sheet, scheme, images);
    paint_elements(painter, page, {scheme, images, Box::of(0, 0, sheet.width_mm, height)});
    painter.end();
    image.setDevicePixelRatio(2);
    return image;
}

Status write_png(const std::filesystem::path& path, const Page& page, const FileSource& files) {
    const Box box = sheet_of(page);
    double px = kDpi / kMmPerInch;
    px = std::min(
        {px, kMostPx / std::max(box.width(), box.height()), std::sqrt(kMostPixels / (box.width() * box.height()))});
    QImage image(static_cast<int>(std::lround(box.width() * px)), static_cast<int>(std::lround(box.height() * px)),
                 QImage::Format_RGB32);
    if (image.isNull()) return Error{"There is not enough memory for a picture of this page."};
    image.setDotsPerMeterX(static_cast<int>(std::lround(px * 1000)));
    image.setDotsPerMeterY(static_cast<int>(std::lround(px * 1000)));
    image.fill(Qt::white);
    QPainter painter(&image);
    painter.scale(px, px);
    paint(painter, page, files);
    painter.end();
    QBuffer buffer;
    buffer.open(QIODevice::WriteOnly);
    if (!image.save(&buffer, "PNG")) return Error{"The picture could not be made."};
    return write_whole(path, buffer.data().toStdString());
}

Status write_svg(const std::filesystem::path& path, const Page& page, const FileSource& files) {
    return write_whole(path, svg(sheet_of(page), [&](QPainter& painter) { paint(painter, page, files); }));
}

std::string svg_of(const Elements& elements, const Box& box, const PictureImages& images) {
    return svg(box, [&](QPainter& painter) { paint_elements(painter, elements, {light_page(), images, box}); });
}

}  // namespace fernleaf
