// Paper: how well sheets are found in photographs, straightened, cleaned and read. The photographs are made
// (tools/photo.h) of sheets drawn for it (bench/paper/sheets.h).
//
//   paper_bench HANDS TEXTS [TABLES] [--first N] [--count N] [--seed N] [--failures DIRECTORY]
//               [--camera first|second|held-back] [--grounds DIRECTORY]...
//
// --camera (bench/paper/paper_camera.h): of the second one's pictures, those held back are for figures only: other
// hands, other grounds, other seeds. GROUNDS: where Debian's opencv-doc and python3-skimage keep their pictures.
// HANDS: a directory of hands (*.json); TEXTS: a file of lines. TABLES: of sheets, reading, crowded, forms, boards,
// notes, drawings, odd, turned, speed, cleaning, lifting; all without.
#include <QGuiApplication>
#include <algorithm>
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <string>

#include "bench/options.h"
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
    const auto option = [&](const char* name) { return take_option(words, name); };
    if (const std::string n = option("--count"); !n.empty()) bench.count = std::stoul(n);
    if (const std::string n = option("--first"); !n.empty()) bench.first = std::min(bench.count, std::stoul(n));
    if (const std::string n = option("--seed"); !n.empty()) bench.seed = static_cast<unsigned>(std::stoul(n));
    bench.failures = option("--failures");
    const std::string camera = option("--camera");
    std::vector<std::filesystem::path> grounds{"/usr/share/doc/opencv-doc/examples/data",
                                               "/usr/lib/python3/dist-packages/skimage/data"};
    for (std::string more = option("--grounds"); !more.empty(); more = option("--grounds")) grounds.emplace_back(more);
    const bool held_back = camera == "held-back", second = held_back || camera == "second";
    bench.camera = second ? second_camera(grounds, held_back) : first_camera();
    if (!bench.camera) {
        std::fprintf(stderr, "paper_bench: no pictures to be grounds; install opencv-doc and python3-skimage\n");
        return 1;
    }
    if (words.size() < 2) {
        std::fprintf(
            stderr,
            "usage: paper_bench HANDS TEXTS [TABLES] [--first N] [--count N] [--seed N] [--failures DIRECTORY]\n"
            "                   [--camera first|second|held-back] [--grounds DIRECTORY]...\n");
        return 2;
    }
    bench.hands = hands_in(words[0]);
    // The second camera's hands are other people's; those held back follow other models, too.
    if (second) {
        std::vector<Hand> others;
        std::mt19937 random(held_back ? 2 : 1);
        for (size_t i = held_back ? 1 : 0; i < bench.hands.size(); i += 2)
            others.push_back(bench.hands[i].another(random));
        bench.hands = std::move(others);
        if (held_back) bench.seed += 500;
    }
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
    if (wants("speed")) speed_table(bench);
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
    if (wants("notes")) notes_table(bench, **reader, **print);
    if (wants("drawings")) drawings_table(bench, **reader, **print);
    if (wants("odd")) odd_table(bench, **reader, **print);
    if (wants("turned")) turned_table(bench, **reader);
    if (wants("cleaning")) cleaning_table(bench, **reader);
    if (wants("lifting")) lifting_table(bench, **reader, **print);
    return 0;
}
