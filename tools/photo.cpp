#include "demo/photo.h"

#include <cmath>
#include <numbers>
#include <opencv2/imgproc.hpp>

#include "demo/sheet_mesh.h"
#include "ink/nib.h"
#include "paper/raster_file.h"

namespace fernleaf {
namespace {

constexpr int kTexturePx = 2048;
constexpr double kTextureSpan = 8;  // lengths of a sheet's longer side across the texture
constexpr double kFocal = 1.05;     // of a telephone's camera, in parts of the picture's longer side

double between(double low, double high, std::mt19937& random) {
    return std::uniform_real_distribution<double>(low, high)(random);
}

// Smooth noise about 0, CV_32F: cells across and down it.
cv::Mat noise(cv::Size size, cv::Size cells, double strength, std::mt19937& random) {
    cv::Mat coarse(cells, CV_32F), out;
    cv::RNG rng(random());
    rng.fill(coarse, cv::RNG::NORMAL, 0, strength);
    cv::resize(coarse, out, size, 0, 0, cv::INTER_CUBIC);
    return out;
}

cv::Scalar colour(double red, double green, double blue) { return {blue, green, red}; }

// What the table looks like from above.
cv::Mat ground_texture(Ground ground, std::mt19937& random) {
    const cv::Size size(kTexturePx, kTexturePx);
    const double tone = between(0, 1, random);
    cv::Scalar base;
    cv::Mat grain(size, CV_32F, cv::Scalar(0));
    switch (ground) {
        case Ground::wood: {
            base = colour(110 + 90 * tone, 72 + 75 * tone, 40 + 62 * tone);
            grain +=
                noise(size, {6, 400}, 9, random) + noise(size, {20, 1000}, 7, random) + noise(size, {3, 60}, 9, random);
            const int plank = static_cast<int>(between(90, 260, random));
            for (int y = plank / 2; y < size.height; y += plank)
                cv::line(grain, {0, y}, {size.width, y}, cv::Scalar(-45), 2);
            if (random() % 2) cv::transpose(grain, grain);
            break;
        }
        case Ground::cloth: {
            base = colour(between(40, 200, random), between(40, 200, random), between(40, 200, random));
            const double stripe = between(18, 70, random), depth = random() % 2 ? between(10, 45, random) : 0;
            for (int y = 0; y < size.height; ++y)
                for (int x = 0; x < size.width; ++x)
                    grain.at<float>(y, x) = static_cast<float>(
                        6 * std::sin(x * 1.7) * std::sin(y * 1.7) +
                        depth * ((std::fmod(x, 2 * stripe) < stripe) + (std::fmod(y, 2 * stripe) < stripe) - 1));
            grain += noise(size, {700, 700}, 5, random) + noise(size, {9, 9}, 6, random);
            break;
        }
        case Ground::desk:
            base = colour(between(60, 190, random), between(60, 190, random), between(60, 190, random));
            grain += noise(size, {12, 12}, 4, random) + noise(size, {900, 900}, 3, random);
            break;
        case Ground::bright:
            base = colour(between(196, 228, random), between(192, 222, random), between(180, 216, random));
            grain += noise(size, {8, 8}, 3, random) + noise(size, {900, 900}, 2, random);
            break;
        case Ground::dark:
            base = colour(between(15, 60, random), between(15, 60, random), between(15, 60, random));
            grain += noise(size, {12, 12}, 3, random) + noise(size, {300, 300}, 4, random);
            break;
    }
    cv::Mat out(size, CV_32FC3, base), three;
    cv::merge(std::vector<cv::Mat>(3, grain), three);
    return out + three;
}

// A pinhole camera over the table, whose plane is z = 0.
struct Camera {
    cv::Matx33d turn;
    double away = 3, focal = 0, middle_x = 0, middle_y = 0;

    Point project(double x, double y, double z) const {
        const cv::Vec3d p = turn * cv::Vec3d(x, y, -z);
        const double depth = p[2] + away;
        return {middle_x + focal * p[0] / depth, middle_y + focal * p[1] / depth};
    }
};

cv::Matx33d turned_about(const cv::Vec3d& axis, double angle) {
    const double c = std::cos(angle), s = std::sin(angle), t = 1 - c;
    const auto [x, y, z] = axis.val;
    return {t * x * x + c,     t * x * y - s * z, t * x * z + s * y, t * x * y + s * z, t * y * y + c,
            t * y * z - s * x, t * x * z - s * y, t * y * z + s * x, t * z * z + c};
}

// A sheet as it lies on the table.
struct LaidSheet {
    cv::Mat picture;
    double width = 1, height = 1;  // parts of the longest sheet's longer side
    double x = 0, y = 0, angle = 0, curl = 0;
    bool along = false;  // bulges along its height

