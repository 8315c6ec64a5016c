#include <chrono>
#include <cstdio>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include "bench/paper/colour_error.h"
#include "bench/paper/sheets.h"
#include "bench/paper/tables.h"
#include "bench/reading/errors.h"
#include "paper/lifted_ink.h"
#include "paper/page_reading.h"

namespace fernleaf {
namespace {

constexpr double kPxPerMm = 8;

struct Sums {
    Errors paper, lifted;  // read in the picture; read from the strokes that came of it
    double overlap = 0, colour = 0, width = 0, strokes = 0, seconds = 0, colour_weight = 0;
    size_t pages = 0;
};

cv::Mat inked(const std::vector<Stroke>& strokes, double width_mm, double height_mm) {
    cv::Mat sheet(static_cast<int>(height_mm * kPxPerMm), static_cast<int>(width_mm * kPxPerMm), CV_8UC3,
                  cv::Scalar::all(255));
    std::vector<Stroke> black = strokes;
    for (Stroke& s : black) s.pen.colour = 0;
    draw_ink(sheet, black, kPxPerMm);
    cv::Mat grey;
    cv::cvtColor(sheet, grey, cv::COLOR_BGR2GRAY);
    return grey < 128;
}

// Of the ink drawn and lifted, both grown by a tenth of a millimetre: thin strokes half a pixel apart are the same.
double overlap(const cv::Mat& a, const cv::Mat& b) {
    const cv::Mat grow = cv::getStructuringElement(cv::MORPH_ELLIPSE, {3, 3});
    cv::Mat wide_a, wide_b;
    cv::dilate(a, wide_a, grow);
    cv::dilate(b, wide_b, grow);
    return (cv::countNonZero(a & wide_b) + cv::countNonZero(b & wide_a)) /
           static_cast<double>(std::max(1, cv::countNonZero(a) + cv::countNonZero(b)));
}

std::string text_of(const Reading& reading) {
    std::string out;
    for (const ReadLine& line : reading.lines) out += line.text() + ' ';
    return out;
}

void measure(const DrawnSheet& sheet, const cv::Mat& page, const Reader& reader, PrintSkills& print, Sums& sums,
             const std::filesystem::path& keep) {
    const double height_mm = sheet.width_mm * sheet.pixels.rows / sheet.pixels.cols;
    Picture picture{1, "f", "", 0, Box::of(0, 0, sheet.width_mm, height_mm)};
    const auto begin = std::chrono::steady_clock::now();
    // All of it: what hands that write like print are taken for is another table's matter.
    const LiftedInk ink = lift_ink(page, picture, reader, nullptr, {});
    sums.seconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
    const std::string truth = truth_of(sheet);
    Page written;
    written.strokes = ink.strokes;
    for (size_t i = 0; i < written.strokes.size(); ++i) written.strokes[i].id = static_cast<StrokeId>(i + 1);
    sums.lifted.add(truth, text_of(read_page(written, {}, reader, {}, {}, {})));
    std::vector<uchar> png;
    cv::imencode(".png", page, png);
    Page on_paper;
    on_paper.pictures = {picture};
    const std::string bytes(png.begin(), png.end());
    sums.paper.add(truth, text_of(read_page(
                              on_paper, [&](const std::string&) -> Result<std::string> { return bytes; }, reader, {},
                              {}, {}, {}, {}, &print)));
    const cv::Mat drawn = inked(sheet.strokes, sheet.width_mm, height_mm);
    const cv::Mat lifted = inked(ink.strokes, sheet.width_mm, height_mm);
    sums.overlap += overlap(drawn, lifted);
    const Pen& pen = sheet.strokes.front().pen;
    double error = 0, width = 0, way = 0;
    for (const Stroke& s : ink.strokes) {
        const double length = path_length(s);
        error += length * colour_error(lab_of(s.pen.colour), lab_of(sheet.ink));
        width += length * static_cast<double>(s.pen.width_mm);
        way += length;
    }
    if (way > 0) sums.colour += error / way, sums.width += width / way / static_cast<double>(pen.width_mm);
    sums.strokes += static_cast<double>(ink.strokes.size()) / static_cast<double>(sheet.strokes.size());
    ++sums.pages;
    if (keep.empty()) return;
    // The strokes over the page, each in another colour.
    constexpr double kFiner = 3;
    cv::Mat over;
    cv::resize(page, over, {}, kFiner, kFiner, cv::INTER_CUBIC);
    const double px = over.cols / sheet.width_mm;
    const std::vector<cv::Scalar> colours{{0, 0, 255}, {255, 0, 0}, {0, 160, 0}, {200, 0, 200}, {0, 140, 255}};
    for (size_t i = 0; i < ink.strokes.size(); ++i) {
        std::vector<cv::Point> line;
        for (const InkPoint& p : ink.strokes[i].points)
            line.emplace_back(static_cast<int>(p.at.x * px), static_cast<int>(p.at.y * px));
        cv::polylines(over, std::vector{line}, false, colours[i % colours.size()], 2, cv::LINE_AA);
        cv::circle(over, line.front(), 4, colours[i % colours.size()], cv::FILLED);
    }
    cv::imwrite(keep.string() + ".png", over);
}

void print_row(const char* name, const Sums& s) {
    const auto n = static_cast<double>(std::max<size_t>(1, s.pages));
    std::printf(
        "%-13s overlap %.3f, strokes %.2f of those drawn, width %.2f of it, colour error %.1f (CIEDE2000), "
        "CER on paper %.2f, from the strokes %.2f; %.2f s a page\n",
        name, s.overlap / n, s.strokes / n, s.width / n, s.colour / n, s.paper.cer(), s.lifted.cer(), s.seconds / n);
}

}  // namespace

void lifting_table(const PaperBench& bench, const Reader& reader, PrintSkills& print) {
    Sums flat, photographed;
    for (size_t i = bench.first; i < bench.count; ++i) {
        std::mt19937 random(bench.seed * 100000 + static_cast<unsigned>(i));
        const DrawnSheet sheet = draw_sheet(bench.hands[i % bench.hands.size()], bench.texts, Content::written, random);
        if (sheet.strokes.empty()) continue;
        const PhotographedPage photo = found_in_photograph(sheet.pixels, *bench.camera, random);
        const std::string name = "lift" + std::to_string(i);
        const auto keep = [&](const char* kind) {
            return bench.failures.empty() ? std::filesystem::path() : bench.failures / (name + kind);
        };
        measure(sheet, sheet.pixels, reader, print, flat, keep("_flat"));
        if (!photo.page.empty()) measure(sheet, photo.page, reader, print, photographed, keep("_photo"));
    }
    print_row("flat", flat);
    print_row("photographed", photographed);
}

}  // namespace fernleaf
