// A picture on a page: its file is content-addressed in the library and never altered.
#pragma once

#include <string>

#include "document/element_traits.h"
#include "document/treatment.h"

namespace fernleaf {

using PictureId = ElementId;

struct Picture {
    PictureId id = 0;
    std::string file;          // SHA-256 of the content, hexadecimal
    std::string name;          // the name it came with
    int frame = 0;             // which page of a PDF or a multi-page TIFF, counted from 0
    Box box;                   // mm: where it lies, before it is turned
    double angle = 0;          // degrees clockwise about its middle
    Box crop{0, 0, 1, 1};      // what is shown of it, in parts of its width and height
    bool locked = false;       // not to be moved by accident
    int64_t z = 0;             // its place among the others (z_of); 0: by its id
    Treatment treatment = {};  // what is done to the file's picture before anything else
    int64_t group = 0;         // those of one number are taken together; 0: by itself
    friend bool operator==(const Picture&, const Picture&) = default;
};

// A picture of which another part is shown, in parts of the whole; what is shown of both stays where it was. Parts
// beyond the picture and parts smaller than a hundredth of it are mended.
Picture cropped(Picture picture, Box part);

// Where the whole of a picture would lie, before it is turned about the middle of what is shown.
Box whole_box(const Picture& picture);

template <>
struct ElementTraits<Picture> {
    static constexpr ElementKind kKind = ElementKind::picture;
    static constexpr PaintLayer kLayer = PaintLayer::pictures;
    static Box bounds(const Picture& picture);
    static bool covers(const Picture& picture, Point p, double reach_mm);
    static bool mostly_inside(const Picture& picture, const std::vector<Point>& polygon);
    static Picture transformed(Picture picture, const Affine& by);
    static bool locked(const Picture& picture) { return picture.locked; }
    static constexpr bool kHasColour = false;
    static void set_colour(Picture&, uint32_t) {}
    static std::optional<std::string> validation_error(const Picture& picture);
    static std::string encode(const Picture& picture);
    static Result<Picture> decode(std::string_view bytes);
    static Picture as_kept(Picture picture) { return picture; }
    static std::vector<std::string> files(const Picture& picture) { return {picture.file}; }
    static std::vector<ElementId>* made_from(Picture&) { return nullptr; }
    static std::string plain_text(const Picture&) { return {}; }
};

}  // namespace fernleaf
