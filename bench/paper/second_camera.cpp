#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include "bench/paper/paper_camera.h"
#include "demo/chance.h"
#include "demo/sheet_mesh.h"

namespace fernleaf {
namespace {

// Pictures of things, surfaces and places, without writing, from Debian's opencv-doc and python3-skimage.
constexpr std::array kGroundNames{"Blender_Suzanne1.jpg",
                                  "aero1.jpg",
                                  "aero3.jpg",
                                  "aloeL.jpg",
                                  "apple.jpg",
                                  "astronaut.png",
                                  "baboon.jpg",
                                  "basketball1.png",
                                  "board.jpg",
                                  "brick.png",
                                  "building.jpg",
                                  "butterfly.jpg",
                                  "chelsea.png",
                                  "chicky_512.png",
                                  "coffee.png",
                                  "coins.png",
                                  "fruits.jpg",
                                  "graf1.png",
                                  "grass.png",
                                  "gravel.png",
                                  "home.jpg",
                                  "leuvenA.jpg",
                                  "motorcycle_left.png",
                                  "orange.jpg",
                                  "rocket.jpg",
                                  "rubberwhale1.png",
                                  "smarties.png",
                                  "squirrel_cls.jpg",
                                  "starry_night.jpg",
                                  "stuff.jpg"};

void multiply(cv::Mat& colours, const cv::Mat& factor) {
    cv::Mat three;
    cv::merge(std::vector<cv::Mat>(3, factor), three);
    colours = colours.mul(three);
}

void blend(cv::Mat& under, const cv::Mat& upper, const cv::Mat& alpha) {
    cv::Mat three;
    cv::merge(std::vector<cv::Mat>(3, alpha), three);
    under = under + (upper - under).mul(three);
}

// How a sheet rises from the table, in parts of its longer side: folds are tents along a straight crease, waves are
// sums of sines.
struct Relief {
    struct Fold {
        double at = 0.5, height = 0;
        bool level = true;  // the crease runs across the sheet
    };
    std::vector<Fold> folds;
    double wave = 0, waves_u = 1, waves_v = 1, phase = 0;

