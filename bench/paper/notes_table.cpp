#include <QFont>
#include <array>
#include <cstdio>
#include <opencv2/imgproc.hpp>

#include "bench/paper/things.h"

namespace fernleaf {
namespace {

constexpr double kPxPerMm = 10, kNoteWidthMm = 76;

// Paper and pen of a note: what people stick on a wall or tear off a block.
struct NoteKind {
    const char* name;
    cv::Scalar paper;  // BGR
    uint32_t ink;
    double width_mm;
};
const std::array<NoteKind, kNoteKinds> kKinds{{{"yellow, pen", {130, 232, 250}, 0x1E2A44, 0.4},
                                               {"yellow, marker", {120, 226, 248}, 0x20242C, 0.9},
                                               {"pink, pen", {196, 166, 244}, 0x1C3F94, 0.4},
                                               {"blue, pen", {238, 214, 170}, 0x202020, 0.4},
                                               {"white, pencil", {246, 248, 248}, 0x707076, 0.35},
                                               {"dark yellow, pencil", {96, 190, 222}, 0x606064, 0.35}}};

}  // namespace

// Two to six words in lines of one to three.
DrawnThing draw_note(const Hand& hand, const std::vector<std::string>& texts, size_t which, std::mt19937& random) {
    const NoteKind& kind = kKinds[which];
    const auto between = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random);
    };
    DrawnThing out;
    const double height_mm = random() % 2 == 0 ? 76 : 51;
    out.pixels =
        cv::Mat(static_cast<int>(height_mm * kPxPerMm), static_cast<int>(kNoteWidthMm * kPxPerMm), CV_8UC3, kind.paper);
    WritingStyle style;
    style.x_height_mm = between(2.6, 4);
    style.pen.width_mm = static_cast<float>(kind.width_mm);
    style.pen.colour = kind.ink;
    std::string text;
    const size_t first = random() % texts.size();
    for (size_t i = 0; i < texts.size() && text.empty(); ++i)
        if (hand.can_write(texts[(first + i) % texts.size()])) text = texts[(first + i) % texts.size()];
    double y = between(14, 20);
    const size_t wanted = 2 + random() % 5;
    size_t words = 0;
    std::string line;
    const auto put = [&] {
        if (line.empty()) return;
        const std::vector<Stroke> strokes = hand.write(line, {between(6, 9), y}, style, random);
        Box box;
        for (const Stroke& s : strokes) box.include(s.box());
        if (!box.empty() && box.right < kNoteWidthMm - 3 && y < height_mm - 6) {
            draw_ink(out.pixels, strokes, kPxPerMm);
            out.truth += line + ' ';
        }
        y += style.x_height_mm * between(3, 4);
        line.clear();
    };
    for (size_t at = 0; at < text.size() && words < wanted;) {
        const size_t end = std::min(text.find(' ', at), text.size());
        const std::string word = text.substr(at, end - at);
        if (!line.empty() &&
            (random() % 2 == 0 || static_cast<double>(line.size() + word.size()) * style.x_height_mm > 48))
            put();
        line += (line.empty() ? "" : " ") + word;
        ++words;
        at = end + 1;
    }
    put();
    return out;
}

void notes_table(const PaperBench& bench, const Reader& reader, PrintSkills& print) {
    std::printf("CER of notes of a few words, flat / photographed; %% of their ink in lines of writing\n");
    ThingErrors all;
    for (size_t kind = 0; kind < kNoteKinds; ++kind)
        all.add(read_things(
            bench, reader, print, kKinds[kind].name, static_cast<unsigned>(kind),
            [&](const Hand& hand, std::mt19937& random) { return draw_note(hand, bench.texts, kind, random); }));
    all.print("all");
}

}  // namespace fernleaf
