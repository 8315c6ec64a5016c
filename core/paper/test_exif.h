// A JPEG with a camera's note of how it was held, for tests.
#pragma once

#include <string>

namespace fernleaf {

// orientation: 1 to 8, as TIFF 6.0 counts it.
inline std::string with_orientation(std::string jpeg, char orientation) {
    std::string exif(
        "\xFF\xE1\x00\x22"
        "Exif\0\0"
        "MM\0*\0\0\0\x08\0\x01"
        "\x01\x12\0\x03\0\0\0\x01\0\x06\0\0"
        "\0\0\0\0",
        36);
    exif[29] = orientation;
    return jpeg.insert(2, exif);
}

}  // namespace fernleaf