    double height(double u, double v) const {
        double out = wave * std::sin(2 * std::numbers::pi * (waves_u * u + waves_v * v) + phase);
        for (const Fold& fold : folds) {
            const double t = fold.level ? v : u;
            out += fold.height * (t < fold.at ? t / fold.at : (1 - t) / (1 - fold.at));
        }
        return out;
    }
};

Relief any_relief(Chance& chance, std::vector<std::string>& traits) {
    Relief out;
    if (chance.one_in(3)) {
        traits.emplace_back("folded");
        const bool level = chance.one_in(2), thirds = chance.one_in(2);
        const std::vector<double> places = thirds ? std::vector{1 / 3.0, 2 / 3.0} : std::vector{0.5};
        for (const double at : places) out.folds.push_back({at, chance.between(0.006, 0.03), level});
        if (chance.one_in(2)) out.folds.push_back({0.5, chance.between(0.006, 0.02), !level});
    }
    if (chance.one_in(3)) {
        traits.emplace_back("wavy");
        out.wave = chance.between(0.001, 0.006);
        out.waves_u = chance.between(-1.5, 1.5), out.waves_v = chance.between(-1.5, 1.5);
    }
    out.phase = chance.between(0, 6);
    return out;
}

// How much light each part of a bent sheet gets from a lamp aside. CV_32F about 1.
cv::Mat shading(const Relief& relief, cv::Size size, Chance& chance) {
    constexpr int kCoarse = 120;
    const double from = chance.between(0, 2 * std::numbers::pi);
    cv::Mat coarse(kCoarse, kCoarse, CV_32F), out;
    const double step = 1.0 / kCoarse;
    for (int y = 0; y < kCoarse; ++y)
        for (int x = 0; x < kCoarse; ++x) {
            const double u = (x + 0.5) * step, v = (y + 0.5) * step;
            const double du = (relief.height(u + step / 2, v) - relief.height(u - step / 2, v)) / step;
            const double dv = (relief.height(u, v + step / 2) - relief.height(u, v - step / 2)) / step;
            coarse.at<float>(y, x) = static_cast<float>(1 + 1.4 * (du * std::cos(from) + dv * std::sin(from)));
        }
    cv::resize(coarse, out, size, 0, 0, cv::INTER_LINEAR);
    return out;
}

// The ring that a cup leaves: uneven, darker at its edges.
void stain(cv::Mat& sheet, Chance& chance) {
    const double scale = 0.25;  // painted coarser
    cv::Mat ring(cv::Size(static_cast<int>(sheet.cols * scale), static_cast<int>(sheet.rows * scale)), CV_32F,
                 cv::Scalar(0));
    const double longer = std::max(ring.cols, ring.rows), r = longer * chance.between(0.1, 0.16);
    const cv::Point2d at(chance.between(0, 1) * ring.cols, chance.between(0, 1) * ring.rows);
    const double strength = chance.between(0.1, 0.3), a = chance.between(0, 6), b = chance.between(0, 6);
    for (int y = 0; y < ring.rows; ++y)
        for (int x = 0; x < ring.cols; ++x) {
            const double away = std::hypot(x - at.x, y - at.y), turn = std::atan2(y - at.y, x - at.x);
            const double uneven = 0.6 + 0.4 * std::sin(turn * 2 + a) * std::sin(turn * 3 + b);
            const double edge = std::exp(-std::pow((away - r) / (0.06 * r), 2));
            ring.at<float>(y, x) = static_cast<float>(strength * uneven * (edge + (away < r ? 0.15 : 0)));
        }
    cv::resize(ring, ring, sheet.size(), 0, 0, cv::INTER_LINEAR);
    std::vector<cv::Mat> parts;
    cv::split(sheet, parts);
    const std::array<double, 3> taken{1, 0.75, 0.5};  // brown takes most of the blue
    for (size_t c = 0; c < 3; ++c) parts[c] = parts[c].mul(1 - taken[c] * ring);
    cv::merge(parts, sheet);
}

// A lens over the table, which lies in the plane z = 0; lengths are longer sides of the longest sheet.
struct Lens {
    cv::Matx33d turn = cv::Matx33d::eye();
    double away = 2, focal = 1, barrel = 0;
    Point middle;
    double half_px = 1;  // of the picture's diagonal

    Point see(double x, double y, double z) const {
        const cv::Vec3d p = turn * cv::Vec3d(x, y, -z);
        const double px = focal * p[0] / (p[2] + away), py = focal * p[1] / (p[2] + away);
        const double r2 = (px * px + py * py) / (half_px * half_px);
        return {middle.x + px * (1 + barrel * r2), middle.y + py * (1 + barrel * r2)};
    }
};

cv::Matx33d tilted(double across, double down) {
    const cv::Matx33d a(1, 0, 0, 0, std::cos(down), -std::sin(down), 0, std::sin(down), std::cos(down));
    const cv::Matx33d b(std::cos(across), 0, std::sin(across), 0, 1, 0, -std::sin(across), 0, std::cos(across));
    return a * b;
}

// Where a sheet lies on the table.
struct Placed {
    double x = 0, y = 0, angle = 0, width = 1, height = 1;
    Relief relief;

