// What the first bytes of a picture's file tell: its kind, how large its pictures are, how finely a scanner took them,
// how a camera was held. Nothing is decoded.
//
//   for (const PictureHeader& one : picture_headers(bytes)) ...   // one a page
#pragma once

#include <cstddef>
#include <cstdint>
#include <string_view>
#include <vector>

namespace fernleaf {

enum class PictureKind { unknown, png, jpeg, tiff, webp, pdf };

PictureKind picture_kind(std::string_view bytes);

struct PictureHeader {
    int64_t width_px = 0, height_px = 0;  // as they are stored
    double dpi = 0;                       // as noted in the file; 0 where it is not, or where a camera noted it
    int orientation = 1;                  // as TIFF 6.0 counts it, 1 to 8; from 5 on width and height change places
};

constexpr int kMostSheets = 2000;
constexpr size_t kPngHeaderBytes = 33;  // the signature and IHDR

// Of PNG, JPEG, WebP and of each directory of a TIFF, of which there may be fewer than kMostSheets; none for other
// kinds and for damaged files.
std::vector<PictureHeader> picture_headers(std::string_view bytes);

// A WebP file of several pictures, one after another in time.
bool moves(std::string_view bytes);

// A JPEG or PNG whose end is missing. Decoders fill what is lacking with grey and call it done.
bool cut_short(std::string_view bytes);

}  // namespace fernleaf
