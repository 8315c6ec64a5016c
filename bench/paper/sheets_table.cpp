#include <chrono>
#include <cstdio>
#include <map>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include "bench/paper/sheets.h"
#include "bench/paper/tables.h"
#include "paper/sheet_finding.h"

namespace fernleaf {
namespace {

constexpr double kGood = 0.9;
constexpr int kLongSidePx = 2000;

std::vector<cv::Point> rounded(const std::vector<Point>& polygon) {
    std::vector<cv::Point> out;
    for (const Point& p : polygon)
        out.emplace_back(static_cast<int>(std::lround(p.x)), static_cast<int>(std::lround(p.y)));
    return out;
}

cv::Mat mask_of(const std::vector<Point>& polygon, cv::Size size) {
    cv::Mat mask(size, CV_8U, cv::Scalar(0));
    cv::fillPoly(mask, std::vector{rounded(polygon)}, cv::Scalar(1));
    return mask;
}

double overlap(const cv::Mat& a, const cv::Mat& b) {
    const double common = cv::countNonZero(a & b), all = cv::countNonZero(a | b);
    return all > 0 ? common / all : 0;
}

struct Row {
    size_t sheets = 0, poor = 0;
    double sum = 0;
    void add(double value) { ++sheets, poor += value < kGood, sum += value; }
    void print(const char* name) const {
        if (sheets == 0) return;
        std::printf("%-22s %6zu sheets   mean overlap %.4f   under 0.9: %.1f %%\n", name, sheets,
                    sum / static_cast<double>(sheets), 100.0 * static_cast<double>(poor) / static_cast<double>(sheets));
    }
};

}  // namespace

void sheets_table(const PaperBench& bench) {
    std::map<std::string, Row> rows;
    Row all;
    double seconds = 0, least_true = 1, most_false = 0;
    for (size_t i = bench.first; i < bench.count; ++i) {
        std::mt19937 random(bench.seed * 100000 + static_cast<unsigned>(i));
        const bool several = i % 4 == 3;
        std::vector<cv::Mat> sheets;
        for (size_t k = 0; k < (several ? 2 + random() % 3 : 1); ++k)
            sheets.push_back(draw_sheet(bench.hands[random() % bench.hands.size()], bench.texts,
                                        static_cast<Content>(random() % 3), random)
                                 .pixels);
        const Shot shot = bench.camera->take(sheets, false, kLongSidePx, random);
        const Photo& photo = shot.photo;
        const auto begin = std::chrono::steady_clock::now();
        const std::vector<FoundSheet> found = find_sheets(photo.pixels, several ? 12 : 1);
        seconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
        double worst = 1;
        for (const PhotographedSheet& sheet : photo.sheets) {
            const cv::Mat truth = mask_of(sheet.outline, photo.pixels.size());
            double best = found.empty() ? overlap(truth, cv::Mat(photo.pixels.size(), CV_8U, cv::Scalar(1))) : 0;
            for (const FoundSheet& f : found)
                best = std::max(best, overlap(truth, mask_of(polygon(f.outline, 24), photo.pixels.size())));
            worst = std::min(worst, best);
            all.add(best);
            rows[several ? "several on one picture" : shot.ground].add(best);
            for (const std::string& trait : shot.traits) rows["(" + trait + ")"].add(best);
        }
        for (const FoundSheet& f : found) {
            double best = 0;
            for (const PhotographedSheet& sheet : photo.sheets)
                best = std::max(best, overlap(mask_of(sheet.outline, photo.pixels.size()),
                                              mask_of(polygon(f.outline, 24), photo.pixels.size())));
            if (best > kGood)
                least_true = std::min(least_true, f.certainty);
            else
                most_false = std::max(most_false, f.certainty);
        }
        if (several) rows["(found too many)"].add(found.size() > photo.sheets.size() ? 0 : 1);
        if (!bench.failures.empty() && (worst < kGood || found.size() > photo.sheets.size())) {
            cv::Mat shown = photo.pixels.clone();
            for (const FoundSheet& f : found)
                cv::polylines(shown, rounded(polygon(f.outline, 24)), true, cv::Scalar(0, 0, 255), 6);
            for (const PhotographedSheet& s : photo.sheets)
                cv::polylines(shown, rounded(s.outline), true, cv::Scalar(0, 220, 0), 3);
            cv::resize(shown, shown, {}, 0.4, 0.4, cv::INTER_AREA);
            char name[80];
            std::snprintf(name, sizeof name, "%04zu_%s_%.3f_%.2f", i, shot.ground.c_str(), worst,
                          found.empty() ? 0 : found[0].certainty);
            cv::imwrite((bench.failures / name).string() + ".jpg", shown);
            cv::imwrite((bench.failures / name).string() + "_taken.png", photo.pixels);
        }
    }
    for (const auto& [name, row] : rows) row.print(name.c_str());
    all.print("all");
    std::printf("least certainty of a sheet %.3f, most of what is none %.3f\n", least_true, most_false);
    std::printf("%.2f s a picture\n", seconds / static_cast<double>(bench.count - bench.first));
}

}  // namespace fernleaf
