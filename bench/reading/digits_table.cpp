#include <algorithm>
#include <cstdio>
#include <fstream>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>
#include <string>

#include "base/edit_distance.h"
#include "base/text.h"
#include "bench/reading/tables.h"
#include "paper/printed_text.h"
#include "paper/scan_lines.h"
#include "paper/upright.h"

namespace fernleaf {
namespace {

struct NumberPage {
    cv::Mat pixels;
    std::vector<std::string> lines;
};

std::vector<NumberPage> pages_in(const std::filesystem::path& directory) {
    std::vector<std::filesystem::path> pictures;
    for (const auto& entry : std::filesystem::directory_iterator(directory))
        if (entry.path().extension() == ".png") pictures.push_back(entry.path());
    std::ranges::sort(pictures);
    std::vector<NumberPage> out;
    for (std::filesystem::path path : pictures) {
        NumberPage page{cv::imread(path), {}};
        std::ifstream in(path.replace_extension(".txt"));
        for (std::string line; std::getline(in, line);) page.lines.push_back(line);
        if (!page.pixels.empty() && !page.lines.empty()) out.push_back(std::move(page));
    }
    return out;
}

std::string joined(const std::vector<std::string>& lines) {
    std::string out;
    for (const std::string& line : lines) out += line + ' ';
    return out;
}

std::string text_of(const ScannedPage& page, const std::vector<AnyLineReading>& readings) {
    std::vector<std::string> lines;
    for (size_t i = 0; i < page.lines.size(); ++i) {
        if (page.lines[i].drawing) continue;
        std::string line;
        for (const WordReading& word : readings[i].line.words) line += (line.empty() ? "" : " ") + word.text;
        lines.push_back(line);
    }
    return joined(lines);
}

size_t letters_in(const std::string& text) {
    return static_cast<size_t>(std::ranges::count_if(decode_utf8(text), [](char32_t c) {
        return (c >= U'a' && c <= U'z') || (c >= U'A' && c <= U'Z') || c > 0x7f;
    }));
}

}  // namespace

void digits_table(const std::filesystem::path& directory, const Reader& reader, PrintSkills& print) {
    const std::vector<NumberPage> pages = pages_in(directory);
    if (pages.empty()) return;
    size_t characters = 0, turned_wrongly = 0, turned_back = 0, turned = 0;
    std::printf("\nreal people's digits in rows of numbers, %zu pages   wrong   letters among them\n", pages.size());
    for (const double language_weight : {ReadSettings{}.language_weight, 0.0}) {
        ReadSettings settings;
        settings.language_weight = language_weight;
        size_t wrong = 0, letters = 0;
        characters = 0;
        for (const NumberPage& page : pages) {
            const ScannedPage scanned = scan_page(page.pixels);
            const std::string truth = joined(page.lines);
            const std::string read = text_of(scanned, read_scanned(scanned, reader, &print, settings));
            wrong += edit_distance(decode_utf8(truth), decode_utf8(read));
            letters += letters_in(read);
            characters += truth.size();
        }
        std::printf("lean %-4.2g                                        %10.1f %%             %6.1f %%\n",
                    language_weight, 100.0 * static_cast<double>(wrong) / static_cast<double>(characters),
                    100.0 * static_cast<double>(letters) / static_cast<double>(characters));
        std::fflush(stdout);
    }
    for (const NumberPage& page : pages) {
        turned_wrongly += upright_turns(page.pixels, reader, {}) != 0;
        int turns = 3;  // clockwise, to stand upright again
        for (const int way : {cv::ROTATE_90_CLOCKWISE, cv::ROTATE_180, cv::ROTATE_90_COUNTERCLOCKWISE}) {
            cv::Mat aside;
            cv::rotate(page.pixels, aside, way);
            turned_back += upright_turns(aside, reader, {}) == turns--;
            ++turned;
        }
    }
    std::printf("turned though they stood upright: %zu of %zu; turned back that did not: %zu of %zu\n", turned_wrongly,
                pages.size(), turned_back, turned);
}

}  // namespace fernleaf
