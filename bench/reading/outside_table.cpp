#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>
#include <sstream>

#include "base/text.h"
#include "bench/reading/errors.h"
#include "bench/reading/tables.h"

namespace fernleaf {
namespace {

constexpr double kEnlarged = 2;  // tesseract reads best at letters of some 30 px
constexpr int kBorderPx = 20;

}  // namespace

void outside_table(const Hands& hands, const std::vector<std::string>& texts, const Reader& reader) {
    namespace fs = std::filesystem;
    if (std::system("tesseract --version >/dev/null 2>&1") != 0) {
        std::printf("\ntesseract is not installed: no outside mark\n");
        return;
    }
    const fs::path folder = fs::temp_directory_path() / "fernleaf-outside";
    fs::create_directories(folder);
    std::printf("\nthe same pictures     Fernleaf CER   WER    tesseract CER   WER\n");
    Errors all_ours, all_theirs;
    for (const auto& [name, hand] : hands) {
        std::vector<std::string> truths;
        std::ofstream list(folder / "list.txt");
        Errors ours, theirs;
        for (size_t i = 0; i < texts.size(); ++i) {
            const LinePicture picture = written(hand, texts[i], static_cast<unsigned>(i));
            if (picture.pixels.empty()) continue;
            ours.add(texts[i], reader.read(picture, {}));
            cv::Mat large;
            cv::resize(255 - picture.pixels, large, {}, kEnlarged, kEnlarged, cv::INTER_CUBIC);
            cv::copyMakeBorder(large, large, kBorderPx, kBorderPx, kBorderPx, kBorderPx, cv::BORDER_CONSTANT, 255);
            const fs::path file = folder / (std::to_string(truths.size()) + ".png");
            cv::imwrite(file, large);
            list << file.string() << '\n';
            truths.push_back(texts[i]);
        }
        list.close();
        const std::string command = "OMP_THREAD_LIMIT=1 tesseract " + (folder / "list.txt").string() + " " +
                                    (folder / "out").string() + " --psm 7 -l eng >/dev/null 2>&1";
        if (std::system(command.c_str()) != 0) continue;
        std::ifstream in(folder / "out.txt");
        std::stringstream whole;
        whole << in.rdbuf();
        std::string page;
        for (const std::string& truth : truths) {
            std::getline(whole, page, '\f');
            theirs.add(truth, trimmed(page));
        }
        std::printf("%-20s         %5.1f %5.1f            %5.1f %5.1f\n", name.c_str(), ours.cer(), ours.wer(),
                    theirs.cer(), theirs.wer());
        std::fflush(stdout);
        all_ours.add(ours), all_theirs.add(theirs);
    }
    std::printf("%-20s         %5.1f %5.1f            %5.1f %5.1f\n", "all", all_ours.cer(), all_ours.wer(),
                all_theirs.cer(), all_theirs.wer());
    fs::remove_all(folder);
}

}  // namespace fernleaf
