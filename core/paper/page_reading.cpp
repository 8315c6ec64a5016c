#include "paper/page_reading.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <opencv2/imgproc.hpp>
#include <unordered_map>
#include <unordered_set>
#include <utility>

#include "document/elements.h"
#include "document/errand.h"
#include "drawing/drawn_ink.h"
#include "drawing/table_finding.h"
#include "ink/ink_tick_boxes.h"
#include "paper/form_rows.h"
#include "paper/formulas_on_paper.h"
#include "paper/picture_drawing.h"
#include "paper/picture_file.h"
#include "paper/scan_lines.h"
#include "paper/sheet_picture.h"
#include "transcript/table_by_gaps.h"

namespace fernleaf {
namespace {

constexpr double kParagraphGap = 0.9;  // of a line's height: a wider one parts regions
constexpr double kAboutText = 0.08;    // of its height: print is as wide as its box, or a little more
constexpr double kBoxCertainty = 0.9;  // that it is ticked, or is not
constexpr uint64_t kDrawingSeed = 0x5D12A3ULL, kTableSeed = 0x7AB1E5ULL;
constexpr uint64_t kEdition = 10;  // of how pictures are read: with another, what was read before is read anew

// A picture's pixels never change, so one signature stands for all its lines.
uint64_t signature_of(const Picture& picture, uint64_t seed) {
    uint64_t hash = mixed(mixed(seed, kEdition), static_cast<uint64_t>(picture.id));
    for (const char c : picture.file) hash = mixed(hash, static_cast<unsigned char>(c));
    hash = mixed(hash, static_cast<uint64_t>(picture.frame));
    // Moved, turned or cropped it is another picture: its lines are elsewhere.
    for (const double value : {picture.box.left, picture.box.top, picture.box.right, picture.box.bottom, picture.angle,
                               picture.crop.left, picture.crop.top, picture.crop.right, picture.crop.bottom})
        hash = mixed(hash, static_cast<uint64_t>(std::llround(value * 1000)));
    // How it is straightened, too; how it is cleaned changes nothing in what is read.
    Treatment laid = picture.treatment;
    laid.look = Look::original, laid.without_rules = false;
    if (laid.untouched()) return hash >> 1;
    if (laid.outline)
        for (const Point& p : polygon(*laid.outline, 4))
            hash =
                mixed(mixed(hash, static_cast<uint64_t>(std::llround(p.x))), static_cast<uint64_t>(std::llround(p.y)));
    for (const Box& b : laid.lifted)
        for (const double value : {b.left, b.top, b.right, b.bottom})
            hash = mixed(hash, static_cast<uint64_t>(std::llround(value * 100000)));
    for (const double value :
         {static_cast<double>(laid.dpi), static_cast<double>(laid.quarter_turns), laid.turn_deg, laid.aspect})
        hash = mixed(hash, static_cast<uint64_t>(std::llround(value * 1000)));
    return hash >> 1;
}

// Where something in a picture lies on the page. part: of the whole picture, before it was cropped.
Box place_of(const Picture& picture, const Box& part) {
    const double across = picture.box.width() / picture.crop.width();
    const double down = picture.box.height() / picture.crop.height();
    return turned(
        Box::of(picture.box.left + (part.left - picture.crop.left) * across,
                picture.box.top + (part.top - picture.crop.top) * down, part.width() * across, part.height() * down),
        picture.angle, picture.box.centre());
}

// Text that a file has as text, in its lines; a gap between lines parts regions.
std::vector<ReadLine> kept_lines(const std::vector<KeptWord>& words, const Picture& picture, uint64_t input_signature) {
    std::vector<ReadLine> out;
    int region = 0;
    bool begins = true;
    Box above;
    for (const KeptWord& word : words) {
        if (!picture.crop.contains(word.box.centre())) continue;
        if (begins) {
            const bool goes_on = word.box.top - above.bottom < kParagraphGap * word.box.height() &&
                                 word.box.top > above.top && word.box.left < above.right && word.box.right > above.left;
            if (!out.empty() && !goes_on) ++region;
            out.push_back({region, RegionKind::text, 1, {}, input_signature, {}, 0});
            above = {};
        }
        above.include(word.box);
        out.back().words.push_back({word.text, 1, place_of(picture, word.box), {}, {}, false});
        out.back().box.include(out.back().words.back().box);
        begins = word.ends_line;
    }
    return out;
}

// Writing beside printed text in its line, as on a form, joins it; what stands by itself is left.
void join(std::vector<ReadLine>& kept, std::vector<ReadLine>& written) {
    std::erase_if(written, [&](ReadLine& line) {
        if (line.words.empty()) return false;
        const Point middle = line.box.centre();
        for (ReadLine& other : kept) {
            const bool beside = middle.y > other.box.top && middle.y < other.box.bottom &&
                                (line.box.left > other.box.right || line.box.right < other.box.left);
            if (!beside) continue;
            std::ranges::move(line.words, std::back_inserter(other.words));
            std::ranges::stable_sort(other.words, {}, [](const ReadWord& w) { return w.box.left; });
            other.box.include(line.box);
            other.certainty = std::min(other.certainty, line.certainty);
            return true;
        }
        return false;
    });
}

// Sets a box among a line's words, from left to right; it is printed, as boxes mostly are.
void put_box(ReadWord box, ReadLine& line, std::vector<bool>& printed) {
    const auto at = std::ranges::find_if(
        line.words, [&](const ReadWord& word) { return word.box.centre().x > box.box.centre().x; });
    printed.insert(printed.begin() + (at - line.words.begin()), true);
    line.box.include(box.box);
    line.words.insert(at, std::move(box));
}

struct PictureReading {
    std::vector<ReadLine> kept, read;
    bool looked_at = false;  // whether there was a picture to look at
};

PictureReading read_picture(const Picture& picture, const std::string& bytes, const Reader& reader,
                            const ReadSettings& settings, uint64_t input_signature, const CancelToken& cancel,
                            const Progress& progress, PrintSkills* print, FormulaSkills* formulas) {
    PictureReading out;
    auto laid = picture_to_read(bytes, picture);
    if (!laid) return out;
    out.looked_at = true;
    cv::Mat pixels = std::exchange(*laid, {});
    if (!picture.treatment.is_rectified()) {
        const std::vector<KeptWord> words = embedded_pdf_text(bytes, picture.frame);
        for (const KeptWord& word : words) {
            const double about = kAboutText * word.box.height() * pixels.rows;
            const cv::Rect box(static_cast<int>(word.box.left * pixels.cols - about),
                               static_cast<int>(word.box.top * pixels.rows - about),
                               static_cast<int>(word.box.width() * pixels.cols + 2 * about) + 1,
                               static_cast<int>(word.box.height() * pixels.rows + 2 * about) + 1);
            cv::rectangle(pixels, box, cv::Scalar::all(255), cv::FILLED);
        }
        out.kept = kept_lines(words, picture, input_signature);
    }
    const cv::Rect2d whole(picture.crop.left * pixels.cols, picture.crop.top * pixels.rows,
                           picture.crop.width() * pixels.cols, picture.crop.height() * pixels.rows);
    const cv::Rect shown = cv::Rect(whole) & cv::Rect(0, 0, pixels.cols, pixels.rows);
    if (shown.empty()) return out;
    const ScannedPage scanned = scan_page(pixels(shown));
    const double wide = pixels.cols, high = pixels.rows;
    pixels.release();  // up to a quarter of a gigabyte, which nothing needs while lines are read
    const std::vector<AnyLineReading> readings = read_scanned(scanned, reader, print, settings, cancel, progress);
    const auto place = [&](double x, double y, double w, double h) {
        return place_of(picture, Box::of((shown.x + x) / wide, (shown.y + y) / high, w / wide, h / high));
    };
    const auto box_word = [&](const ScanBox& box) {
        return ReadWord{box.ticked ? kTickedBox : kOpenBox,
                        kBoxCertainty,
                        place(box.box_px.x, box.box_px.y, box.box_px.width, box.box_px.height),
                        {},
                        {{box.ticked ? kOpenBox : kTickedBox, 1 - kBoxCertainty}},
                        false};
    };
    std::vector<FormLine> lines;
    for (size_t i = 0; i < scanned.lines.size(); ++i) {
        const ScanLine& scan = scanned.lines[i];
        if (scan.understood) continue;  // told as a drawing
        std::vector<bool> printed = readings[i].printed;
        ReadLine line;
        line.region = scan.region;
        line.input_signature = input_signature;
        line.kind = scan.drawing ? RegionKind::drawing : RegionKind::text;
        line.box = place(scan.box_px.x, scan.box_px.y, scan.box_px.width, scan.box_px.height);
        if (!scan.drawing) {
            line.certainty = readings[i].line.certainty;
            for (const WordReading& word : readings[i].line.words) {
                const ScanSpan span = span_of(scan, word);
                line.words.push_back({word.text,
                                      word.certainty,
                                      place(span.begin, scan.box_px.y, span.end - span.begin, scan.box_px.height),
                                      {},
                                      word.alternatives,
                                      false});
            }
            if (line.words.empty()) continue;
            name_pieces(line.words, scanned, scan, readings[i]);
            for (const ScanBox& box : scanned.boxes)
                if (box.line == i) put_box(box_word(box), line, printed);
        }
        lines.push_back({std::move(line), std::move(printed)});
    }
    join_rows(lines);
    for (FormLine& line : lines) out.read.push_back(std::move(line.line));
    const double finer = 1 / scanned.shrink;
    const auto of_mask = [&](Point p) { return place((p.x + 0.5) * finer, (p.y + 0.5) * finer, 0, 0).centre(); };
    find_formulas(out.read, scanned, of_mask, formulas, writes_decimal_comma(settings.languages), input_signature,
                  cancel);
    add_drawings(
        out.read, scanned, [&](Point px) { return place(px.x, px.y, 0, 0).centre(); }, input_signature);
    leave_out_formulas(out.read);
    join(out.kept, out.read);
    return out;
}

// Groups of some strokes, told by their places among all.
void add_drawn(DrawnInk& out, const std::vector<Stroke>& strokes, const std::vector<size_t>& at, bool all_drawn,
               const std::vector<Shape>& known, ShapeMemory& memory) {
    std::vector<Stroke> some;
    for (const size_t i : at) some.push_back(strokes[i]);
    std::vector<ShapeGroup> groups = drawn_ink(some, all_drawn, known, &memory).groups;
    // What a person said is a drawing is all of one, also ink in it that is no shape.
    if (all_drawn && !groups.empty())
        for (const size_t i : at) out.drawn[i] = true;
    for (ShapeGroup& group : groups) {
        for (size_t& s : group.strokes) s = at[s], out.drawn[s] = true;
        out.groups.push_back(std::move(group));
    }
}

// What a person said is one shape, or is left as ink. at: places of its strokes among all.
void add_said_shape(DrawnInk& out, const std::vector<Stroke>& strokes, std::vector<size_t> at, const std::string& name,
                    ShapeMemory& memory) {
    std::vector<const Stroke*> ink;
    for (const size_t i : at) ink.push_back(&strokes[i]), out.drawn[i] = true;
    if (name.empty()) return;
    ShapeGroup group{std::move(at), memory.read(ink)};
    // What was said comes first when what a shape may be is cut short.
    std::stable_partition(group.reading.candidates.begin(), group.reading.candidates.end(),
                          [&](const ShapeCandidate& c) { return name_of(c.shape.kind) == name; });
    if (!group.reading.candidates.empty()) out.groups.push_back(std::move(group));
}

// Tables among strokes that are told by their places among all.
void add_tables(std::vector<FoundTable>& out, std::vector<bool>& taken, const std::vector<Stroke>& strokes,
                const std::vector<size_t>& at, const std::vector<Box>& typed, bool said) {
    std::vector<Stroke> some;
    for (const size_t i : at) some.push_back(strokes[i]);
    for (FoundTable& table : tables_in(some, typed, said)) {
        for (size_t& s : table.rules) s = at[s], taken[s] = true;
        for (std::vector<size_t>& ink : table.ink)
            for (size_t& s : ink) s = at[s], taken[s] = true;
        out.push_back(std::move(table));
    }
}

// What of a page's ink is no line of words.
struct SetApart {
    std::vector<FoundTable> tables;
    DrawnInk drawn;
    std::vector<Stroke> rows;       // said to be a table, though no rules part it
    std::vector<Stroke> rest;       // lines of words
    std::vector<InkTickBox> boxes;  // to tick, before lines
};

// Boxes to tick among strokes that nobody spoke of.
void find_boxes(std::vector<InkTickBox>& out, std::vector<bool>& taken, const std::vector<Stroke>& strokes,
                std::vector<size_t>& free) {
    std::vector<Stroke> some;
    for (const size_t i : free) some.push_back(strokes[i]);
    for (InkTickBox& box : ink_tick_boxes(some)) {
        for (std::vector<size_t>* list : {&box.strokes, &box.ticks})
            for (size_t& s : *list) s = free[s], taken[s] = true;
        out.push_back(std::move(box));
    }
    std::erase_if(free, [&](size_t i) { return taken[i]; });
}

bool is_box_in_ink(const ReadWord& word) {
    return !word.strokes.empty() && (word.text == kOpenBox || word.text == kTickedBox);
}

// Puts a box before the line that begins behind it; where nothing is read there, it stands by itself.
void put_before_line(Reading& reading, const InkTickBox& found, const std::vector<Stroke>& strokes) {
    ReadWord word{found.ticks.empty() ? kOpenBox : kTickedBox, kBoxCertainty, found.box, {}, {}, false};
    word.alternatives = {{found.ticks.empty() ? kTickedBox : kOpenBox, 1 - kBoxCertainty}};
    for (const std::vector<size_t>* list : {&found.strokes, &found.ticks})
        for (const size_t i : *list) word.strokes.push_back(strokes[i].id);
    ReadLine* nearest = nullptr;
    for (ReadLine& line : reading.lines) {
        const double shared = std::min(line.box.bottom, found.box.bottom) - std::max(line.box.top, found.box.top);
        if (line.kind != RegionKind::text || line.words.empty() || line.box.left < found.box.centre().x ||
            shared < 0.4 * std::min(line.box.height(), found.box.height()))
            continue;
        if (!nearest || line.box.left < nearest->box.left) nearest = &line;
    }
    if (nearest) {
        nearest->box.include(found.box);
        nearest->words.insert(nearest->words.begin(), std::move(word));
        return;
    }
    ReadLine line;
    line.certainty = kBoxCertainty;
    line.box = found.box;
    line.words = {std::move(word)};
    insert_regions(reading, {std::move(line)});
}

// Tables, and what is drawn: of the ink that nobody spoke of what looks so, and what a person said is.
SetApart set_apart(const Page& page, const std::vector<Correction>& corrections, ShapeMemory& memory) {
    const std::vector<Stroke>& strokes = page.strokes;
    std::vector<Box> typed;
    for (const TextBlock& text : page.texts)
        for (const PlacedWord& word : text.words) typed.push_back(word.box);
    std::unordered_map<StrokeId, const Correction*> spoken_of;
    std::unordered_set<StrokeId> worded;  // what it says was corrected: it is written
    for (const Correction& c : corrections)
        for (const StrokeId id : c.strokes)
            if (c.is_of_word())
                worded.insert(id);
            else if (c.is_of_kind())
                spoken_of[id] = &c;
    SetApart out;
    std::vector<bool> taken(strokes.size());
    for (size_t i = 0; i < strokes.size(); ++i) taken[i] = errand_of(page.info, strokes[i]).has_value();
    // What stands in tables that are drawn fair is in their cells whatever it looks like.
    for (const FairTable& fair : page.tables) {
        FoundTable found{as_read(fair), 1, drawn_box(fair), {}, {}};
        found.ink.resize(found.table.cells.size());
        for (size_t i = 0; i < strokes.size(); ++i) {
            const auto at = taken[i] ? std::nullopt : cell_at(fair, strokes[i].box().centre());
            if (!at) continue;
            const auto cell = std::ranges::find_if(
                found.table.cells, [&](const ReadCell& c) { return c.row == at->row && c.column == at->column; });
            found.ink[static_cast<size_t>(cell - found.table.cells.begin())].push_back(i);
            taken[i] = true;
        }
        out.tables.push_back(std::move(found));
    }
    std::vector<size_t> free, as_table, as_drawing;
    std::vector<std::pair<const Correction*, std::vector<size_t>>> as_shape;
    for (size_t i = 0; i < strokes.size(); ++i) {
        if (taken[i]) continue;
        const auto found = spoken_of.find(strokes[i].id);
        if (found == spoken_of.end())
            free.push_back(i);
        else if (found->second->kind == InkClass::table)
            as_table.push_back(i);
        else if (found->second->kind == InkClass::drawing)
            as_drawing.push_back(i);
        else if (found->second->kind == InkClass::shape) {
            auto said = std::ranges::find(as_shape, found->second, [](const auto& s) { return s.first; });
            if (said == as_shape.end()) said = as_shape.insert(said, {found->second, {}});
            said->second.push_back(i);
        }
    }
    find_boxes(out.boxes, taken, strokes, free);
    const size_t drawn_fair = out.tables.size();
    add_tables(out.tables, taken, strokes, as_table, typed, true);
    if (out.tables.size() == drawn_fair)
        for (const size_t i : as_table) out.rows.push_back(strokes[i]), taken[i] = true;
    add_tables(out.tables, taken, strokes, free, typed, false);
    std::erase_if(free, [&](size_t i) { return taken[i] || worded.contains(strokes[i].id); });
    out.drawn.drawn.resize(strokes.size());
    for (auto& [said, at] : as_shape) add_said_shape(out.drawn, strokes, std::move(at), said->text, memory);
    std::vector<Shape> known;
    for (const ShapeGroup& group : out.drawn.groups) known.push_back(group.reading.best().shape);
    for (const FairShape& fair : page.shapes) known.push_back(fair.shape);
    add_drawn(out.drawn, strokes, free, false, known, memory);
    add_drawn(out.drawn, strokes, as_drawing, true, known, memory);
    for (size_t i = 0; i < strokes.size(); ++i)
        if (!taken[i] && !out.drawn.drawn[i]) out.rest.push_back(strokes[i]);
    return out;
}

// A table and the lines of its cells: one region.
std::vector<ReadLine> table_lines(const FoundTable& found, const std::vector<Stroke>& strokes,
                                  const std::function<std::vector<ReadLine>(const std::vector<Stroke>&)>& read) {
    ReadLine grid;
    grid.kind = RegionKind::table;
    grid.certainty = found.certainty;
    grid.box = found.box;
    grid.table = found.table;
    uint64_t hash = kTableSeed;
    for (const StrokeId id : found.table.rules) hash = mixed(hash, static_cast<uint64_t>(id));
    grid.input_signature = hash >> 1;
    std::vector<ReadLine> out{std::move(grid)};
    for (size_t cell = 0; cell < found.ink.size(); ++cell) {
        std::vector<Stroke> ink;
        for (const size_t s : found.ink[cell]) ink.push_back(strokes[s]);
        if (ink.empty()) continue;
        for (ReadLine& line : read(ink)) {
            line.region = 0;
            line.heading = 0;
            line.cell = static_cast<int>(cell);
            out.push_back(std::move(line));
        }
    }
    return out;
}

// All that is drawn is one region.
ReadLine drawing_line(const DrawnInk& drawn, const std::vector<Stroke>& strokes) {
    ReadLine out;
    out.kind = RegionKind::drawing;
    out.certainty = 1;
    uint64_t hash = kDrawingSeed;
    out.shapes = drawn.shapes(strokes);
    std::unordered_set<StrokeId> understood;
    for (const ReadShape& shape : out.shapes) {
        out.certainty = std::min(out.certainty, shape.best().certainty);
        understood.insert(shape.strokes.begin(), shape.strokes.end());
    }
    for (size_t i = 0; i < strokes.size(); ++i) {
        if (!drawn.drawn[i]) continue;
        out.box.include(strokes[i].box());
        hash = mixed(hash, static_cast<uint64_t>(strokes[i].id));
        if (!understood.contains(strokes[i].id)) out.ink.push_back(strokes[i].id);
    }
    out.input_signature = hash >> 1;
    return out;
}

}  // namespace

Reading read_page(const Page& page, const FileSource& files, const Reader& reader, const ReadSettings& settings,
                  const Reading& before, const std::vector<Correction>& corrections, const CancelToken& cancel,
                  const Progress& progress, PrintSkills* print, ShapeMemory* shapes, FormulaSkills* formulas) {
    // Typed words and boxes to tick are set among the others anew.
    Reading earlier = before;
    for (ReadLine& line : earlier.lines)
        std::erase_if(line.words, [](const ReadWord& w) { return w.block != 0 || is_box_in_ink(w); });
    std::vector<std::vector<ReadLine>> pictures;
    for (const Picture& picture : page.pictures) {
        if (cancel.cancelled()) break;
        const uint64_t input_signature = signature_of(picture, signature(settings));
        std::vector<ReadLine> lines;
        for (const ReadLine& line : earlier.lines)
            if (line.input_signature == input_signature) lines.push_back(line);
        if (lines.empty()) {
            const auto bytes = files(picture.file);
            if (bytes) {
                PictureReading fresh =
                    read_picture(picture, *bytes, reader, settings, input_signature, cancel, progress, print, formulas);
                // Part of it would be taken for all by the next reading.
                if (cancel.cancelled()) break;
                lines = std::move(fresh.kept);
                if (!fresh.read.empty()) pictures.push_back(std::move(fresh.read));
                // That nothing was found is a result as well: it need not be looked for again.
                else if (lines.empty() && fresh.looked_at)
                    lines.push_back({0, RegionKind::picture, 1, drawn_box(picture), input_signature, {}, 0});
            }
        }
        pictures.push_back(std::move(lines));
    }
    ShapeMemory own;
    ShapeMemory& memory = shapes ? *shapes : own;
    memory.make_room();
    const SetApart apart = set_apart(page, corrections, memory);
    const auto read = [&](const std::vector<Stroke>& ink, const Progress& told = {}) {
        return read_ink(ink, reader, settings, earlier, cancel, told, corrections);
    };
    std::vector<Shape> figures;
    for (const ShapeGroup& group : apart.drawn.groups) figures.push_back(group.reading.best().shape);
    for (const FairShape& fair : page.shapes) figures.push_back(fair.shape);
    const std::vector<std::vector<Stroke>> writing = parted_by_figures(apart.rest, figures);
    Reading reading{read(writing.front(), progress)};
    for (size_t i = 1; i < writing.size() && !cancel.cancelled(); ++i) insert_regions(reading, read(writing[i]));
    if (std::ranges::find(apart.drawn.drawn, true) != apart.drawn.drawn.end())
        insert_regions(reading, {drawing_line(apart.drawn, page.strokes)});
    for (const FoundTable& table : apart.tables)
        if (!cancel.cancelled())
            insert_regions(reading, table_lines(table, page.strokes, [&](const auto& ink) { return read(ink); }));
    if (!apart.rows.empty()) {
        std::vector<ReadLine> lines = read(apart.rows);
        const bool words = std::ranges::any_of(lines, [](const ReadLine& line) { return !line.words.empty(); });
        insert_regions(reading, words ? table_by_gaps(lines) : std::move(lines));
    }
    for (const InkTickBox& box : apart.boxes) put_before_line(reading, box, page.strokes);
    for (std::vector<ReadLine>& lines : pictures) insert_regions(reading, std::move(lines));
    const bool decimal_comma = writes_decimal_comma(settings.languages);
    if (formulas) {
        formulas->find(reading, page.strokes, corrections, decimal_comma, cancel);
        formulas->read(reading, page.strokes, corrections, cancel);
    }
    apply_corrections(reading, corrections);
    add_typed(reading, page);
    if (formulas) formulas->work_out(reading, decimal_comma, cancel, settings.working, settings.earlier_formulas);
    return reading;
}

}  // namespace fernleaf
