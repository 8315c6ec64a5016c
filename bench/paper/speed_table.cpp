#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include <QFont>
#include <QImage>
#include <QPainter>
#include <algorithm>
#include <array>
#include <cstdio>
#include <opencv2/imgcodecs.hpp>

#include "bench/paper/sheets.h"
#include "bench/paper/tables.h"

namespace fernleaf {
namespace {

constexpr double kPxPerMm = 200 / 25.4;
constexpr double kWidthMm = 210, kHeightMm = 297;

cv::Mat blank_sheet() {
    return {static_cast<int>(kHeightMm * kPxPerMm), static_cast<int>(kWidthMm * kPxPerMm), CV_8UC3,
            cv::Scalar(246, 248, 249)};
}

cv::Mat ten_written_lines(const Hand& hand, const std::vector<std::string>& texts, std::mt19937& random) {
    cv::Mat sheet = blank_sheet();
    WritingStyle style;
    style.x_height_mm = 2.3;
    style.pen.width_mm = 0.35F;
    style.pen.colour = 0x1E2A44;
    size_t next = random() % texts.size();
    for (int line = 0; line < 10;) {
        const std::string& text = texts[next++ % texts.size()];
        if (text.size() < 20 || !hand.can_write(text)) continue;
        draw_ink(sheet, hand.write(text, {18, 30 + 10.0 * line}, style, random), kPxPerMm);
        ++line;
    }
    return sheet;
}

cv::Mat printed_page(const std::vector<std::string>& texts, std::mt19937& random) {
    constexpr int kWords = 300;
    cv::Mat sheet = blank_sheet();
    QImage image(sheet.data, sheet.cols, sheet.rows, static_cast<qsizetype>(sheet.step), QImage::Format_BGR888);
    QString text;
    size_t next = random() % texts.size();
    for (qsizetype words = 0; words < kWords; words = text.count(QLatin1Char(' ')))
        text += QString::fromStdString(texts[next++ % texts.size()]) + QLatin1Char(' ');
    QPainter painter(&image);
    QFont face(QStringLiteral("Nimbus Roman"));
    face.setPixelSize(static_cast<int>(4.2 * kPxPerMm));
    painter.setFont(face);
    painter.setPen(QColor(25, 25, 28));
    painter.drawText(QRectF(22 * kPxPerMm, 25 * kPxPerMm, 166 * kPxPerMm, 240 * kPxPerMm), Qt::TextWordWrap, text);
    return sheet;
}

struct Cost {
    double processor_s = 0, memory_mb = 0;
    bool done = false;
};

// What reading a file with the command line takes, start and end of the program included.
Cost cost_of_reading(const std::filesystem::path& picture) {
    std::fflush(nullptr);
    const pid_t child = fork();
    if (child == 0) {
        if (!std::freopen("/dev/null", "w", stdout) || !std::freopen("/dev/null", "w", stderr)) _exit(1);
        execl(FERNLEAF_CLI, FERNLEAF_CLI, "read", picture.c_str(), nullptr);
        _exit(1);
    }
    int status = 0;
    rusage used{};
    if (child < 0 || wait4(child, &status, 0, &used) != child) return {};
    const auto seconds = [](const timeval& t) {
        return static_cast<double>(t.tv_sec) + static_cast<double>(t.tv_usec) / 1e6;
    };
    return {seconds(used.ru_utime) + seconds(used.ru_stime), static_cast<double>(used.ru_maxrss) / 1024,
            WIFEXITED(status) && WEXITSTATUS(status) == 0};
}

}  // namespace

void speed_table(const PaperBench& bench) {
    constexpr size_t kPictures = 5, kTimes = 3;
    const std::filesystem::path folder =
        std::filesystem::temp_directory_path() / ("fernleaf-speed-" + std::to_string(getpid()));
    std::filesystem::create_directories(folder);
    std::printf("processor time and memory of reading one photograph of twelve megapixels, the least of %zu runs\n",
                kTimes);
    for (const bool printed : {false, true}) {
        std::vector<double> seconds, memory;
        for (size_t i = 0; i < kPictures; ++i) {
            std::mt19937 random(bench.seed * 100000 + static_cast<unsigned>(i));
            const cv::Mat sheet = printed ? printed_page(bench.texts, random)
                                          : ten_written_lines(bench.hands[i % bench.hands.size()], bench.texts, random);
            const std::filesystem::path file = folder / (std::to_string(i) + ".jpg");
            cv::imwrite(file.string(), photographed(sheet, *bench.camera, random).photo.pixels);
            Cost least{1e9, 0, true};
            for (size_t run = 0; run < kTimes; ++run) {
                const Cost cost = cost_of_reading(file);
                if (!cost.done) std::fprintf(stderr, "speed: a picture could not be read\n");
                least.processor_s = std::min(least.processor_s, cost.processor_s);
                least.memory_mb = std::max(least.memory_mb, cost.memory_mb);
            }
            seconds.push_back(least.processor_s), memory.push_back(least.memory_mb);
            if (!bench.failures.empty())
                std::filesystem::copy_file(
                    file, bench.failures / ((printed ? "printed" : "written") + std::to_string(i) + "_speed.jpg"),
                    std::filesystem::copy_options::overwrite_existing);
        }
        std::ranges::sort(seconds);
        std::printf("%-18s %.2f s (median; worst %.2f), %.0f MB at most\n",
                    printed ? "300 printed words" : "10 written lines", seconds[kPictures / 2], seconds.back(),
                    *std::ranges::max_element(memory));
    }
    std::filesystem::remove_all(folder);
}

}  // namespace fernleaf
