#include "paper/picture_header.h"

#include <algorithm>
#include <optional>

#include "base/geometry.h"

namespace fernleaf {
namespace {

using namespace std::literals;

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

// The directories of a TIFF, which are those of Exif as well; fewer than there are when the chain is broken.
std::vector<PictureHeader> tiff_headers(std::string_view b) {
    const bool intel = b.starts_with('I');
    const auto read = [&](size_t at, int count) { return intel ? little(b, at, count) : big(b, at, count); };
    std::vector<PictureHeader> out;
    std::vector<uint32_t> seen;
    for (uint32_t at = read(4, 4); at != 0 && at + 2 < b.size() && out.size() < kMostSheets;) {
        if (std::ranges::find(seen, at) != seen.end()) break;
        seen.push_back(at);
        const uint32_t entries = read(at, 2);
        PictureHeader one;
        uint32_t unit = 2;  // of density: an inch, where nothing else is said
        for (uint32_t i = 0; i < entries; ++i) {
            const size_t entry = at + 2 + 12 * size_t{i};
            if (entry >= b.size()) break;
            const uint32_t tag = read(entry, 2);
            const uint32_t value = read(entry + 2, 2) == 3 ? read(entry + 8, 2) : read(entry + 8, 4);
            if (tag == 256) one.width_px = value;
            if (tag == 257) one.height_px = value;
            if (tag == 274 && value >= 1 && value <= 8) one.orientation = static_cast<int>(value);
            if (tag == 282 && read(value + 4, 4) > 0)
                one.dpi = static_cast<double>(read(value, 4)) / read(value + 4, 4);
            if (tag == 296) unit = value;
        }
        one.dpi *= unit == 1 ? 0 : unit == 3 ? kMmPerInch / 10 : 1;
        out.push_back(one);
        at = read(at + 2 + 12 * size_t{entries}, 4);
    }
    return out;
}

int exif_orientation(std::string_view exif) {
    const std::vector<PictureHeader> directories = tiff_headers(exif);
    return directories.empty() ? 1 : directories.front().orientation;
}

PictureHeader png_header(std::string_view b) {
    PictureHeader out{big(b, 16, 4), big(b, 20, 4)};
    for (size_t at = kPngHeaderBytes; at + 12 < b.size(); at += 12 + size_t{big(b, at, 4)}) {
        const std::string_view kind = b.substr(at + 4, 4);
        if (kind == "IDAT") break;
        if (kind == "pHYs" && big(b, at + 16, 1) == 1) out.dpi = big(b, at + 8, 4) * kMmPerInch / 1000;
        if (kind == "eXIf") out.orientation = exif_orientation(b.substr(at + 8, big(b, at, 4)));
    }
    return out;
}

// The density of a picture with a camera's notes (Exif) says nothing of paper.
std::optional<PictureHeader> jpeg_header(std::string_view b) {
    PictureHeader out;
    for (size_t at = 2; at + 9 < b.size();) {
        if (static_cast<unsigned char>(b[at]) != 0xFF) return std::nullopt;
        const auto marker = static_cast<unsigned char>(b[at + 1]);
        if (marker == 0xFF) {
            ++at;
            continue;
        }
        const bool frame = marker >= 0xC0 && marker <= 0xCF && marker != 0xC4 && marker != 0xC8 && marker != 0xCC;
        if (frame) {
            out.width_px = big(b, at + 7, 2), out.height_px = big(b, at + 5, 2);
            return out;
        }
        const size_t length = big(b, at + 2, 2);
        const std::string_view note = b.substr(at + 4, 4);
        if (marker == 0xE0 && note == "JFIF" && b.size() > at + 13) {
            const uint32_t unit = big(b, at + 11, 1);  // dots an inch, or a centimetre
            out.dpi = unit == 0 ? 0 : big(b, at + 12, 2) * (unit == 2 ? kMmPerInch / 10 : 1);
        }
        if (marker == 0xE1 && note == "Exif") {
            out.dpi = 0;
            if (length > 8 && at + 10 < b.size()) out.orientation = exif_orientation(b.substr(at + 10, length - 8));
        }
        at += 2 + length;
    }
    return std::nullopt;
}

std::optional<PictureHeader> webp_header(std::string_view b) {
    const std::string_view chunk = b.substr(12, 4);
    if (chunk == "VP8X") return PictureHeader{1 + little(b, 24, 3), 1 + little(b, 27, 3)};
    if (chunk == "VP8L") {
        const uint32_t bits = little(b, 21, 4);
        return PictureHeader{1 + (bits & 0x3FFF), 1 + (bits >> 14 & 0x3FFF)};
    }
    if (chunk == "VP8 ") return PictureHeader{little(b, 26, 2) & 0x3FFF, little(b, 28, 2) & 0x3FFF};
    return std::nullopt;
}

}  // namespace

PictureKind picture_kind(std::string_view b) {
    if (b.starts_with("\x89PNG\r\n\x1a\n")) return PictureKind::png;
    if (b.starts_with("\xFF\xD8\xFF")) return PictureKind::jpeg;
    if (b.starts_with("II*\0"sv) || b.starts_with("MM\0*"sv)) return PictureKind::tiff;
    if (b.starts_with("RIFF") && b.size() > 30 && b.substr(8, 4) == "WEBP") return PictureKind::webp;
    if (b.substr(0, 1024).find("%PDF-") != std::string_view::npos) return PictureKind::pdf;
    return PictureKind::unknown;
}

std::vector<PictureHeader> picture_headers(std::string_view bytes) {
    std::optional<PictureHeader> one;
    switch (picture_kind(bytes)) {
        case PictureKind::png:
            one = png_header(bytes);
            break;
        case PictureKind::jpeg:
            one = jpeg_header(bytes);
            break;
        case PictureKind::webp:
            one = webp_header(bytes);
            break;
        case PictureKind::tiff:
            return tiff_headers(bytes);
        default:
            break;
    }
    return one ? std::vector{*one} : std::vector<PictureHeader>();
}

bool moves(std::string_view b) {
    return picture_kind(b) == PictureKind::webp && b.substr(12, 4) == "VP8X" && (little(b, 20, 1) & 2) != 0;
}

bool cut_short(std::string_view b) {
    if (picture_kind(b) == PictureKind::png) return b.find("IEND") == std::string_view::npos;
    if (picture_kind(b) != PictureKind::jpeg) return false;
    // The end marker stands behind where the picture's data begin; a small picture in the camera's notes has its own.
    size_t at = 2;
    while (at + 4 < b.size() && static_cast<unsigned char>(b[at]) == 0xFF &&
           static_cast<unsigned char>(b[at + 1]) != 0xDA)
        at += static_cast<unsigned char>(b[at + 1]) == 0xFF ? 1 : 2 + big(b, at + 2, 2);
    return b.find("\xFF\xD9", at) == std::string_view::npos;
}

}  // namespace fernleaf
