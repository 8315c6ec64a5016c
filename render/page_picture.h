// Pages as pictures: PNG at a resolution, SVG as drawn lines.
#pragma once

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

// Elements within a box (mm) as SVG, without paper.
std::string svg_of(const Elements& elements, const Box& box, const PictureImages& images);

}  // namespace fernleaf
