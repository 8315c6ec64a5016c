#include "render/page_painter.h"

#include <opencv2/imgproc.hpp>

#include "ink/nib.h"
#include "paper/picture_file.h"
#include "render/stroke_look.h"

namespace fernleaf {
namespace {

constexpr double kRuleWidthMm = 0.15;
constexpr double kTopMarginSpacings = 2.5;  // the first rule stands this many spacings down
constexpr double kMarginLineMm = 18;

}  // namespace

PageScheme light_page() {
    return {QColor(0xFB, 0xF8, 0xF1), QColor(0xD9, 0xDD, 0xD6), QColor(0xE3, 0xC9, 0xCF), false};
}
PageScheme dark_page() { return {QColor(0x20, 0x27, 0x2B), QColor(0x36, 0x40, 0x44), QColor(0x51, 0x3C, 0x48), true}; }

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
    for (const Picture& picture : page.pictures) {
        const auto bytes = files(picture.file);
        if (!bytes) continue;
        const auto pixels = decode_picture(*bytes, picture.frame);
        if (!pixels) continue;
        cv::Mat small = *pixels;
        const int longest = std::max(small.cols, small.rows);
        if (most_px > 0 && longest > most_px) {
            const double shrink = static_cast<double>(most_px) / longest;
            cv::resize(*pixels, small, {}, shrink, shrink, cv::INTER_AREA);
        }
        images[picture.id] = image_of(small);
    }
    return images;
}

void paint_paper(QPainter& painter, const PageInfo& page, const PageScheme& scheme) {
    painter.save();
    painter.fillRect(QRectF(0, 0, page.width_mm, page.height_mm), scheme.paper);
    if (page.paper == Paper::ruled && page.spacing_mm > 1) {
        painter.setPen(QPen(scheme.rule, kRuleWidthMm));
        for (double y = kTopMarginSpacings * page.spacing_mm; y < page.height_mm - page.spacing_mm / 2;
             y += page.spacing_mm)
            painter.drawLine(QPointF(0, y), QPointF(page.width_mm, y));
        painter.setPen(QPen(scheme.margin, kRuleWidthMm));
        painter.drawLine(QPointF(kMarginLineMm, 0), QPointF(kMarginLineMm, page.height_mm));
    }
    painter.restore();
}

void paint_pictures(QPainter& painter, const Page& page, const PictureImages& images) {
    painter.save();
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    for (const Picture& picture : page.pictures)
        if (const auto found = images.find(picture.id); found != images.end())
            painter.drawImage(rect_of(picture.box), found->second);
    painter.restore();
}

void paint_content(QPainter& painter, const Page& page, const PictureImages& images, const PageScheme& scheme,
                   const Box& clip) {
    paint_pictures(painter, page, images);
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    for (const bool under : {true, false})
        for (const Stroke& stroke : page.strokes)
            if (lies_under(stroke.pen) == under && stroke.box().grown(widest_mark(stroke.pen)).meets(clip))
                StrokeLook(stroke).draw(painter, scheme);
    painter.restore();
}

QRectF rect_of(const Box& box) { return {box.left, box.top, box.width(), box.height()}; }
Box box_of(const QRectF& rect) { return Box::of(rect.left(), rect.top(), rect.width(), rect.height()); }

}  // namespace fernleaf