    Point on_table(double u, double v) const {
        const double across = (u - 0.5) * width, down = (v - 0.5) * height;
        return {x + across * std::cos(angle) - down * std::sin(angle),
                y + across * std::sin(angle) + down * std::cos(angle)};
    }
    double lift(double u, double v) const {
        const double t = along ? v : u;
        return curl * std::sin(std::numbers::pi * t) * (1 + 0.5 * std::cos(std::numbers::pi * t));
    }
    Point seen(double u, double v, const Camera& camera) const {
        const Point p = on_table(u, v);
        return camera.project(p.x, p.y, lift(u, v));
    }
};

std::vector<LaidSheet> laid_out(const std::vector<cv::Mat>& sheets, const View& view, std::mt19937& random) {
    std::vector<LaidSheet> out;
    int longest = 1;
    for (const cv::Mat& s : sheets) longest = std::max({longest, s.cols, s.rows});
    const int columns = static_cast<int>(std::ceil(std::sqrt(static_cast<double>(sheets.size()))));
    const double pitch = sheets.size() > 1 ? between(1.12, 1.35, random) : 1;
    for (size_t i = 0; i < sheets.size(); ++i) {
        LaidSheet laid{sheets[i], static_cast<double>(sheets[i].cols) / longest,
                       static_cast<double>(sheets[i].rows) / longest};
        const int column = static_cast<int>(i) % columns, row = static_cast<int>(i) / columns;
        laid.x = (column - (columns - 1) / 2.0) * pitch;
        laid.y = row * pitch;
        laid.angle = view.roll_deg / 180 * std::numbers::pi;
        if (sheets.size() > 1) laid.angle += between(-0.14, 0.14, random);
        laid.curl = view.curl;
        laid.along = random() % 3 == 0;
        out.push_back(laid);
    }
    return out;
}

// Paper is cut straight but its corners suffer. CV_8U, 255 where there is paper.
cv::Mat paper_of(const cv::Mat& picture, bool torn, std::mt19937& random) {
    cv::Mat paper(picture.size(), CV_8U, cv::Scalar(255));
    if (!torn) return paper;
    const int w = picture.cols, h = picture.rows;
    const auto reach = [&](double share) { return static_cast<int>(share * std::min(w, h)); };
    const int right = random() % 2 ? w : 0, low = random() % 2 ? h : 0;
    const int a = reach(between(0.03, 0.09, random)), b = reach(between(0.03, 0.09, random));
    const std::vector<cv::Point> gone{{right, low}, {right ? right - a : a, low}, {right, low ? low - b : b}};
    cv::fillConvexPoly(paper, gone, cv::Scalar(0));
    const int r = reach(0.02);
    const cv::Point others[] = {{w - right, low}, {right, h - low}, {w - right, h - low}};
    for (const cv::Point& corner : others) {
        const cv::Point inner(corner.x ? corner.x - r : r, corner.y ? corner.y - r : r);
        cv::rectangle(paper, corner, inner, cv::Scalar(0), cv::FILLED);
        cv::circle(paper, inner, r, cv::Scalar(255), cv::FILLED);
    }
    return paper;
}

// Light that falls off to one side, and something that stands in it.
cv::Mat light(cv::Size size, double shadow, std::mt19937& random) {
    cv::Mat out(size, CV_32F);
    const double angle = between(0, 2 * std::numbers::pi, random), fall = between(0, 0.25, random);
    const double far = std::max(size.width, size.height);
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x)
            out.at<float>(y, x) = static_cast<float>(1 - fall * (0.5 + (x - size.width / 2.0) / far * std::cos(angle) +
                                                                 (y - size.height / 2.0) / far * std::sin(angle)));
    if (shadow <= 0) return out;
    cv::Mat cast(size / 8, CV_32F, cv::Scalar(0)), soft;
    std::vector<cv::Point> shape;
    const cv::Point2d at(between(0, 1, random) * cast.cols, between(0, 1, random) * cast.rows);
    for (int i = 0; i < 7; ++i) {
        const double a = i * 2 * std::numbers::pi / 7, r = between(0.2, 0.6, random) * std::max(cast.cols, cast.rows);
        shape.emplace_back(static_cast<int>(at.x + r * std::cos(a)), static_cast<int>(at.y + r * std::sin(a)));
    }
    cv::fillPoly(cast, std::vector{shape}, cv::Scalar(shadow));
    cv::GaussianBlur(cast, cast, {}, between(0.004, 0.05, random) * far / 8 + 0.8);
    cv::resize(cast, soft, size, 0, 0, cv::INTER_CUBIC);
    return out.mul(1 - soft);
}

void lay_upon(cv::Mat& under, const cv::Mat& upper, const cv::Mat& alpha) {
    cv::Mat three;
    cv::merge(std::vector<cv::Mat>(3, alpha), three);
    under = under.mul(cv::Scalar::all(1) - three) + upper.mul(three);
}

}  // namespace

