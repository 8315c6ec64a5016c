// What nobody should photograph, and people do: how often a warning tells of it, and how many words are made up.
#include <array>
#include <cmath>
#include <cstdio>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include "base/text.h"
#include "bench/paper/things.h"
#include "demo/chance.h"
#include "paper/sheet_picture.h"

namespace fernleaf {
namespace {

constexpr int kWide = 4000, kHigh = 3000;
constexpr double kCertain = 0.3;

enum class Odd { usual, washed_out, behind_glass, crumpled, screen, wall, keyboard };
struct Kind {
    Odd odd;
    const char* name;
    bool written;  // there is something to read
};
constexpr std::array kKinds{
    Kind{Odd::usual, "usual photograph", true},    Kind{Odd::washed_out, "washed out by flash", true},
    Kind{Odd::behind_glass, "behind glass", true}, Kind{Odd::crumpled, "crumpled", true},
    Kind{Odd::screen, "a screen", true},           Kind{Odd::wall, "a wall", false},
    Kind{Odd::keyboard, "a keyboard", false}};

cv::Mat noise(cv::Size size, int cell, double deviation, std::mt19937& random) {
    cv::RNG rng(random());
    cv::Mat coarse(size / cell + cv::Size(2, 2), CV_32F), out;
    rng.fill(coarse, cv::RNG::NORMAL, 0, deviation);
    cv::resize(coarse, out, size, 0, 0, cv::INTER_CUBIC);
    return out;
}

void add(cv::Mat& colours, const cv::Mat& grey) {
    cv::Mat three, sum;
    cv::merge(std::vector<cv::Mat>(3, grey), three);
    colours.convertTo(sum, CV_32FC3);
    sum += three;
    sum.convertTo(colours, CV_8UC3);
}

// A flash: white where it hits, less from there on.
void wash_out(cv::Mat& photo, Chance& chance) {
    const cv::Point2d at(chance.between(0.3, 0.7) * photo.cols, chance.between(0.3, 0.7) * photo.rows);
    const double reach = chance.between(0.18, 0.3) * photo.cols;
    cv::Mat light(photo.size(), CV_32F);
    for (int y = 0; y < light.rows; ++y)
        for (int x = 0; x < light.cols; ++x)
            light.at<float>(y, x) =
                static_cast<float>(420 * std::exp(-0.5 * std::pow(std::hypot(x - at.x, y - at.y) / reach, 2)) - 40);
    add(photo, light);
}

// The room behind the camera, faint and soft, and a lamp in it.
void mirror(cv::Mat& photo, Chance& chance, std::mt19937& random) {
    cv::Mat room = noise(photo.size(), photo.cols / 5, 26, random) + noise(photo.size(), photo.cols / 16, 14, random);
    const cv::Point lamp(static_cast<int>(chance.between(0.2, 0.8) * photo.cols),
                         static_cast<int>(chance.between(0.2, 0.8) * photo.rows));
    cv::Mat bright(photo.size(), CV_32F, cv::Scalar(0));
    cv::ellipse(bright, lamp, {photo.cols / 12, photo.cols / 30}, chance.between(0, 180), 0, 360, cv::Scalar(150),
                cv::FILLED);
    cv::GaussianBlur(bright, bright, {}, 12);
    add(photo, room + bright + 18);
}

// A sheet that was a ball of paper: facets that lean each their own way.
cv::Mat crumple(const cv::Mat& sheet, Chance& chance, std::mt19937& random) {
    const int cell = static_cast<int>(chance.between(0.05, 0.1) * sheet.cols);
    std::vector<cv::Point2f> seeds;
    std::vector<std::array<double, 3>> planes;  // two slopes and a light
    const int rows = sheet.rows / cell + 1, columns = sheet.cols / cell + 1;
    for (int y = 0; y < rows; ++y)
        for (int x = 0; x < columns; ++x) {
            seeds.emplace_back(static_cast<float>((x + chance.between(0, 1)) * cell / 8),
                               static_cast<float>((y + chance.between(0, 1)) * cell / 8));
            planes.push_back({chance.between(-1, 1), chance.between(-1, 1), chance.between(0.72, 1.08)});
        }
    cv::Mat light(sheet.size() / 8, CV_32F);
    for (int y = 0; y < light.rows; ++y)
        for (int x = 0; x < light.cols; ++x) {
            size_t best = 0;
            double nearest = 1e18;
            const int row = y * 8 / cell, column = x * 8 / cell;
            for (int k = 0; k < 9; ++k) {
                const int r = row - 1 + k / 3, c = column - 1 + k % 3;
                if (r < 0 || r >= rows || c < 0 || c >= columns) continue;
                const auto i = static_cast<size_t>(r) * static_cast<size_t>(columns) + static_cast<size_t>(c);
                const double away = std::pow(x - double{seeds[i].x}, 2) + std::pow(y - double{seeds[i].y}, 2);
                if (away < nearest) nearest = away, best = i;
            }
            const auto& plane = planes[best];
            light.at<float>(y, x) = static_cast<float>(
                plane[2] + 0.004 * ((x - double{seeds[best].x}) * plane[0] + (y - double{seeds[best].y}) * plane[1]));
        }
    cv::GaussianBlur(light, light, {}, 1.2);
    cv::Mat shade, shift_x, shift_y, map_x(sheet.size(), CV_32F), map_y(sheet.size(), CV_32F), out;
    cv::resize(light, shade, sheet.size(), 0, 0, cv::INTER_CUBIC);
    shift_x = noise(sheet.size(), cell, 0.012 * cell, random);
    shift_y = noise(sheet.size(), cell, 0.012 * cell, random);
    for (int y = 0; y < sheet.rows; ++y)
        for (int x = 0; x < sheet.cols; ++x)
            map_x.at<float>(y, x) = static_cast<float>(x) + shift_x.at<float>(y, x) * 4,
                               map_y.at<float>(y, x) = static_cast<float>(y) + shift_y.at<float>(y, x) * 4;
    cv::remap(sheet, out, map_x, map_y, cv::INTER_LINEAR, cv::BORDER_REPLICATE);
    cv::Mat lit, three;
    out.convertTo(lit, CV_32FC3);
    cv::merge(std::vector<cv::Mat>(3, shade), three);
    lit = lit.mul(three);
    lit.convertTo(out, CV_8UC3);
    return out;
}

// How much light one colour's stripe lets through from a pixel's one side to its other, both in dots of the screen.
double through_stripe(double begin, double end, int colour) {
    constexpr int kSamples = 6;
    double sum = 0;
    for (int i = 0; i < kSamples; ++i) {
        const double u = begin + (end - begin) * (i + 0.5) / kSamples;
        sum += std::abs(u - std::floor(u) - (colour + 0.5) / 3) < 1.0 / 6 ? 1.9 : 0.45;
    }
    return sum / kSamples;
}

// A page shown on a screen, whose dots are red, green and blue stripes with black between their rows.
cv::Mat on_screen(const cv::Mat& sheet, Chance& chance) {
    const double px = chance.between(2.3, 4.5);  // a dot
    cv::Mat out = sheet.clone();
    out.forEach<cv::Vec3b>([&](cv::Vec3b& at, const int* where) {
        const double v = std::abs(std::fmod((where[0] + 0.5) / px, 1.0) - 0.5) * px;
        const double row = std::clamp(px / 2 - v, 0.0, 0.5) + 0.5;
        for (int c = 0; c < 3; ++c)
            at[c] = cv::saturate_cast<uchar>(at[c] * row * through_stripe(where[1] / px, (where[1] + 1) / px, 2 - c));
    });
    return out;
}

cv::Mat wall(Chance& chance, std::mt19937& random) {
    cv::Mat out(kHigh, kWide, CV_8UC3,
                cv::Scalar(chance.between(90, 200), chance.between(110, 205), chance.between(120, 215)));
    add(out, noise(out.size(), 6, 7, random) + noise(out.size(), 40, 6, random) + noise(out.size(), 900, 18, random));
    if (random() % 2 == 0) {  // of bricks
        const int high = static_cast<int>(chance.between(150, 300)), wide = high * 3;
        for (int row = 0; row * high < kHigh; ++row) {
            cv::line(out, {0, row * high}, {kWide, row * high}, cv::Scalar::all(150), high / 12);
            for (int x = (row % 2) * wide / 2; x < kWide; x += wide)
                cv::line(out, {x, row * high}, {x, (row + 1) * high}, cv::Scalar::all(150), high / 12);
        }
    }
    return out;
}

cv::Mat keyboard(Chance& chance, std::mt19937& random) {
    const bool dark = random() % 2 == 0;
    const cv::Scalar body = cv::Scalar::all(dark ? 40 : 190), key = cv::Scalar::all(dark ? 62 : 228),
                     sign = cv::Scalar::all(dark ? 215 : 50);
    cv::Mat out(kHigh, kWide, CV_8UC3, body);
    const int pitch = static_cast<int>(chance.between(230, 330)), gap = pitch / 10;
    const std::array<std::string, 4> rows{"1234567890", "QWERTYUIOP", "ASDFGHJKL", "ZXCVBNM"};
    for (int row = 0; row * pitch < kHigh; ++row)
        for (int column = 0; column * pitch < kWide; ++column) {
            const int x = column * pitch + (row % 4) * pitch / 3, y = row * pitch;
            cv::rectangle(out, {x + gap, y + gap}, {x + pitch - gap, y + pitch - gap}, key, cv::FILLED);
            const std::string& letters = rows[static_cast<size_t>(row % 4)];
            cv::putText(out, std::string(1, letters[static_cast<size_t>(column) % letters.size()]),
                        {x + pitch / 4, y + pitch / 2}, cv::FONT_HERSHEY_SIMPLEX, pitch / 110.0, sign, pitch / 70,
                        cv::LINE_AA);
        }
    add(out, noise(out.size(), 3, 4, random) + noise(out.size(), 800, 14, random));
    cv::GaussianBlur(out, out, {}, 1.2);
    return out;
}

// Words of more than one letter that are told with some certainty.
size_t words_in(const cv::Mat& pixels, const Reader& reader, PrintSkills& print) {
    size_t count = 0;
    const Reading reading = reading_of(pixels, reader, print);
    for (const ReadLine& line : reading.lines)
        for (const ReadWord& word : line.words) count += word.certainty > kCertain && decode_utf8(word.text).size() > 1;
    return count;
}

bool warned(Odd odd, const Faults& faults) {
    switch (odd) {
        case Odd::usual:
            return faults.glare || faults.screen || faults.creased || faults.no_sheet;
        case Odd::washed_out:
        case Odd::behind_glass:
            return faults.glare;
        case Odd::crumpled:
            return faults.creased;
        case Odd::screen:
            return faults.screen;
        case Odd::wall:
        case Odd::keyboard:
            return faults.no_sheet;
    }
    return false;
}

}  // namespace

void odd_table(const PaperBench& bench, const Reader& reader, PrintSkills& print) {
    std::printf("pictures, told what is wrong with them, CER or words made up a picture\n");
    for (const Kind& kind : kKinds) {
        size_t pictures = 0, told = 0, made_up = 0;
        Errors errors;
        for (size_t i = bench.first; i < bench.count; ++i) {
            std::mt19937 random(bench.seed * 100000 + 1000 * static_cast<unsigned>(kind.odd) +
                                static_cast<unsigned>(i));
            Chance chance(random);
            cv::Mat photo;
            std::string truth;
            if (kind.odd == Odd::wall) {
                photo = wall(chance, random);
            } else if (kind.odd == Odd::keyboard) {
                photo = keyboard(chance, random);
            } else {
                const DrawnSheet drawn =
                    draw_sheet(bench.hands[i % bench.hands.size()], bench.texts, Content::written, random);
                truth = truth_of(drawn);
                cv::Mat sheet = drawn.pixels;
                if (kind.odd == Odd::crumpled) sheet = crumple(sheet, chance, random);
                if (kind.odd == Odd::screen) sheet = on_screen(sheet, chance);
                photo = photographed(sheet, *bench.camera, random).photo.pixels;
                if (kind.odd == Odd::washed_out) wash_out(photo, chance);
                if (kind.odd == Odd::behind_glass) mirror(photo, chance, random);
            }
            const Suggestion first = suggested(photo).front();
            Treatment laid = first.treatment;
            laid.look = Look::original;
            const cv::Mat page = treated(photo, laid);
            const bool right = warned(kind.odd, first.faults);
            ++pictures, told += right;
            if (kind.written)
                errors.add(truth, read_as_page(page, reader, print));
            else
                made_up += words_in(page, reader, print);
            if (!bench.failures.empty() && right == (kind.odd == Odd::usual))
                cv::imwrite((bench.failures / (std::string(kind.name) + " " + std::to_string(i) + ".jpg")).string(),
                            photo);
        }
        std::printf("%-20s %3zu of %3zu told", kind.name, told, pictures);
        if (kind.written)
            std::printf("   CER %5.1f\n", errors.cer());
        else
            std::printf("   %.2f words\n",
                        static_cast<double>(made_up) / static_cast<double>(std::max<size_t>(1, pictures)));
        std::fflush(stdout);
    }
}

}  // namespace fernleaf