    Point seen(const Lens& lens, double u, double v) const {
        const double across = (u - 0.5) * width, down = (v - 0.5) * height;
        return lens.see(x + across * std::cos(angle) - down * std::sin(angle),
                        y + across * std::sin(angle) + down * std::cos(angle), relief.height(u, v));
    }
};

cv::Mat read_ground(const std::filesystem::path& file, cv::Size size, Chance& chance) {
    cv::Mat picture = cv::imread(file.string(), cv::IMREAD_COLOR);
    for (int turns = static_cast<int>(chance.between(0, 4)); turns > 0; --turns)
        cv::rotate(picture, picture, cv::ROTATE_90_CLOCKWISE);
    const double grow = chance.between(1, 1.8) * std::max(static_cast<double>(size.width) / picture.cols,
                                                          static_cast<double>(size.height) / picture.rows);
    // Only what is seen is made large.
    const cv::Size part(std::max(2, static_cast<int>(size.width / grow)),
                        std::max(2, static_cast<int>(size.height / grow)));
    const cv::Point at(static_cast<int>(chance.between(0, 1) * (picture.cols - part.width)),
                       static_cast<int>(chance.between(0, 1) * (picture.rows - part.height)));
    cv::Mat out;
    cv::resize(picture(cv::Rect(at, part) & cv::Rect({}, picture.size())), out, size, 0, 0, cv::INTER_CUBIC);
    out.convertTo(out, CV_32FC3, 1 / 255.0);
    return out;
}

void to_linear(cv::Mat& colours) {
    cv::max(colours, 0, colours);
    cv::pow(colours, 2.2, colours);
}

// Light that the room's lamps give, with what stands in it: the photographer, softly; a window's frame, hard.
cv::Mat light(cv::Size size, Chance& chance, std::vector<std::string>& traits) {
    const cv::Size coarse(size.width / 4, size.height / 4);
    cv::Mat out(coarse, CV_32F);
    const double ax = chance.between(-0.35, 0.35), ay = chance.between(-0.35, 0.35), vignette = chance.between(0, 0.3);
    for (int y = 0; y < coarse.height; ++y)
        for (int x = 0; x < coarse.width; ++x) {
            const double u = static_cast<double>(x) / coarse.width - 0.5,
                         v = static_cast<double>(y) / coarse.height - 0.5;
            out.at<float>(y, x) = static_cast<float>((1 + ax * u + ay * v) * (1 - vignette * 2 * (u * u + v * v)));
        }
    const auto cast = [&](const cv::Mat& shade, double blur) {
        cv::Mat soft;
        cv::GaussianBlur(shade, soft, {}, blur);
        out = out.mul(1 - soft);
    };
    const double longer = std::max(coarse.width, coarse.height);
    if (chance.one_in(2.5)) {
        traits.emplace_back("soft shadow");
        cv::Mat shade(coarse, CV_32F, cv::Scalar(0));
        const cv::Point at(static_cast<int>(chance.between(0, 1) * coarse.width),
                           static_cast<int>(chance.between(0.4, 1.1) * coarse.height));
        cv::ellipse(
            shade, at,
            {static_cast<int>(longer * chance.between(0.2, 0.45)), static_cast<int>(longer * chance.between(0.3, 0.6))},
            chance.between(0, 180), 0, 360, cv::Scalar(chance.between(0.2, 0.55)), cv::FILLED);
        cast(shade, longer * chance.between(0.02, 0.08));
    }
    if (chance.one_in(4)) {
        traits.emplace_back("window frame");
        cv::Mat shade(coarse, CV_32F, cv::Scalar(0));
        const double turn = chance.between(0, std::numbers::pi), dark = chance.between(0.3, 0.6);
        const cv::Point2d at(chance.between(0.2, 0.8) * coarse.width, chance.between(0.2, 0.8) * coarse.height);
        for (const double a : {turn, turn + std::numbers::pi / 2 + chance.between(-0.2, 0.2)}) {
            const cv::Point2d along(std::cos(a) * 3 * longer, std::sin(a) * 3 * longer);
            cv::line(shade, at - along, at + along, cv::Scalar(dark),
                     static_cast<int>(longer * chance.between(0.03, 0.09)));
        }
        cast(shade, chance.between(1, 4));
    }
    cv::resize(out, out, size, 0, 0, cv::INTER_LINEAR);
    return out;
}

// A hand that holds a side, or something that lies on the table: over the border of the sheets, never far in.
void lay_things(cv::Mat& scene, const std::vector<Placed>& sheets, const Lens& lens, double margin, Chance& chance,
                std::vector<std::string>& traits) {
    const Placed& sheet = sheets[static_cast<size_t>(chance.between(0, static_cast<double>(sheets.size()) - 1e-9))];
    const double side = chance.between(0, 1) < 0.5 ? 0 : 1, along = chance.between(0.3, 0.8);
    const double scale = distance(sheet.seen(lens, 0, 0), sheet.seen(lens, 0, 1)) / sheet.height;  // px
    const auto at = [&](double in, double v) {
        const Point p = sheet.seen(lens, side == 0 ? in : 1 - in, v);
        return cv::Point2d(p.x, p.y);
    };
    cv::Mat alpha(scene.size(), CV_32F, cv::Scalar(0)), colours;
    if (chance.one_in(2)) {
        traits.emplace_back("hand");
        const double tone = chance.between(0.35, 1);
        colours = cv::Mat(scene.size(), CV_32FC3, cv::Scalar(0.42 * tone, 0.58 * tone, 0.84 * tone));
        const int wide = static_cast<int>(0.06 * scale);
        for (int finger = 0; finger < 2 + 2 * chance.one_in(2); ++finger) {
            const double v = along + 0.075 * finger;
            cv::line(alpha, at(margin * chance.between(0.3, 0.8), v), at(-1.2, v + chance.between(-0.1, 0.1)),
                     cv::Scalar(1), wide);
        }
    } else {
        traits.emplace_back("thing beside");
        colours = cv::Mat(scene.size(), CV_32FC3,
                          cv::Scalar(chance.between(0.02, 0.9), chance.between(0.02, 0.9), chance.between(0.02, 0.9)));
        const std::vector<cv::Point> shape{at(margin * 0.6, along), at(-chance.between(0.15, 0.3), along - 0.02),
                                           at(-chance.between(0.15, 0.3), along + 0.3), at(margin * 0.4, along + 0.25)};
        cv::fillConvexPoly(alpha, shape, cv::Scalar(1));
    }
    cv::GaussianBlur(alpha, alpha, {}, 2);
    cv::Mat shade;
    cv::resize(alpha, shade, {}, 0.1, 0.1, cv::INTER_AREA);
    cv::GaussianBlur(shade, shade, {}, 0.002 * std::max(scene.cols, scene.rows));
    cv::resize(shade, shade, scene.size());
    multiply(scene, 1 - 0.4 * shade);
    blend(scene, colours, alpha);
}

// The blur of a lens that is not quite in focus everywhere, and of a hand that moves.
void blur(cv::Mat& scene, double px_per_mm, Chance& chance, std::vector<std::string>& traits) {
    // Letters stay letters: of a width of stroke of some 0.35 mm.
    const double most = std::max(0.6, 0.16 * px_per_mm);
    const double here = chance.between(0.3, 0.6 * most), there = chance.between(0.3, most);
    cv::Mat one, other;
    cv::GaussianBlur(scene, one, {}, here);
    cv::GaussianBlur(scene, other, {}, there);
    cv::Mat ramp(8, 8, CV_32F), alpha;
    const double turn = chance.between(0, 2 * std::numbers::pi);
    for (int y = 0; y < 8; ++y)
        for (int x = 0; x < 8; ++x)
            ramp.at<float>(y, x) = static_cast<float>(
                std::clamp(0.5 + (x - 3.5) / 7 * std::cos(turn) + (y - 3.5) / 7 * std::sin(turn), 0.0, 1.0));
    cv::resize(ramp, alpha, scene.size(), 0, 0, cv::INTER_LINEAR);
    blend(one, other, alpha);
    scene = one;
    if (!chance.one_in(3)) return;
    traits.emplace_back("shaken");
    const int length = std::max(2, static_cast<int>(chance.between(0.5, 1.6) * most));
    cv::Mat kernel(2 * length + 1, 2 * length + 1, CV_32F, cv::Scalar(0));
    const double way = chance.between(0, std::numbers::pi);
    const cv::Point middle(length, length), end(static_cast<int>(std::lround(length * std::cos(way))),
                                                static_cast<int>(std::lround(length * std::sin(way))));
    cv::line(kernel, middle - end / 2, middle + end / 2, cv::Scalar(1), 1, cv::LINE_AA);
    cv::filter2D(scene, scene, -1, kernel / cv::sum(kernel)[0]);
}

// What the sensor and the telephone's own processing make of the light, linear 0 to 1; CV_8UC3 from a JPEG.
cv::Mat developed(cv::Mat scene, Chance& chance, std::mt19937& random) {
    const double exposure = chance.between(0.75, 1.15);
    cv::multiply(scene,
                 cv::Scalar(exposure * chance.between(0.82, 1.15), exposure, exposure * chance.between(0.88, 1.18)),
                 scene);
    // Shot noise grows with the root of the light; the mosaic spreads its colour.
    cv::RNG rng(random());
    const double shot = chance.between(1e-4, 1.2e-3), floor = chance.between(1e-6, 2e-5);
    cv::Mat noise(scene.size(), CV_32FC3), chroma(scene.rows / 2, scene.cols / 2, CV_32FC3), root;
    rng.fill(noise, cv::RNG::NORMAL, 0, 1);
    rng.fill(chroma, cv::RNG::NORMAL, 0, 0.7);
    cv::resize(chroma, chroma, scene.size(), 0, 0, cv::INTER_LINEAR);
    cv::sqrt(cv::max(scene * shot + cv::Scalar::all(floor), 0), root);
    scene += (noise + chroma).mul(root);
    noise.release(), chroma.release();
    cv::max(scene, 0, scene);
    cv::min(scene, 1, scene);
    cv::pow(scene, 1 / 2.2, scene);
    // The tone curve: steeper in the middle.
    const double steep = chance.between(0, 0.5);
    cv::Mat curved = scene.mul(scene).mul(cv::Scalar::all(3) - 2 * scene);
    scene = (1 - steep) * scene + steep * curved;
    cv::Mat bytes;
    scene.convertTo(bytes, CV_8UC3, 255);
    if (chance.one_in(2)) {
        cv::Mat calm;
        cv::medianBlur(bytes, calm, 3);
        cv::addWeighted(bytes, 0.4, calm, 0.6, 0, bytes);
    }
    cv::Mat soft;
    cv::GaussianBlur(bytes, soft, {}, chance.between(0.9, 1.8));
    const double sharpen = chance.between(0, 1.3);
    cv::addWeighted(bytes, 1 + sharpen, soft, -sharpen, 0, bytes);
    std::vector<uchar> jpeg;
    cv::imencode(".jpg", bytes, jpeg, {cv::IMWRITE_JPEG_QUALITY, static_cast<int>(chance.between(72, 95))});
    return cv::imdecode(jpeg, cv::IMREAD_COLOR);
}

class SecondCamera : public PaperCamera {
public:
    explicit SecondCamera(std::vector<std::filesystem::path> grounds) : grounds_(std::move(grounds)) {}