void draw_ink(cv::Mat& sheet, const std::vector<Stroke>& strokes, double px_per_mm) {
    // Drawn finer and made smaller: lines of a few pixels come out as wide as they should be.
    constexpr int kFiner = 4, kShift = 4;  // kShift: of fixed-point coordinates
    const double fine = px_per_mm * kFiner;
    for (const Stroke& stroke : strokes) {
        const std::vector<InkPoint> points = smoothed(stroke.points, 0.2);
        const std::vector<NibMark> marks = nib_marks(stroke.pen, points);
        double widest = 0;
        for (const NibMark& mark : marks) widest = std::max(widest, mark.width_mm);
        const Box box = stroke.box().grown(widest);
        const cv::Rect part = cv::Rect(cv::Point(static_cast<int>(std::floor(box.left * px_per_mm)),
                                                 static_cast<int>(std::floor(box.top * px_per_mm))),
                                       cv::Point(static_cast<int>(std::ceil(box.right * px_per_mm)) + 1,
                                                 static_cast<int>(std::ceil(box.bottom * px_per_mm)) + 1)) &
                              cv::Rect(0, 0, sheet.cols, sheet.rows);
        if (part.empty()) continue;
        cv::Mat mask(part.height * kFiner, part.width * kFiner, CV_8U, cv::Scalar(0)), cover;
        const auto place = [&](Point p) {
            return cv::Point(static_cast<int>(std::lround((p.x * fine - part.x * kFiner) * (1 << kShift))),
                             static_cast<int>(std::lround((p.y * fine - part.y * kFiner) * (1 << kShift))));
        };
        for (size_t i = 0; i < points.size(); ++i) {
            const int width = std::max(1, static_cast<int>(std::lround(marks[i].width_mm * fine)));
            cv::line(mask, place(points[i > 0 ? i - 1 : 0].at), place(points[i].at), cv::Scalar(255), width, cv::LINE_8,
                     kShift);
        }
        cv::resize(mask, cover, part.size(), 0, 0, cv::INTER_AREA);
        const uint32_t c = stroke.pen.colour;
        const cv::Vec3d ink(c & 0xFF, c >> 8 & 0xFF, c >> 16 & 0xFF);
        for (int y = 0; y < part.height; ++y)
            for (int x = 0; x < part.width; ++x)
                if (const double covered = cover.at<uchar>(y, x) / 255.0; covered > 0) {
                    auto& px = sheet.at<cv::Vec3b>(part.y + y, part.x + x);
                    px = ink * covered + cv::Vec3d(px) * (1 - covered);
                }
    }
}

View any_view(std::mt19937& random) {
    const auto chance = [&](double p) { return between(0, 1, random) < p; };
    View view;
    view.ground = static_cast<Ground>(random() % 5);
    view.tilt_deg = between(0, 45, random);
    view.tilt_towards = between(0, 2 * std::numbers::pi, random);
    view.roll_deg = between(-25, 25, random);
    view.fill = between(0.55, 0.95, random);
    view.off_x = between(-0.04, 0.04, random);
    view.off_y = between(-0.04, 0.04, random);
    if (chance(0.12)) view.fill = between(1.0, 1.08, random);  // a corner does not fit in
    if (chance(0.3)) view.curl = between(0.01, 0.06, random);
    if (chance(0.6)) view.shadow = between(0.1, 0.5, random);
    view.blur_px = between(0.3, 1.6, random);
    view.noise = between(1, 6, random);
    view.jpeg_quality = static_cast<int>(between(60, 95, random));
    view.torn = chance(0.2);
    return view;
}

