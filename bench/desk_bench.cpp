// The writing desk's geometry: how often scribbling out and proof marks are taken for what they are, and not; the time
// of erasing and moving.
//
//   desk_bench [DIRECTORY]     hands of a directory, as reading_bench; the demo's without one
#include <chrono>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <numbers>
#include <random>

#include "demo/demo_library.h"
#include "demo/hand.h"
#include "document/edit.h"
#include "ink/erasing.h"
#include "ink/scribble.h"
#include "ink/selecting.h"
#include "proof_table.h"
#include "store/library.h"

using namespace fernleaf;

namespace {

using Clock = std::chrono::steady_clock;

double ms_since(Clock::time_point begin) {
    return std::chrono::duration<double, std::milli>(Clock::now() - begin).count();
}

// What a hand does to have a word gone: runs forth and back over it, uneven, a little aslant.
Stroke scribble_over(const Box& box, std::mt19937& random) {
    std::uniform_real_distribution<double> part(0, 1);
    const int runs = 6 + static_cast<int>(random() % 7);
    const double turn = 0.3 * (part(random) - 0.5), size = box.width();
    Stroke s;
    Point before{};
    for (int i = 0; i <= runs; ++i) {
        const double off = (i % 2 == 0 ? -0.55 : 0.55) * size * (0.9 + 0.2 * part(random));
        const double down = (static_cast<double>(i) / runs - 0.5) * box.height() * (0.7 + 0.5 * part(random));
        const Point c = box.centre();
        const Point corner{c.x + off * std::cos(turn) - down * std::sin(turn),
                           c.y + off * std::sin(turn) + down * std::cos(turn)};
        if (i > 0)
            for (int k = 0; k < 12; ++k) {
                const Point p = before + (corner - before) * (k / 12.0);
                s.points.push_back(
                    {{p.x + 0.15 * (part(random) - 0.5), p.y + 0.3 * std::sin(k * std::numbers::pi / 12)}});
            }
        before = corner;
    }
    return s;
}

void scribbles(const std::filesystem::path& directory) {
    size_t strokes = 0, shaped = 0, fired = 0, words = 0, recognised = 0, whole = 0, spilt = 0;
    for (const auto& entry : std::filesystem::directory_iterator(directory)) {
        if (entry.path().extension() != ".json") continue;
        const Hand hand = *Hand::load(entry.path());
        std::mt19937 random(3);
        for (const DemoPage& page : *demo_texts()) {
            std::vector<Stroke> written;
            double y = 20;
            for (const std::string& line : page.lines) {
                Point at{20, y};
                for (size_t begin = 0; begin < line.size();) {
                    const size_t end = std::min(line.find(' ', begin), line.size());
                    Box box;
                    std::vector<StrokeId> ids;
                    for (Stroke& s : hand.write(line.substr(begin, end - begin), at, {}, random)) {
                        s.id = static_cast<StrokeId>(written.size()) + 1;
                        written.push_back(s);
                        ids.push_back(s.id);
                        box.include(s.box());
                        ++strokes;
                        shaped += is_scribble(s);
                        fired += !scribbled_out(s, written).empty();
                    }
                    begin = end + 1;
                    if (ids.empty()) continue;
                    at.x = box.right + 2;
                    if (box.width() < 4) continue;
                    ++words;
                    const auto out = scribbled_out(scribble_over(box, random), written);
                    size_t mine = 0;
                    for (const StrokeId id : out) mine += id >= ids.front();
                    recognised += mine > 0;
                    whole += mine == ids.size();
                    spilt += out.size() > mine;
                }
                y += 9;
            }
        }
    }
    std::printf("writing: %zu strokes, %zu shaped like a scribble, %zu taken for one\n", strokes, shaped, fired);
    std::printf(
        "scribbles over words: %zu, taken for one %.1f %%, the whole word gone %.1f %%, other ink with it %.1f %%\n",
        words, 100.0 * static_cast<double>(recognised) / static_cast<double>(words),
        100.0 * static_cast<double>(whole) / static_cast<double>(words),
        100.0 * static_cast<double>(spilt) / static_cast<double>(words));
}

std::vector<Stroke> full_page(size_t count) {
    const Hand hand = *Hand::load(std::string(FERNLEAF_SOURCE_DIR) + "/demo/hands/mirela.json");
    std::mt19937 random(5);
    std::vector<Stroke> strokes;
    while (strokes.size() < count)
        for (Stroke& s : hand.write("Pressing began at eight with the early apples",
                                    {10, 10.0 + static_cast<double>(random() % 190)}, {}, random)) {
            s.id = static_cast<StrokeId>(strokes.size()) + 1;
            strokes.push_back(std::move(s));
        }
    strokes.resize(count);
    return strokes;
}

void move_on_disk(const Page& page, Edit edit) {
    const auto directory = std::filesystem::temp_directory_path() / "fernleaf-desk-bench";
    std::filesystem::remove_all(directory);
    {
        auto library = *Library::open(directory);
        Notebook notebook;
        notebook.title = "Bench";
        std::vector<FilledPage> pages(1);
        pages[0].content = page;
        const auto ids = *library->add_filled_pages(*library->add_notebook(notebook), pages);
        edit.removed.strokes = library->load_page(ids[0])->strokes;
        for (Stroke& s : edit.added.strokes) s.id = 0;
        auto begin = Clock::now();
        const Status committed = library->commit(ids[0], edit);
        const bool moved{committed};
        if (!moved) std::printf("%s\n", committed.error().message.c_str());
        const double there = ms_since(begin);
        begin = Clock::now();
        const bool back{library->undo(ids[0])};
        std::printf("moving %zu strokes on disk: %.0f ms, taking it back %.0f ms%s\n", edit.added.strokes.size(), there,
                    ms_since(begin), moved && back ? "" : " (failed)");
    }
    std::filesystem::remove_all(directory);
}

}  // namespace

int main(int argc, char** argv) {
    const std::filesystem::path hands = argc > 1 ? argv[1] : std::string(FERNLEAF_SOURCE_DIR) + "/demo/hands";
    scribbles(hands);
    proof_table(hands);

    const std::vector<Stroke> ink = full_page(2000);
    auto begin = Clock::now();
    size_t pieces = 0;
    for (const Stroke& s : ink) pieces += erased_along(s, {0, 0}, {148, 210}, 2).size();
    std::printf("erasing parts, one way across a page of %zu strokes: %.1f ms, %zu pieces stay\n", ink.size(),
                ms_since(begin), pieces);

    Page page;
    page.strokes = full_page(5000);
    Edit edit{"Move", {}, {page.strokes}};
    begin = Clock::now();
    for (const Stroke& s : page.strokes) {
        edit.added.strokes.push_back(transformed(s, Affine::shift({3, 4})));
        edit.added.strokes.back().id += 5000;
    }
    apply(page, edit);
    const double there = ms_since(begin);
    begin = Clock::now();
    apply(page, edit.reversed());
    std::printf("moving %zu strokes: %.1f ms, taking it back %.1f ms (in memory)\n", edit.added.strokes.size(), there,
                ms_since(begin));
    move_on_disk(page, edit);
}
