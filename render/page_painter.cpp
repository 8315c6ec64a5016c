#include "render/page_painter.h"

#include <opencv2/imgproc.hpp>

#include "ink/nib.h"
#include "paper/sheet_picture.h"
#include "paper/shrunk.h"
#include "render/card_look.h"
#include "render/divider_look.h"
#include "render/formula_setting.h"
#include "render/plot_look.h"
#include "render/shape_look.h"
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

namespace {

// One for each kind of element.

void draw_element(QPainter& painter, const Picture& picture, const ElementLook& look) {
    const auto found = look.images.find(picture.id);
    if (found == look.images.end()) return;
    const QImage& image = found->second;
    const QRectF part(picture.crop.left * image.width(), picture.crop.top * image.height(),
                      picture.crop.width() * image.width(), picture.crop.height() * image.height());
    const Point c = picture.box.centre();
    painter.save();
    painter.setRenderHints(QPainter::SmoothPixmapTransform | QPainter::Antialiasing);
    painter.translate(c.x, c.y);
    painter.rotate(picture.angle);
    painter.translate(-c.x, -c.y);
    painter.drawImage(rect_of(picture.box), image, part);
    painter.restore();
}

void draw_element(QPainter& painter, const TextBlock& text, const ElementLook& look) {
    draw_text(painter, text, look.scheme);
}

void draw_element(QPainter& painter, const Divider& divider, const ElementLook& look) {
    draw_divider(painter, divider, look.scheme);
}

void draw_element(QPainter& painter, const FairShape& fair, const ElementLook& look) {
    draw_shape(painter, fair, look.scheme);
}

void draw_element(QPainter& painter, const FairTable& table, const ElementLook& look) {
    draw_table(painter, table, look.scheme);
}

void draw_element(QPainter& painter, const SetFormula& formula, const ElementLook& look) {
    draw_formula(painter, formula, look.scheme);
}

void draw_element(QPainter& painter, const Plot& plot, const ElementLook& look) {
    draw_plot(painter, plot, look.scheme);
}

void draw_element(QPainter& painter, const Card& card, const ElementLook& look) {
    draw_card(painter, card, look.scheme);
}

void draw_element(QPainter& painter, const Stroke& stroke, const ElementLook& look) {
    StrokeLook(stroke).draw(painter, look.scheme);
}

}  // namespace

void paint_elements(QPainter& painter, const Elements& elements, const ElementLook& look) {
    paint_elements(painter, elements, look, [&](bool under) {
        for (const Stroke& stroke : elements.strokes)
            if (lies_under(stroke.pen) == under && drawn_box(stroke).meets(look.clip))
                draw_element(painter, stroke, look);
    });
}

void paint_elements(QPainter& painter, const Elements& elements, const ElementLook& look,
                    const std::function<void(bool under)>& strokes) {
    const auto ink = [&](bool under) {
        painter.save();
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(Qt::NoPen);
        strokes(under);
        painter.restore();
    };
    const auto draw = [&](const auto& e) {
        if (drawn_box(e).meets(look.clip)) draw_element(painter, e, look);
    };
    for_each_in_layer(elements, PaintLayer::pictures, draw);
    ink(true);
    for_each_in_layer(elements, PaintLayer::objects, draw);
    ink(false);
}

QRectF rect_of(const Box& box) { return {box.left, box.top, box.width(), box.height()}; }
Box box_of(const QRectF& rect) { return Box::of(rect.left(), rect.top(), rect.width(), rect.height()); }

}  // namespace fernleaf