Photo take_photo(const std::vector<cv::Mat>& sheets, const View& view, std::mt19937& random) {
    const bool lying = random() % 4 == 0;
    const int short_side = view.long_side_px * 3 / 4;
    const cv::Size size = lying ? cv::Size(view.long_side_px, short_side) : cv::Size(short_side, view.long_side_px);
    const std::vector<LaidSheet> laid = laid_out(sheets, view, random);

    Camera camera;
    camera.turn = turned_about({std::cos(view.tilt_towards), std::sin(view.tilt_towards), 0},
                               view.tilt_deg / 180 * std::numbers::pi);
    camera.focal = kFocal * view.long_side_px;
    const auto extent = [&] {
        Box box;
        for (const LaidSheet& sheet : laid)
            for (const auto& [u, v] : {std::pair{0, 0}, {1, 0}, {1, 1}, {0, 1}}) box.include(sheet.seen(u, v, camera));
        return box;
    };
    // As near as the sheets fit in.
    double near = 0.9 * std::sqrt(static_cast<double>(laid.size())), far = 60;
    for (int i = 0; i < 40; ++i) {
        camera.away = (near + far) / 2;
        const Box box = extent();
        const bool fits = box.width() < view.fill * size.width && box.height() < view.fill * size.height;
        (fits ? far : near) = camera.away;
    }
    const Point middle = extent().centre();
    camera.middle_x = size.width * (0.5 + view.off_x) - middle.x;
    camera.middle_y = size.height * (0.5 + view.off_y) - middle.y;

    // The table.
    std::array<cv::Point2f, 4> on_texture, in_picture;
    const double reach = 0.6;
    const double corners[4][2] = {{-reach, -reach}, {reach, -reach}, {reach, reach}, {-reach, reach}};
    for (size_t k = 0; k < 4; ++k) {
        const Point p = camera.project(corners[k][0], corners[k][1], 0);
        in_picture[k] = {static_cast<float>(p.x), static_cast<float>(p.y)};
        on_texture[k] = {static_cast<float>((corners[k][0] / kTextureSpan + 0.5) * kTexturePx),
                         static_cast<float>((corners[k][1] / kTextureSpan + 0.5) * kTexturePx)};
    }
    cv::Mat scene;
    cv::warpPerspective(ground_texture(view.ground, random), scene,
                        cv::getPerspectiveTransform(on_texture.data(), in_picture.data()), size, cv::INTER_LINEAR,
                        cv::BORDER_REFLECT);

    Photo photo;
    for (const LaidSheet& sheet : laid) {
        cv::Mat map_x(size, CV_32F, cv::Scalar(-10)), map_y(size, CV_32F, cv::Scalar(-10)), seen, alpha;
        map_sheet(
            sheet.picture.size(), [&](double u, double v) { return sheet.seen(u, v, camera); }, map_x, map_y);
        cv::Mat paper = paper_of(sheet.picture, view.torn, random);
        cv::remap(sheet.picture, seen, map_x, map_y, cv::INTER_LINEAR, cv::BORDER_REPLICATE);
        cv::remap(paper, alpha, map_x, map_y, cv::INTER_LINEAR, cv::BORDER_CONSTANT, cv::Scalar(0));
        alpha.convertTo(alpha, CV_32F, 1 / 255.0);
        seen.convertTo(seen, CV_32F);
        // The sheet takes light from the table beside it.
        cv::Mat contact;
        const double wide = between(0.001, 0.006, random) * view.long_side_px + 30 * sheet.curl;
        cv::GaussianBlur(alpha, contact, {}, wide);
        const double off = wide * between(0.2, 1, random);
        cv::warpAffine(contact, contact, cv::Matx23d(1, 0, off, 0, 1, off), size);
        cv::Mat three;
        cv::merge(std::vector<cv::Mat>(3, 1 - between(0.15, 0.5, random) * contact), three);
        scene = scene.mul(three);
        lay_upon(scene, seen, alpha);

        PhotographedSheet truth;
        const auto seen_at = [&](double u, double v) { return sheet.seen(u, v, camera); };
        truth.corners = {seen_at(0, 0), seen_at(1, 0), seen_at(1, 1), seen_at(0, 1)};
        truth.outline = outline_seen(seen_at);
        photo.sheets.push_back(std::move(truth));
    }

    cv::Mat three;
    cv::merge(std::vector<cv::Mat>(3, light(size, view.shadow, random)), three);
    scene = scene.mul(three);
    const double warm = between(-0.08, 0.12, random);  // of the lamp
    cv::multiply(scene, cv::Scalar(1 - std::max(0.0, warm), 1 - 0.3 * std::abs(warm), 1 + std::min(0.0, warm)), scene);
    if (view.blur_px > 0) cv::GaussianBlur(scene, scene, {}, view.blur_px);
    cv::Mat grain(size, CV_32FC3);
    cv::RNG rng(random());
    rng.fill(grain, cv::RNG::NORMAL, 0, view.noise);
    scene += grain;
    cv::Mat bytes;
    scene.convertTo(bytes, CV_8UC3);
    photo.pixels = *decode_raster(encode_jpeg(bytes, view.jpeg_quality), 0);
    return photo;
}

}  // namespace fernleaf