    Shot take(const std::vector<cv::Mat>& sheets, bool whole, int long_side_px, std::mt19937& random) const override {
        Chance chance(random);
        Shot out;
        const int short_side = static_cast<int>(long_side_px * (chance.one_in(4) ? 9 / 16.0 : 0.75));
        const bool lying = chance.one_in(4);
        const cv::Size size = lying ? cv::Size(long_side_px, short_side) : cv::Size(short_side, long_side_px);

        int longest = 1;
        for (const cv::Mat& s : sheets) longest = std::max({longest, s.cols, s.rows});
        std::vector<Placed> placed;
        const double roll = chance.between(-0.3, 0.3);
        const int columns = sheets.size() > 1 ? 2 : 1;
        for (size_t i = 0; i < sheets.size(); ++i) {
            Placed p;
            p.width = static_cast<double>(sheets[i].cols) / longest,
            p.height = static_cast<double>(sheets[i].rows) / longest;
            const double gx = static_cast<double>(i % columns) * chance.between(1.12, 1.3),
                         gy = static_cast<double>(i / columns) * chance.between(1.12, 1.3);
            p.x = gx * std::cos(roll) - gy * std::sin(roll), p.y = gx * std::sin(roll) + gy * std::cos(roll);
            p.angle = roll + (sheets.size() > 1 ? chance.between(-0.12, 0.12) : 0);
            p.relief = any_relief(chance, out.traits);
            placed.push_back(p);
        }
        Lens lens;
        lens.half_px = std::hypot(size.width, size.height) / 2;
        lens.focal = long_side_px * chance.between(0.75, 1.3);
        lens.barrel = chance.between(-0.03, 0.03);
        const double steep = sheets.size() > 1 ? 0.35 : 0.6;
        lens.turn = tilted(chance.between(-steep, steep), chance.between(-steep, steep));
        const auto extent = [&] {
            Box box;
            for (const Placed& p : placed)
                for (const auto& [u, v] : {std::pair{0, 0}, {1, 0}, {1, 1}, {0, 1}}) box.include(p.seen(lens, u, v));
            return box;
        };
        double fill = chance.between(0.6, 0.95);
        if (!whole && sheets.size() == 1 && chance.one_in(10))
            fill = chance.between(1.0, 1.06), out.traits.emplace_back("a corner outside");
        double near = 1, far = 40;
        for (int i = 0; i < 40; ++i) {
            lens.away = (near + far) / 2;
            const Box box = extent();
            const bool fits = box.width() < fill * size.width && box.height() < fill * size.height;
            (fits ? far : near) = lens.away;
        }
        const Point centre = extent().centre();
        lens.middle = {size.width * chance.between(0.48, 0.52) - centre.x,
                       size.height * chance.between(0.48, 0.52) - centre.y};

        const std::filesystem::path& ground = grounds_[random() % grounds_.size()];
        out.ground = ground.filename().string();
        cv::Mat scene = read_ground(ground, size, chance);
        to_linear(scene);
        scene *= chance.between(0.5, 1.3);
        double px_per_sheet = 0;
        for (size_t i = 0; i < sheets.size(); ++i) {
            const Placed& p = placed[i];
            const SeenAt seen_at = [&](double u, double v) { return p.seen(lens, u, v); };
            cv::Mat sheet, map_x(size, CV_32F, cv::Scalar(-10)), map_y(size, CV_32F, cv::Scalar(-10)), seen, alpha;
            sheets[i].convertTo(sheet, CV_32FC3, 1 / 255.0);
            to_linear(sheet);
            if (chance.one_in(5)) stain(sheet, chance), out.traits.emplace_back("stained");
            multiply(sheet, shading(p.relief, sheet.size(), chance));
            map_sheet(sheet.size(), seen_at, map_x, map_y);
            cv::remap(sheet, seen, map_x, map_y, cv::INTER_LINEAR, cv::BORDER_REPLICATE);
            cv::remap(cv::Mat(sheet.size(), CV_32F, cv::Scalar(1)), alpha, map_x, map_y, cv::INTER_LINEAR,
                      cv::BORDER_CONSTANT, cv::Scalar(0));
            // It keeps light from the table beside it.
            cv::Mat shade;
            cv::resize(alpha, shade, {}, 0.125, 0.125, cv::INTER_AREA);
            cv::GaussianBlur(shade, shade, {}, chance.between(0.001, 0.004) * long_side_px / 8 + 0.5);
            const cv::Matx23d moved(1, 0, chance.between(-2, 2), 0, 1, chance.between(-2, 2));
            cv::warpAffine(shade, shade, moved, shade.size());
            cv::resize(shade, shade, size);
            multiply(scene, 1 - chance.between(0.2, 0.6) * shade);
            blend(scene, seen, alpha);
            out.photo.sheets.push_back(
                {{seen_at(0, 0), seen_at(1, 0), seen_at(1, 1), seen_at(0, 1)}, outline_seen(seen_at)});
            px_per_sheet = std::max(px_per_sheet, distance(seen_at(0, 0.5), seen_at(1, 0.5)) / p.width);
        }
        constexpr double kMargin = 0.025;  // of a sheet's width, which may be covered
        if (chance.one_in(4)) lay_things(scene, placed, lens, kMargin, chance, out.traits);
        multiply(scene, light(size, chance, out.traits));
        constexpr double kLongSideMm = 280;  // of most sheets
        blur(scene, px_per_sheet / kLongSideMm, chance, out.traits);
        out.photo.pixels = developed(std::move(scene), chance, random);
        std::ranges::sort(out.traits);
        out.traits.erase(std::ranges::unique(out.traits).begin(), out.traits.end());
        return out;
    }

private:
    std::vector<std::filesystem::path> grounds_;
};

}  // namespace

std::unique_ptr<PaperCamera> second_camera(const std::vector<std::filesystem::path>& grounds, bool held_back) {
    std::vector<std::filesystem::path> chosen;
    for (size_t i = held_back ? 1 : 0; i < kGroundNames.size(); i += 2)
        for (const std::filesystem::path& directory : grounds)
            if (std::filesystem::exists(directory / kGroundNames[i])) chosen.push_back(directory / kGroundNames[i]);
    if (chosen.empty()) return nullptr;
    return std::make_unique<SecondCamera>(std::move(chosen));
}

}  // namespace fernleaf
