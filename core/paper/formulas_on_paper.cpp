#include "paper/formulas_on_paper.h"

#include <algorithm>
#include <unordered_set>

#include "paper/piece_strokes.h"

namespace fernleaf {
namespace {

constexpr double kDotMm = 0.05;    // two points of a dot lie that far apart
constexpr double kMostlyIn = 0.8;  // of a shape's box: then it is part of the formula

// By the number that words name it by, counted from 1.
StrokeId name_of(size_t piece) { return static_cast<StrokeId>(piece) + 1; }

}  // namespace

void name_pieces(std::vector<ReadWord>& words, const ScannedPage& scanned, const ScanLine& line,
                 const AnyLineReading& reading) {
    const std::vector<std::optional<size_t>> owners = words_of_pieces(scanned, line, reading.line.words);
    for (size_t i = 0; i < line.pieces.size(); ++i)
        if (owners[i] && *owners[i] < words.size() && !reading.printed[*owners[i]])
            words[*owners[i]].strokes.push_back(name_of(line.pieces[i]));
}

void find_formulas(std::vector<ReadLine>& lines, const ScannedPage& scanned, const std::function<Point(Point)>& place,
                   FormulaSkills* formulas, bool decimal_comma, uint64_t input_signature, const CancelToken& cancel) {
    if (formulas && std::ranges::any_of(lines, may_be_formula) && !cancel.cancelled()) {
        // Pieces that no line of words has may belong to a formula, too: bars, roots.
        std::unordered_set<size_t> in_lines, written;
        for (const ScanLine& line : scanned.lines)
            if (!line.drawing) in_lines.insert(line.pieces.begin(), line.pieces.end());
        for (const ReadLine& line : lines)
            for (const ReadWord& word : line.words)
                for (const StrokeId id : word.strokes) written.insert(static_cast<size_t>(id - 1));
        std::vector<Stroke> strokes;
        std::vector<std::vector<StrokeId>> of_piece(scanned.ink.pieces.size());
        for (size_t i = 0; i < scanned.ink.pieces.size() && !cancel.cancelled(); ++i) {
            if (in_lines.contains(i) && !written.contains(i)) continue;
            for (const TracedStroke& traced : strokes_of(scanned.ink, scanned.ink.pieces[i])) {
                Stroke stroke;
                for (const Point& p : traced.points) stroke.points.push_back({place(p)});
                if (stroke.points.size() == 1) stroke.points.push_back({stroke.points[0].at + Point{kDotMm, 0}});
                // No number that a stroke of a page has: what was taught by these must stay.
                stroke.id = -static_cast<StrokeId>(strokes.size()) - 1;
                of_piece[i].push_back(stroke.id);
                strokes.push_back(std::move(stroke));
            }
        }
        for (ReadLine& line : lines)
            for (ReadWord& word : line.words) {
                std::vector<StrokeId> ids;
                for (const StrokeId id : word.strokes)
                    std::ranges::copy(of_piece[static_cast<size_t>(id - 1)], std::back_inserter(ids));
                word.strokes = std::move(ids);
            }
        Reading reading{std::move(lines)};
        formulas->find(reading, strokes, {}, decimal_comma, cancel);
        lines = std::move(reading.lines);
    }
    for (ReadLine& line : lines) {
        line.input_signature = input_signature;  // also of what was parted from a formula
        line.ink.clear();
        for (ReadWord& word : line.words) word.strokes.clear();
        for (ReadWord& sign : line.signs) sign.strokes.clear();
    }
}

void leave_out_formulas(std::vector<ReadLine>& lines) {
    std::vector<Box> formulas;
    for (const ReadLine& line : lines)
        if (line.kind == RegionKind::math) formulas.push_back(line.box);
    if (formulas.empty()) return;
    for (ReadLine& line : lines)
        std::erase_if(line.shapes, [&](const ReadShape& shape) {
            const Box box = box_of(shape.best().shape);
            return std::ranges::any_of(formulas, [&](const Box& f) {
                const double across = std::min(box.right, f.right) - std::max(box.left, f.left);
                const double down = std::min(box.bottom, f.bottom) - std::max(box.top, f.top);
                return across >= kMostlyIn * box.width() && down >= kMostlyIn * box.height();
            });
        });
    std::erase_if(lines, [](const ReadLine& line) {
        return line.kind == RegionKind::drawing && line.shapes.empty() && line.words.empty() && line.ink.empty();
    });
}

}  // namespace fernleaf
