#include "paper/raster_file.h"

#include <png.h>
#include <sys/mman.h>
#include <tiffio.h>
#include <turbojpeg.h>
#include <unistd.h>
#include <webp/decode.h>

#include <cstring>
#include <memory>

#include "paper/picture_header.h"

namespace fernleaf {
namespace {

constexpr png_byte kPaperWhite = 255;

struct Close {
    void operator()(TIFF* tiff) const { TIFFClose(tiff); }
};
using Tiff = std::unique_ptr<TIFF, Close>;

struct Release {
    void operator()(void* codec) const { tjDestroy(codec); }
};
using JpegCodec = std::unique_ptr<void, Release>;

struct PngImage : png_image {
    PngImage() : png_image{} { version = PNG_IMAGE_VERSION; }
    ~PngImage() { png_image_free(this); }
    PngImage(const PngImage&) = delete;
    PngImage& operator=(const PngImage&) = delete;
};

cv::Mat decode_png(const std::string& bytes) {
    PngImage png;
    if (png_image_begin_read_from_memory(&png, bytes.data(), bytes.size()) == 0) return {};
    // Sixteen bits a channel are as bright as eight are, where the file says nothing else.
    png.flags |= PNG_IMAGE_FLAG_16BIT_sRGB;
    png.format = PNG_FORMAT_BGR;
    cv::Mat out(static_cast<int>(png.height), static_cast<int>(png.width), CV_8UC3);
    const png_color paper{kPaperWhite, kPaperWhite, kPaperWhite};
    const int whole = png_image_finish_read(&png, &paper, out.data, static_cast<png_int_32>(out.step), nullptr);
    return whole != 0 ? out : cv::Mat();
}

cv::Mat decode_jpeg(const std::string& bytes) {
    const JpegCodec codec(tjInitDecompress());
    const auto* data = reinterpret_cast<const unsigned char*>(bytes.data());
    int width = 0, height = 0, sampling = 0, colours = 0;
    if (!codec || tjDecompressHeader3(codec.get(), data, bytes.size(), &width, &height, &sampling, &colours) != 0)
        return {};
    const bool for_print = colours == TJCS_CMYK || colours == TJCS_YCCK;
    cv::Mat out(height, width, for_print ? CV_8UC4 : CV_8UC3);
    const int failed = tjDecompress2(codec.get(), data, bytes.size(), out.data, width, static_cast<int>(out.step),
                                     height, for_print ? TJPF_CMYK : TJPF_BGR, TJFLAG_ACCURATEDCT);
    // Warnings are of files that can be read nevertheless.
    if (failed != 0 && tjGetErrorCode(codec.get()) != TJERR_WARNING) return {};
    if (!for_print) return out;
    // Four inks are noted by how little there is of each, as all programs do that write them.
    cv::Mat seen(height, width, CV_8UC3);
    seen.forEach<cv::Vec3b>([&](cv::Vec3b& to, const int* at) {
        const auto& inks = out.at<cv::Vec4b>(at[0], at[1]);
        for (int i = 0; i < 3; ++i) to[2 - i] = static_cast<uchar>(inks[i] * inks[3] / 0xFF);
    });
    return seen;
}

// From a file in memory, which libtiff reads by its descriptor.
Tiff tiff_of(const std::string& bytes) {
    const int descriptor = ::memfd_create("sheet", MFD_CLOEXEC);
    if (descriptor < 0) return {};
    size_t written = 0;
    while (written < bytes.size()) {
        const ssize_t n = ::write(descriptor, bytes.data() + written, bytes.size() - written);
        if (n <= 0) break;
        written += static_cast<size_t>(n);
    }
    ::lseek(descriptor, 0, SEEK_SET);
    Tiff tiff(written == bytes.size() ? TIFFFdOpen(descriptor, "sheet", "rm") : nullptr);
    if (!tiff) ::close(descriptor);
    return tiff;
}

// header: as it was found to be of no forbidding size.
cv::Mat decode_tiff(const std::string& bytes, int frame, const PictureHeader& header) {
    TIFFSetErrorHandler(nullptr);  // it would write to stderr
    TIFFSetWarningHandler(nullptr);
    const Tiff tiff = tiff_of(bytes);
    uint32_t width = 0, height = 0;
    if (!tiff || TIFFSetDirectory(tiff.get(), static_cast<tdir_t>(frame)) == 0 ||
        TIFFGetField(tiff.get(), TIFFTAG_IMAGEWIDTH, &width) == 0 ||
        TIFFGetField(tiff.get(), TIFFTAG_IMAGELENGTH, &height) == 0 || width != header.width_px ||
        height != header.height_px)
        return {};
    // As it is stored: how it is turned is done for all kinds alike.
    TIFFSetField(tiff.get(), TIFFTAG_ORIENTATION, ORIENTATION_TOPLEFT);
    cv::Mat rgba(static_cast<int>(height), static_cast<int>(width), CV_8UC4);
    if (TIFFReadRGBAImageOriented(tiff.get(), width, height, reinterpret_cast<uint32_t*>(rgba.data),
                                  ORIENTATION_TOPLEFT, 1) == 0)
        return {};
    cv::Mat out(rgba.size(), CV_8UC3);
    out.forEach<cv::Vec3b>([&](cv::Vec3b& to, const int* at) {
        uint32_t word = 0;
        std::memcpy(&word, rgba.ptr(at[0], at[1]), sizeof word);
        // Its colours were multiplied by how opaque they are.
        const uint32_t paper = kPaperWhite - TIFFGetA(word);
        to = {cv::saturate_cast<uchar>(TIFFGetB(word) + paper), cv::saturate_cast<uchar>(TIFFGetG(word) + paper),
              cv::saturate_cast<uchar>(TIFFGetR(word) + paper)};
    });
    return out;
}

cv::Mat decode_webp(const std::string& bytes) {
    const auto* data = reinterpret_cast<const uint8_t*>(bytes.data());
    int width = 0, height = 0;
    if (WebPGetInfo(data, bytes.size(), &width, &height) == 0) return {};
    cv::Mat bgra(height, width, CV_8UC4), out(height, width, CV_8UC3);
    if (!WebPDecodeBGRAInto(data, bytes.size(), bgra.data, bgra.total() * bgra.elemSize(), static_cast<int>(bgra.step)))
        return {};
    out.forEach<cv::Vec3b>([&](cv::Vec3b& to, const int* at) {
        const auto& from = bgra.at<cv::Vec4b>(at[0], at[1]);
        for (int i = 0; i < 3; ++i)
            to[i] = static_cast<uchar>((from[i] * from[3] + kPaperWhite * (0xFF - from[3])) / 0xFF);
    });
    return out;
}

cv::Mat decoded(const std::string& bytes, int frame, const PictureHeader& header) {
    switch (picture_kind(bytes)) {
        case PictureKind::png:
            return decode_png(bytes);
        case PictureKind::jpeg:
            return decode_jpeg(bytes);
        case PictureKind::tiff:
            return decode_tiff(bytes, frame, header);
        case PictureKind::webp:
            return decode_webp(bytes);
        default:
            return {};
    }
}

cv::Mat turned_as_held(const cv::Mat& pixels, int orientation) {
    cv::Mat out = pixels;
    if (orientation >= 5) out = out.t();  // its first row is the left side
    // Then columns and rows run the other way round: 1 to 4, and 5 to 8 likewise.
    const bool leftwards = orientation == 2 || orientation == 3 || orientation == 6 || orientation == 7;
    const bool upwards = orientation == 3 || orientation == 4 || orientation == 7 || orientation == 8;
    if (leftwards || upwards) cv::flip(out, out, leftwards && upwards ? -1 : leftwards ? 1 : 0);
    return out;
}

}  // namespace

Result<cv::Mat> decode_raster(const std::string& bytes, int frame) {
    const Error damaged{"The picture is damaged or of a kind that can't be read."};
    const std::vector<PictureHeader> headers = picture_headers(bytes);
    if (frame < 0 || static_cast<size_t>(frame) >= headers.size()) return damaged;
    const PictureHeader& header = headers[static_cast<size_t>(frame)];
    const cv::Mat pixels = decoded(bytes, frame, header);
    if (pixels.empty()) return damaged;
    return turned_as_held(pixels, header.orientation);
}

std::string encode_png(const cv::Mat& pixels) {
    if (pixels.empty()) return {};
    PngImage png;
    png.width = static_cast<png_uint_32>(pixels.cols), png.height = static_cast<png_uint_32>(pixels.rows);
    png.format = pixels.channels() == 1 ? PNG_FORMAT_GRAY : PNG_FORMAT_BGR;
    const auto row = static_cast<png_int_32>(pixels.step);
    png_alloc_size_t size = PNG_IMAGE_PNG_SIZE_MAX(png);
    std::string out(size, '\0');
    if (png_image_write_to_memory(&png, out.data(), &size, 0, pixels.data, row, nullptr) == 0) return {};
    out.resize(size);
    return out;
}

std::string encode_jpeg(const cv::Mat& pixels, int quality) {
    const JpegCodec codec(tjInitCompress());
    if (!codec || pixels.empty()) return {};
    const bool grey = pixels.channels() == 1;
    unsigned char* data = nullptr;
    unsigned long size = 0;
    std::string out;
    if (tjCompress2(codec.get(), pixels.data, pixels.cols, static_cast<int>(pixels.step), pixels.rows,
                    grey ? TJPF_GRAY : TJPF_BGR, &data, &size, grey ? TJSAMP_GRAY : TJSAMP_420, quality,
                    TJFLAG_ACCURATEDCT) == 0)
        out.assign(reinterpret_cast<const char*>(data), size);
    tjFree(data);
    return out;
}

}  // namespace fernleaf
