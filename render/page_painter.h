// Draws a page through one painter, whatever the surface: screen, picture, PDF.
//
//   painter.scale(pixels_per_mm, pixels_per_mm);
//   const PageScheme scheme = scheme_on(light_page(), page.info.colour);
//   paint_paper(painter, page.info, scheme, pictures);
//   paint_elements(painter, page, {scheme, pictures, clip});
#pragma once

#include <QColor>
#include <QImage>
#include <QPainter>
#include <functional>
#include <map>

#include "base/result.h"
#include "document/file_source.h"
#include "document/page.h"

namespace cv {
class Mat;
}

namespace fernleaf {

// The colours of paper and of what is printed on it. Exports use the light one.
struct PageScheme {
    QColor paper;
    QColor rule;
    QColor margin;
    bool dark = false;
};
PageScheme light_page();
PageScheme dark_page();

// The colour in which ink shows: on dark paper its lightness is turned round, its hue kept.
QColor shown_colour(uint32_t colour, const PageScheme& scheme);

using PictureImages = std::map<PictureId, QImage>;

// The scheme of a sheet whose paper has a colour of its own.
PageScheme scheme_on(const PageScheme& scheme, uint32_t paper);

constexpr PictureId kPaperPicture = 0;  // what is printed on the paper, among a page's images

// Decodes the pictures of a page and of its paper, none larger than most_px on its longer side (0: as they are). A
// picture that can't be read is left out.
PictureImages load_pictures(const Page& page, const FileSource& files, int most_px = 0);

QImage image_of(const cv::Mat& bgr);

// The painter's unit must be the millimetre, its origin the page's top left corner.
void paint_paper(QPainter& painter, const Sheet& sheet, const PageScheme& scheme, const PictureImages& images = {});

// What elements are drawn with: only those that meet the clip, mm.
struct ElementLook {
    PageScheme scheme;
    const PictureImages& images;
    Box clip;
};

// Elements of every kind in their order. Who keeps strokes ready to be drawn draws them himself, those that lie under
// all others (highlighters) and the others apart; then none of the elements' own are drawn.
void paint_elements(QPainter& painter, const Elements& elements, const ElementLook& look);
void paint_elements(QPainter& painter, const Elements& elements, const ElementLook& look,
                    const std::function<void(bool under)>& strokes);

QRectF rect_of(const Box& box);
Box box_of(const QRectF& rect);

}  // namespace fernleaf
