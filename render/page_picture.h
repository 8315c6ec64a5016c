// Pages as pictures: PNG at a resolution, SVG as drawn lines.
#pragma once

#include <QImage>
#include <filesystem>
#include <string>

#include "base/result.h"
#include "document/file_source.h"
#include "document/page.h"
#include "render/page_painter.h"

namespace fernleaf {

// One page on its paper, at 200 dots per inch, or as many as a picture of a long page can have. Needs a QGuiApplication
// and load_fonts(). Safe on a worker thread. The file appears whole or not at all.
Status write_png(const std::filesystem::path& path, const Page& page, const FileSource& files);
Status write_svg(const std::filesystem::path& path, const Page& page, const FileSource& files);

// A page in colours of a view (scheme_on), as wide as so many px and no taller than so many: of a long one its
// beginning. It has twice as many pixels each way, and says so. Safe on a worker thread.
QImage small_picture(const Page& page, const FileSource& files, const PageScheme& view, QSize most);

// Elements within a box (mm) as SVG, without paper.
std::string svg_of(const Elements& elements, const Box& box, const PictureImages& images);

}  // namespace fernleaf
