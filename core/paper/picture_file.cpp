#include "paper/picture_file.h"

#include <poppler-document.h>
#include <poppler-font.h>
#include <poppler-global.h>
#include <poppler-image.h>
#include <poppler-page-renderer.h>
#include <poppler-page.h>
#include <zlib.h>

#include <algorithm>
#include <climits>
#include <cmath>
#include <memory>

#include "base/text.h"
#include "paper/raster_file.h"

namespace fernleaf {
namespace {

constexpr double kSheetWidthMm = 210;
constexpr double kColumnGap = 2.5, kOverlap = 0.5;  // of a word's height: a wider gap in a row parts lines

constexpr double kLeastScanDpi = 99, kMostScanDpi = 2401;  // less is what programs write that know nothing of paper

std::string big_endian(uint32_t value) {
    std::string out;
    for (const int shift : {24, 16, 8, 0}) out += static_cast<char>(value >> shift & 255U);
    return out;
}

Result<std::unique_ptr<poppler::document>> open_pdf(const std::string& bytes) {
    poppler::set_debug_error_function([](const std::string&, void*) {}, nullptr);
    if (bytes.size() > INT_MAX) return Error{"The PDF is too large."};
    std::unique_ptr<poppler::document> document(
        poppler::document::load_from_raw_data(bytes.data(), static_cast<int>(bytes.size())));
    if (!document) return Error{"The PDF is damaged and can't be opened."};
    if (document->is_locked()) return Error{"The PDF asks for a password. Save a copy without one and import that."};
    if (document->pages() < 1) return Error{"The PDF has no pages."};
    return document;
}

SheetSize pdf_size(const poppler::page& page) {
    const poppler::rectf rect = page.page_rect(poppler::crop_box);
    const bool turned = page.orientation() == poppler::page::landscape || page.orientation() == poppler::page::seascape;
    const double w = turned ? rect.height() : rect.width();
    const double h = turned ? rect.width() : rect.height();
    return {static_cast<int>(w / kPointsPerInch * kUsualDpi), static_cast<int>(h / kPointsPerInch * kUsualDpi),
            w / kPointsPerInch * kMmPerInch, h / kPointsPerInch * kMmPerInch};
}

Status reasonable(const SheetSize& size) {
    const double megapixels = 1e-6 * size.width_px * size.height_px;
    if (size.width_px < 1 || size.height_px < 1) return Error{"The picture is empty or damaged."};
    if (megapixels > kLargestPictureMegapixels)
        return Error{"The picture is too large (" + std::to_string(size.width_px) + " x " +
                     std::to_string(size.height_px) + " pixels). Scale it below " +
                     std::to_string(static_cast<int>(kLargestPictureMegapixels)) + " megapixels."};
    return Done{};
}

}  // namespace

Result<std::vector<SheetSize>> probe_picture(const std::string& bytes) {
    std::vector<SheetSize> sheets;
    if (picture_kind(bytes) == PictureKind::pdf) {
        auto document = open_pdf(bytes);
        if (!document) return document.error();
        if ((*document)->pages() > kMostSheets)
            return Error{"The PDF has more than " + std::to_string(kMostSheets) + " pages."};
        for (int i = 0; i < (*document)->pages(); ++i) {
            const std::unique_ptr<poppler::page> page((*document)->create_page(i));
            if (!page) return Error{"Page " + std::to_string(i + 1) + " of the PDF is damaged."};
            sheets.push_back(pdf_size(*page));
        }
    } else {
        for (const PictureHeader& p : picture_headers(bytes)) {
            const bool on_its_side = p.orientation >= 5;
            const int64_t width = on_its_side ? p.height_px : p.width_px,
                          height = on_its_side ? p.width_px : p.height_px;
            const double mm = width > 0 ? kSheetWidthMm / static_cast<double>(width) : 0;
            sheets.push_back({static_cast<int>(std::min<int64_t>(width, INT_MAX)),
                              static_cast<int>(std::min<int64_t>(height, INT_MAX)), kSheetWidthMm,
                              mm * static_cast<double>(height)});
        }
    }
    if (sheets.empty()) return Error{"The picture is empty or damaged."};
    for (const SheetSize& size : sheets)
        if (Status status = reasonable(size); !status) return status.error();
    return sheets;
}

Result<cv::Mat> decode_picture(const std::string& bytes, int frame, int dpi) {
    const Error no_page{"The file has no page " + std::to_string(frame + 1) + "."};
    if (picture_kind(bytes) == PictureKind::pdf) {
        // Only the page that is wanted is looked at: a document of hundreds is opened once for each of them.
        auto document = open_pdf(bytes);
        if (!document) return document.error();
        if (frame < 0 || frame >= (*document)->pages()) return no_page;
        const std::unique_ptr<poppler::page> page((*document)->create_page(frame));
        if (!page) return Error{"Page " + std::to_string(frame + 1) + " of the PDF is damaged."};
        poppler::page_renderer renderer;
        renderer.set_image_format(poppler::image::format_bgr24);
        renderer.set_render_hint(poppler::page_renderer::antialiasing);
        renderer.set_render_hint(poppler::page_renderer::text_antialiasing);
        const SheetSize usual = pdf_size(*page);
        if (Status status = reasonable(usual); !status) return status.error();
        const double megapixels = 1e-6 * usual.width_px * usual.height_px;
        const double most = kUsualDpi * std::sqrt(kLargestPictureMegapixels / megapixels);
        const double dots = std::clamp<double>(dpi, kLeastDpi, std::min<double>(kMostDpi, most));
        const poppler::image image = renderer.render_page(page.get(), dots, dots);
        if (!image.is_valid()) return Error{"Page " + std::to_string(frame + 1) + " of the PDF can't be drawn."};
        return cv::Mat(image.height(), image.width(), CV_8UC3, const_cast<char*>(image.const_data()),
                       static_cast<size_t>(image.bytes_per_row()))
            .clone();
    }
    const auto sheets = probe_picture(bytes);
    if (!sheets) return sheets.error();
    if (frame < 0 || frame >= static_cast<int>(sheets->size())) return no_page;
    if (moves(bytes)) return Error{"The picture moves. Save one of its pictures by itself and bring that in."};
    if (cut_short(bytes)) return Error{"The picture is cut off: its end is missing. Copy it again from where it came."};
    return decode_raster(bytes, frame);
}

std::vector<KeptWord> embedded_pdf_text(const std::string& bytes, int frame) {
    std::vector<KeptWord> out;
    if (picture_kind(bytes) != PictureKind::pdf) return out;
    const auto document = open_pdf(bytes);
    if (!document || frame < 0 || frame >= (*document)->pages()) return out;
    // Without a font there is no text: that is told at once, while looking for words draws all of the page.
    const std::unique_ptr<poppler::font_iterator> fonts((*document)->create_font_iterator(frame));
    if (fonts->next().empty()) return out;
    const std::unique_ptr<poppler::page> page((*document)->create_page(frame));
    if (!page) return out;
    const SheetSize size = pdf_size(*page);
    const double width = size.width_mm / kMmPerInch * kPointsPerInch;
    const double height = size.height_mm / kMmPerInch * kPointsPerInch;
    for (const poppler::text_box& word : page->text_list()) {
        const poppler::byte_array utf8 = word.text().to_utf8();
        const std::string text = trimmed(std::string(utf8.begin(), utf8.end()));
        const poppler::rectf box = word.bbox();
        const Box part{box.left() / width, box.top() / height, box.right() / width, box.bottom() / height};
        if (text.empty() || part.empty() || !(part.meets(Box::of(0, 0, 1, 1)))) continue;
        // A word that stands beside the last one, after a gap no wider than a few letters, goes on in its line.
        if (!out.empty()) {
            const Box& last = out.back().box;
            const double middle = (part.top + part.bottom) / 2;
            const double gap = (part.left - last.right) * width / (height * last.height());
            out.back().ends_line = middle < last.top || middle > last.bottom || gap < -kOverlap || gap > kColumnGap;
        }
        out.push_back({text, part});
    }
    if (!out.empty()) out.back().ends_line = true;
    return out;
}

double scan_dpi(const std::string& bytes, int frame) {
    const std::vector<PictureHeader> frames = picture_headers(bytes);
    const double dpi =
        frame >= 0 && static_cast<size_t>(frame) < frames.size() ? frames[static_cast<size_t>(frame)].dpi : 0;
    return dpi < kLeastScanDpi || dpi > kMostScanDpi ? 0 : dpi;
}

std::string with_scan_dpi(const std::string& png, double dpi) {
    if (dpi <= 0 || png.size() < kPngHeaderBytes) return png;
    const auto a_metre = static_cast<uint32_t>(std::lround(dpi * 1000 / kMmPerInch));
    std::string chunk = std::string("pHYs") + big_endian(a_metre) + big_endian(a_metre) + '\1';
    const auto sum = crc32(0, reinterpret_cast<const Bytef*>(chunk.data()), static_cast<uInt>(chunk.size()));
    chunk = big_endian(static_cast<uint32_t>(chunk.size() - 4)) + chunk + big_endian(static_cast<uint32_t>(sum));
    return png.substr(0, kPngHeaderBytes) + chunk + png.substr(kPngHeaderBytes);
}

}  // namespace fernleaf
