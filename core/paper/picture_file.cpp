#include "paper/picture_file.h"

#include <poppler-document.h>
#include <poppler-font.h>
#include <poppler-global.h>
#include <poppler-image.h>
#include <poppler-page-renderer.h>
#include <poppler-page.h>
#include <sys/mman.h>
#include <unistd.h>

#include <zlib.h>

#include <algorithm>
#include <climits>
#include <memory>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>
#include <optional>

#include "base/text.h"

namespace fernleaf {
namespace {

constexpr double kSheetWidthMm = 210;
constexpr double kColumnGap = 2.5, kOverlap = 0.5;  // of a word's height: a wider gap in a row parts lines

constexpr size_t kPngHeaderBytes = 33;                     // the signature and IHDR
constexpr double kLeastScanDpi = 99, kMostScanDpi = 2401;  // less is what programs write that know nothing of paper

struct Pixels {
    int64_t width = 0;
    int64_t height = 0;
    double dpi = 0;  // as noted in the file; 0 where it is not
};

uint32_t big(std::string_view b, size_t at, int count) {
    uint32_t value = 0;
    for (int i = 0; i < count; ++i)
        value = value << 8 | (at + i < b.size() ? static_cast<unsigned char>(b[at + i]) : 0);
    return value;
}

uint32_t little(std::string_view b, size_t at, int count) {
    uint32_t value = 0;
    for (int i = count - 1; i >= 0; --i)
        value = value << 8 | (at + i < b.size() ? static_cast<unsigned char>(b[at + i]) : 0);
    return value;
}

std::string big_endian(uint32_t value) {
    std::string out;
    for (const int shift : {24, 16, 8, 0}) out += static_cast<char>(value >> shift & 255U);
    return out;
}

Pixels png_size(std::string_view b) {
    Pixels out{big(b, 16, 4), big(b, 20, 4)};
    for (size_t at = kPngHeaderBytes; at + 12 < b.size(); at += 12 + size_t{big(b, at, 4)}) {
        const std::string_view kind = b.substr(at + 4, 4);
        if (kind == "IDAT") break;
        if (kind != "pHYs") continue;
        if (big(b, at + 16, 1) == 1) out.dpi = big(b, at + 8, 4) * kMmPerInch / 1000;
        break;
    }
    return out;
}

// The density of a picture with a camera's notes (Exif) says nothing of paper.
std::optional<Pixels> jpeg_size(std::string_view b) {
    double dpi = 0;
    for (size_t at = 2; at + 9 < b.size();) {
        if (static_cast<unsigned char>(b[at]) != 0xFF) return std::nullopt;
        const auto marker = static_cast<unsigned char>(b[at + 1]);
        if (marker == 0xFF) {
            ++at;
            continue;
        }
        const bool frame = marker >= 0xC0 && marker <= 0xCF && marker != 0xC4 && marker != 0xC8 && marker != 0xCC;
        if (frame) return Pixels{big(b, at + 7, 2), big(b, at + 5, 2), dpi};
        const std::string_view note = b.substr(at + 4, 4);
        if (marker == 0xE0 && note == "JFIF" && b.size() > at + 13) {
            const uint32_t unit = big(b, at + 11, 1);  // dots an inch, or a centimetre
            dpi = unit == 0 ? 0 : big(b, at + 12, 2) * (unit == 2 ? kMmPerInch / 10 : 1);
        }
        if (marker == 0xE1 && note == "Exif") dpi = 0;
        at += 2 + big(b, at + 2, 2);
    }
    return std::nullopt;
}

// Decoders fill what a cut JPEG lacks with grey and call it done: ask for the end marker after the picture's data
// begin.
bool cut_jpeg(std::string_view b) {
    size_t at = 2;
    while (at + 4 < b.size() && static_cast<unsigned char>(b[at]) == 0xFF &&
           static_cast<unsigned char>(b[at + 1]) != 0xDA)
        at += static_cast<unsigned char>(b[at + 1]) == 0xFF ? 1 : 2 + big(b, at + 2, 2);
    return b.find("\xFF\xD9", at) == std::string_view::npos;
}

// A WebP file of several pictures, one after another in time.
bool moves(std::string_view b) {
    return picture_kind(b) == PictureKind::webp && b.substr(12, 4) == "VP8X" && (little(b, 20, 1) & 2) != 0;
}

std::optional<Pixels> webp_size(std::string_view b) {
    const std::string_view chunk = b.substr(12, 4);
    if (chunk == "VP8X") return Pixels{1 + little(b, 24, 3), 1 + little(b, 27, 3)};
    if (chunk == "VP8L") {
        const uint32_t bits = little(b, 21, 4);
        return Pixels{1 + (bits & 0x3FFF), 1 + (bits >> 14 & 0x3FFF)};
    }
    if (chunk == "VP8 ") return Pixels{little(b, 26, 2) & 0x3FFF, little(b, 28, 2) & 0x3FFF};
    return std::nullopt;
}

// The sizes of a TIFF's directories; fewer than there are when the chain is broken.
std::vector<Pixels> tiff_sizes(std::string_view b) {
    const bool intel = b[0] == 'I';
    const auto read = [&](size_t at, int count) { return intel ? little(b, at, count) : big(b, at, count); };
    std::vector<Pixels> sizes;
    std::vector<uint32_t> seen;
    for (uint32_t at = read(4, 4); at != 0 && at + 2 < b.size() && sizes.size() < kMostSheets;) {
        if (std::ranges::find(seen, at) != seen.end()) break;
        seen.push_back(at);
        const uint32_t entries = read(at, 2);
        Pixels size;
        uint32_t unit = 2;  // of density: an inch, where nothing else is said
        for (uint32_t i = 0; i < entries; ++i) {
            const size_t entry = at + 2 + 12 * size_t{i};
            const uint32_t tag = read(entry, 2);
            const uint32_t value = read(entry + 2, 2) == 3 ? read(entry + 8, 2) : read(entry + 8, 4);
            if (tag == 256) size.width = value;
            if (tag == 257) size.height = value;
            if (tag == 282 && read(value + 4, 4) > 0)
                size.dpi = static_cast<double>(read(value, 4)) / read(value + 4, 4);
            if (tag == 296) unit = value;
        }
        size.dpi *= unit == 1 ? 0 : unit == 3 ? kMmPerInch / 10 : 1;
        sizes.push_back(size);
        at = read(at + 2 + 12 * size_t{entries}, 4);
    }
    return sizes;
}

std::vector<Pixels> sizes_of(std::string_view bytes) {
    std::optional<Pixels> one;
    switch (picture_kind(bytes)) {
        case PictureKind::png:
            one = png_size(bytes);
            break;
        case PictureKind::jpeg:
            one = jpeg_size(bytes);
            break;
        case PictureKind::webp:
            one = webp_size(bytes);
            break;
        case PictureKind::tiff:
            return tiff_sizes(bytes);
        default:
            break;
    }
    return one ? std::vector{*one} : std::vector<Pixels>();
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

// OpenCV reads a single directory of a TIFF from files only: the bytes become a file in memory.
cv::Mat tiff_frame(const std::string& bytes, int frame) {
    const int fd = ::memfd_create("sheet", MFD_CLOEXEC);
    if (fd < 0) return {};
    size_t written = 0;
    while (written < bytes.size()) {
        const ssize_t n = ::write(fd, bytes.data() + written, bytes.size() - written);
        if (n <= 0) break;
        written += static_cast<size_t>(n);
    }
    std::vector<cv::Mat> frames;
    if (written == bytes.size())
        cv::imreadmulti("/proc/self/fd/" + std::to_string(fd), frames, frame, 1, cv::IMREAD_COLOR);
    ::close(fd);
    return frames.empty() ? cv::Mat() : frames.front();
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

PictureKind picture_kind(std::string_view b) {
    using namespace std::literals;
    if (b.starts_with("\x89PNG\r\n\x1a\n")) return PictureKind::png;
    if (b.starts_with("\xFF\xD8\xFF")) return PictureKind::jpeg;
    if (b.starts_with("II*\0"sv) || b.starts_with("MM\0*"sv)) return PictureKind::tiff;
    if (b.starts_with("RIFF") && b.size() > 30 && b.substr(8, 4) == "WEBP") return PictureKind::webp;
    if (b.substr(0, 1024).find("%PDF-") != std::string_view::npos) return PictureKind::pdf;
    return PictureKind::unknown;
}

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
        for (const Pixels& p : sizes_of(bytes)) {
            const double mm = p.width > 0 ? kSheetWidthMm / static_cast<double>(p.width) : 0;
            sheets.push_back({static_cast<int>(std::min<int64_t>(p.width, INT_MAX)),
                              static_cast<int>(std::min<int64_t>(p.height, INT_MAX)), kSheetWidthMm,
                              mm * static_cast<double>(p.height)});
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
    const bool cut = picture_kind(bytes) == PictureKind::jpeg  ? cut_jpeg(bytes)
                     : picture_kind(bytes) == PictureKind::png ? bytes.find("IEND") == std::string::npos
                                                               : false;
    if (cut) return Error{"The picture is cut off: its end is missing. Copy it again from where it came."};
    try {
        const cv::Mat encoded(1, static_cast<int>(bytes.size()), CV_8U, const_cast<char*>(bytes.data()));
        cv::Mat pixels;
        if (picture_kind(bytes) == PictureKind::tiff && sheets->size() > 1) {
            pixels = tiff_frame(bytes, frame);
        } else {
            pixels = cv::imdecode(encoded, cv::IMREAD_COLOR);
        }
        if (pixels.empty()) return Error{"The picture is damaged or of a kind that can't be read."};
        return pixels;
    } catch (const cv::Exception&) {
        return Error{"The picture is damaged or of a kind that can't be read."};
    }
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
    const std::vector<Pixels> frames = sizes_of(bytes);
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
