#include "transcript/ticking.h"

#include <algorithm>

#include "base/now.h"

namespace fernleaf {
namespace {

constexpr char kGone[] = "That box is not on its page any more.";
constexpr float kTickWidthMm = 0.6F;
constexpr uint32_t kTickColour = 0x2E6B4F;
constexpr double kWithin = 0.35;  // of a box's height that a tick may stand out of it

// The item of a list that a word of a block stands in; null: in none to tick off.
Paragraph* item_with(TextBlock& block, int block_word) {
    size_t first = 0;
    for (Paragraph& paragraph : block.paragraphs) {
        std::string all;
        for (const TextRun& run : paragraph.runs) all += run.text;
        const size_t words = words_in(all);
        if (static_cast<size_t>(block_word) < first + words)
            return paragraph.list == ListKind::check || paragraph.list == ListKind::checked ? &paragraph : nullptr;
        first += words;
    }
    return nullptr;
}

Result<Edit> tick_typed(const Page& page, const ReadWord& word, bool done, const std::function<ElementId()>& new_id) {
    const auto found = std::ranges::find(page.texts, word.block, &TextBlock::id);
    if (found == page.texts.end()) return Error{kGone};
    TextBlock changed = *found;
    Paragraph* item = item_with(changed, word.block_word);
    if (!item) return Error{kGone};
    item->list = done ? ListKind::checked : ListKind::check;
    changed.z = z_of(*found);
    changed.id = new_id();
    Edit edit{done ? "Tick off" : "Untick"};
    edit.removed.texts = {*found};
    edit.added.texts = {std::move(changed)};
    return edit;
}

Stroke tick_in(const Box& box, ElementId id) {
    Stroke stroke;
    stroke.id = id;
    stroke.pen.colour = kTickColour;
    stroke.pen.width_mm = kTickWidthMm;
    stroke.start_ms = now_ms();
    uint32_t time = 0;
    for (const Point at : {Point{0.2, 0.5}, Point{0.32, 0.66}, Point{0.44, 0.8}, Point{0.6, 0.52}, Point{0.78, 0.22},
                           Point{0.95, -0.05}}) {
        const Point on_page{box.left + at.x * box.width(), box.top + at.y * box.height()};
        stroke.points.push_back({on_page, 0.5F, 0, 0, time});
        time += 20;
    }
    return stroke;
}

}  // namespace

Result<Edit> tick(const Page& page, const ReadLine& line, bool done, const std::function<ElementId()>& new_id) {
    const auto ticked = to_tick(line);
    if (!ticked) return Error{"There is no box to tick before this line."};
    if (*ticked == done) return Error{done ? "This is ticked already." : "This is not ticked."};
    for (const ReadWord& word : line.words)
        if (word.block != 0 && word.text != kOpenBox && word.text != kTickedBox)
            if (auto edit = tick_typed(page, word, done, new_id)) return edit;
    const ReadWord& box = line.words.front();
    if (box.text != kOpenBox && box.text != kTickedBox) return Error{kGone};
    const bool of_ink = !box.strokes.empty();
    const auto there = [&](StrokeId id) {
        return std::ranges::find(page.strokes, id, &Stroke::id) != page.strokes.end();
    };
    if (of_ink && !std::ranges::all_of(box.strokes, there)) return Error{kGone};
    Edit edit{done ? "Tick off" : "Untick"};
    if (done) {
        edit.added.strokes = {tick_in(box.box, new_id())};
    } else {
        // What lies in the box and is none of it.
        const Box reach = box.box.grown(kWithin * box.box.height());
        for (const Stroke& stroke : page.strokes) {
            const Box covered = stroke.box();
            if (reach.contains({covered.left, covered.top}) && reach.contains({covered.right, covered.bottom}) &&
                covered.width() < 0.95 * box.box.width())
                edit.removed.strokes.push_back(stroke);
        }
        if (edit.removed.strokes.empty())
            return Error{of_ink ? kGone : "This was ticked on paper. Erase it there, or correct the reading."};
    }
    // On paper the box is read as it was photographed, whatever is written over it.
    if (!of_ink) edit.corrections_added = {{{}, box.box, done ? kTickedBox : kOpenBox}};
    return edit;
}

}  // namespace fernleaf
