// How well it reads: hands, languages, teaching, certainty, lines and words on whole pages.
//
//   reading_bench                              the demo hands writing the demo's texts
//   reading_bench DIRECTORY [LINES] [TABLE…]   the hands of a directory (training/demo_hands.py --all) writing the
//                                              sentences of DIRECTORY/lines.CODE.txt, and the pages of numbers in
//                                              DIRECTORY/digits (training/real_digits.py); tables: hands, languages,
//                                              literal, digits, teaching, segmentation, boxes, notebook, outside; all
//                                              of them when none is named
#include <cstdio>
#include <fstream>
#include <set>

#include "bench/reading/tables.h"
#include "demo/demo_library.h"
#include "reading/models_directory.h"

using namespace fernleaf;

int main(int argc, char** argv) {
    cv::setNumThreads(1);
    const bool demo = argc < 2;
    const std::filesystem::path directory = demo ? std::string(FERNLEAF_SOURCE_DIR) + "/demo/hands" : argv[1];
    size_t most = 1000;
    if (argc > 2) most = std::stoul(argv[2]);
    std::set<std::string> wanted(argv + std::min(argc, 3), argv + argc);
    const auto wants = [&](const char* table) { return wanted.empty() || wanted.contains(table); };

    Hands hands;
    Texts texts;
    std::vector<std::string> literal;
    const auto lines_of = [&](const std::filesystem::path& path) {
        std::vector<std::string> lines;
        std::ifstream in(path);
        for (std::string line; lines.size() < most && std::getline(in, line);) lines.push_back(line);
        return lines;
    };
    for (const auto& entry : std::filesystem::directory_iterator(directory)) {
        const std::string name = entry.path().filename();
        if (entry.path().extension() == ".json") hands.emplace(entry.path().stem(), *Hand::load(entry.path()));
        if (name.starts_with("lines.") && name.ends_with(".txt"))
            texts[name.substr(6, name.size() - 10)] = lines_of(entry.path());
        if (name == "literal.txt") literal = lines_of(entry.path());
    }
    if (demo)
        for (const DemoPage& page : *demo_texts())
            if (page.language == "en") texts["en"].insert(texts["en"].end(), page.lines.begin(), page.lines.end());

    const auto reader = *Reader::load(models_directory());
    for (const auto& [code, lines] : texts)  // the memory of one language is told where only one is wanted
        if (code == "en" || wants("languages")) (void)static_cast<bool>(reader->load_language(code));
    if (wants("hands")) hands_table(hands, texts["en"], *reader);
    if (wants("languages") && texts.size() > 1) language_table(hands, texts, *reader);
    if (wants("literal") && !literal.empty()) literal_table(hands, literal, *reader);
    if (wants("digits") && std::filesystem::is_directory(directory / "digits"))
        digits_table(directory / "digits", *reader, **PrintSkills::load(models_directory()));
    if (wants("teaching") && !demo) teaching_table(hands, texts["en"], *reader);
    if (wants("segmentation")) segmentation_table(hands, *reader);
    if (wants("boxes")) boxes_table(hands, texts["en"], *reader);
    if (wants("notebook")) notebook_table(hands, texts["en"], *reader);
    if (wants("outside")) outside_table(hands, texts["en"], *reader);
}
