#include "render/page_painter.h"

#include <opencv2/imgproc.hpp>

#include "ink/nib.h"
#include "paper/sheet_picture.h"
#include "paper/shrunk.h"
#include "render/stroke_look.h"
#include "render/text_look.h"

namespace fernleaf {
namespace {

constexpr double kShowsOn = 0.45;  // lightness of paper below which ink is turned light

}  // namespace

PageScheme light_page() {
    return {QColor(0xFB, 0xF8, 0xF1), QColor(0xD9, 0xDD, 0xD6), QColor(0xE3, 0xC9, 0xCF), false};
}
PageScheme dark_page() { return {QColor(0x20, 0x27, 0x2B), QColor(0x36, 0x40, 0x44), QColor(0x51, 0x3C, 0x48), true}; }

PageScheme scheme_on(const PageScheme& scheme, uint32_t paper) {
    if (paper == kUsualPaper) return scheme;
    PageScheme own;
    own.paper = QColor::fromRgb(paper);
    own.dark = own.paper.lightnessF() < static_cast<float>(kShowsOn);
    own.rule = own.dark ? own.paper.lighter(165) : own.paper.darker(117);
    if (own.dark && own.paper.lightnessF() < 0.08F) own.rule = QColor(0x3A, 0x3A, 0x3A);
    own.margin = own.dark ? QColor(0x7A, 0x50, 0x60) : QColor(0xD9, 0xA9, 0xB2);
    return own;
}

QColor shown_colour(uint32_t colour, const PageScheme& scheme) {
    const QColor c = QColor::fromRgb(colour);
    if (!scheme.dark) return c;
    float h = 0, s = 0, l = 0;
    c.getHslF(&h, &s, &l);
    if (l > 0.6F) return c;
    return QColor::fromHslF(std::max(h, 0.0F), s * 0.8F, 0.92F - 0.45F * l);
}

QImage image_of(const cv::Mat& bgr) {
    QImage image(bgr.cols, bgr.rows, QImage::Format_RGB32);
    cv::Mat target(bgr.rows, bgr.cols, CV_8UC4, image.bits(), static_cast<size_t>(image.bytesPerLine()));
    cv::cvtColor(bgr, target, cv::COLOR_BGR2BGRA);
    return image;
}

PictureImages load_pictures(const Page& page, const FileSource& files, int most_px) {
    PictureImages images;
    std::vector<Picture> pictures = page.pictures;
    if (page.info.paper == Paper::picture) pictures.push_back({kPaperPicture, page.info.picture, "", 0, {}});
    for (const Picture& picture : pictures) {
        const auto bytes = files(picture.file);
        if (!bytes) continue;
        const auto pixels = picture_pixels(*bytes, picture);
        if (!pixels) continue;
        images[picture.id] = image_of(most_px > 0 ? shrunk(*pixels, factor_to(*pixels, most_px)) : *pixels);
    }
    return images;
}

void paint_pictures(QPainter& painter, const std::vector<Picture>& pictures, const PictureImages& images) {
    painter.save();
    painter.setRenderHints(QPainter::SmoothPixmapTransform | QPainter::Antialiasing);
    for (const Picture& picture : pictures) {
        const auto found = images.find(picture.id);
        if (found == images.end()) continue;
        const QImage& image = found->second;
        const QRectF part(picture.crop.left * image.width(), picture.crop.top * image.height(),
                          picture.crop.width() * image.width(), picture.crop.height() * image.height());
        const Point c = picture.box.centre();
        painter.save();
        painter.translate(c.x, c.y);
        painter.rotate(picture.angle);
        painter.translate(-c.x, -c.y);
        painter.drawImage(rect_of(picture.box), image, part);
        painter.restore();
    }
    painter.restore();
}

void paint_content(QPainter& painter, const Page& page, const PictureImages& images, const PageScheme& scheme,
                   const Box& clip) {
    paint_pictures(painter, page.pictures, images);
    const auto strokes = [&](bool under) {
        painter.save();
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(Qt::NoPen);
        for (const Stroke& stroke : page.strokes)
            if (lies_under(stroke.pen) == under && stroke.box().grown(widest_mark(stroke.pen)).meets(clip))
                StrokeLook(stroke).draw(painter, scheme);
        painter.restore();
    };
    strokes(true);
    for (const TextBlock& text : page.texts)
        if (text.box().meets(clip)) draw_text(painter, text, scheme);
    strokes(false);
}

QRectF rect_of(const Box& box) { return {box.left, box.top, box.width(), box.height()}; }
Box box_of(const QRectF& rect) { return Box::of(rect.left(), rect.top(), rect.width(), rect.height()); }

}  // namespace fernleaf
