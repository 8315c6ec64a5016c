#include "document/picture/picture.h"

#include <cmath>

#include "base/json.h"
#include "document/turned_box.h"

namespace fernleaf {
namespace {

constexpr double kLeastPart = 0.01;  // of a picture, to be shown
constexpr int kMostFrames = 1'000'000;

}  // namespace

Box whole_box(const Picture& picture) {
    const double width = picture.box.width() / picture.crop.width(),
                 height = picture.box.height() / picture.crop.height();
    return Box::of(picture.box.left - picture.crop.left * width, picture.box.top - picture.crop.top * height, width,
                   height);
}

Picture cropped(Picture picture, Box part) {
    part = {std::clamp(part.left, 0.0, 1 - kLeastPart), std::clamp(part.top, 0.0, 1 - kLeastPart),
            std::clamp(part.right, 0.0, 1.0), std::clamp(part.bottom, 0.0, 1.0)};
    part.right = std::max(part.right, part.left + kLeastPart);
    part.bottom = std::max(part.bottom, part.top + kLeastPart);
    const Box whole = whole_box(picture);
    const Box shown = Box::of(whole.left + part.left * whole.width(), whole.top + part.top * whole.height(),
                              part.width() * whole.width(), part.height() * whole.height());
    // It is turned about its own middle from now on, and still lies as it lay.
    const Point middle = turned(shown.centre(), picture.angle, picture.box.centre());
    picture.box = shifted(shown, middle - shown.centre());
    picture.crop = part;
    return picture;
}

Box ElementTraits<Picture>::bounds(const Picture& picture) {
    return turned(picture.box, picture.angle, picture.box.centre());
}

bool ElementTraits<Picture>::covers(const Picture& picture, Point p, double) {
    return lies_on(picture.box, picture.angle, p);
}

bool ElementTraits<Picture>::mostly_inside(const Picture& picture, const std::vector<Point>& polygon) {
    return fernleaf::mostly_inside(picture.box, picture.angle, polygon);
}

Picture ElementTraits<Picture>::transformed(Picture picture, const Affine& by) {
    const double width = picture.box.width() * std::hypot(by.xx, by.yx);
    const double height = picture.box.height() * std::hypot(by.xy, by.yy);
    const Point middle = by(picture.box.centre());
    picture.box = Box::of(middle.x - width / 2, middle.y - height / 2, width, height);
    picture.angle = turned_by(picture.angle, by);
    return picture;
}

std::optional<std::string> ElementTraits<Picture>::validation_error(const Picture& p) {
    if (std::isfinite(p.box.width()) && std::isfinite(p.box.height()) && std::isfinite(p.angle)) return {};
    return "A picture holds numbers that are no place on a page.";
}

std::string ElementTraits<Picture>::encode(const Picture& p) {
    Json j{{"file", p.file}, {"box", json_of(p.box)}};
    if (!p.name.empty()) j["name"] = p.name;
    if (p.frame != 0) j["frame"] = p.frame;
    if (p.angle != 0) j["angle"] = p.angle;
    if (p.crop != Box{0, 0, 1, 1}) j["crop"] = json_of(p.crop);
    if (p.locked) j["locked"] = true;
    if (!p.treatment.untouched()) j["treatment"] = encode_treatment(p.treatment);
    if (p.group != 0) j["group"] = p.group;
    return text_of(j);
}

Result<Picture> ElementTraits<Picture>::decode(std::string_view bytes) {
    const Error damaged{"A picture in the library is damaged."};
    try {
        const Json j = Json::parse(bytes);
        Picture p;
        p.file = j.at("file");
        p.name = j.value("name", std::string());
        p.frame = j.contains("frame") ? small(j["frame"], 0, kMostFrames) : 0;
        p.box = box_from(j.at("box"));
        p.angle = j.value("angle", 0.0);
        if (j.contains("crop")) p.crop = box_from(j["crop"]);
        p.locked = j.value("locked", false);
        auto treatment = decode_treatment(j.value("treatment", std::string()));
        if (!treatment || !is_place(p.box) || !is_place(p.crop) || !std::isfinite(p.angle)) return damaged;
        p.treatment = *std::move(treatment);
        p.group = group_in(j);
        return p;
    } catch (const std::exception&) {
        return damaged;
    }
}

}  // namespace fernleaf
