// Paper: how well sheets are found in photographs, straightened, cleaned and read. The photographs are made
// (tools/photo.h) of sheets drawn for it (bench/paper/sheets.h).
//
//   paper_bench HANDS TEXTS [TABLES] [--first N] [--count N] [--seed N] [--failures DIRECTORY]
//
// HANDS: a directory of hands (*.json); TEXTS: a file of lines. TABLES: of sheets, reading, crowded, forms, boards,
// cleaning, lifting; all without.
#include <QGuiApplication>
#include <algorithm>
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <string>

#include "bench/paper/tables.h"
#include "reading/models_directory.h"
#include "render/fonts.h"

using namespace fernleaf;

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QGuiApplication application(argc, argv);
    load_fonts();
    std::vector<std::string> words(argv + 1, argv + argc);
    PaperBench bench;
    const auto option = [&](const std::string& name) -> std::string {
        const auto at = std::ranges::find(words, name);
        if (at == words.end() || at + 1 == words.end()) return {};
        std::string value = *(at + 1);
        words.erase(at, at + 2);
        return value;
    };
    if (const std::string n = option("--count"); !n.empty()) bench.count = std::stoul(n);
    if (const std::string n = option("--first"); !n.empty()) bench.first = std::min(bench.count, std::stoul(n));
    if (const std::string n = option("--seed"); !n.empty()) bench.seed = static_cast<unsigned>(std::stoul(n));
    bench.failures = option("--failures");
    if (words.size() < 2) {
        std::fprintf(
            stderr,
            "usage: paper_bench HANDS TEXTS [TABLES] [--first N] [--count N] [--seed N] [--failures DIRECTORY]\n");
        return 2;
    }
    std::vector<std::filesystem::path> files;
    for (const auto& entry : std::filesystem::directory_iterator(words[0]))
        if (entry.path().extension() == ".json") files.push_back(entry.path());
    std::ranges::sort(files);
    for (const auto& file : files)
        if (auto hand = Hand::load(file)) bench.hands.push_back(*std::move(hand));
    std::ifstream in(words[1]);
    for (std::string line; std::getline(in, line);)
        if (!line.empty()) bench.texts.push_back(line);
    if (bench.hands.empty() || bench.texts.empty()) {
        std::fprintf(stderr, "paper_bench: no hands or no texts there\n");
        return 1;
    }
    const auto wants = [&](const char* table) {
        return words.size() == 2 || std::ranges::find(words, table) != words.end();
    };
    if (wants("sheets")) sheets_table(bench);
    auto reader = Reader::load(models_directory());
    if (!reader || !(*reader)->load_language("en")) {
        std::fprintf(stderr, "paper_bench: the reader's data is missing\n");
        return 1;
    }
    auto print = PrintSkills::load(models_directory());
    if (!print) {
        std::fprintf(stderr, "paper_bench: %s\n", print.error().message.c_str());
        return 1;
    }
    if (wants("reading")) reading_table(bench, **reader, **print);
    if (wants("crowded")) crowded_table(bench, **reader);
    if (wants("forms")) forms_table(bench, **reader, **print);
    if (wants("boards")) boards_table(bench, **reader, **print);
    if (wants("cleaning")) cleaning_table(bench, **reader);
    if (wants("lifting")) lifting_table(bench, **reader, **print);
    return 0;
}
