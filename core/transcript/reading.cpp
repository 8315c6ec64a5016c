#include "transcript/reading.h"

#include <algorithm>
#include <limits>
#include <map>
#include <set>
#include <sstream>
#include <utility>

namespace fernleaf {
namespace {

// The share of strokes two sets have in common that makes them the same word, though a dot was added later.
constexpr double kSameInk = 0.6;
constexpr double kSamePlace = 0.5;

constexpr double kUnsureTyped = 0.5;  // the certainty of typed words that the reader was not sure of
// A typed word joins a written line that it overlaps by this share of its height, no farther from its ink than this
// many heights of it.
constexpr double kSameHeight = 0.5;
constexpr double kJoinGap = 3;

// The first word of each item of a list to tick off, and whether it is ticked.
std::map<size_t, bool> boxes_of(const TextBlock& block) {
    std::map<size_t, bool> out;
    size_t first = 0;
    for (const Paragraph& paragraph : block.paragraphs) {
        if (paragraph.list == ListKind::check || paragraph.list == ListKind::checked)
            out[first] = paragraph.list == ListKind::checked;
        std::string all;
        for (const TextRun& run : paragraph.runs) all += run.text;
        first += words_in(all);
    }
    return out;
}

// The lines of one block as it was set.
std::vector<ReadLine> lines_of(const TextBlock& block) {
    std::vector<ReadLine> lines;
    const std::vector<const TextStyle*> styles = word_styles(block);
    const std::map<size_t, bool> boxes = boxes_of(block);
    for (size_t i = 0; i < block.words.size(); ++i) {
        const PlacedWord& word = block.words[i];
        if (lines.empty() || word.line != block.words[i - 1].line) lines.emplace_back();
        ReadLine& line = lines.back();
        line.certainty = 1;
        line.box.include(word.box);
        line.words.push_back({word.text, 1, word.box, {}, {}, false, block.id, static_cast<int>(i)});
        if (const auto box = boxes.find(i); box != boxes.end()) line.ticked = box->second;
        if (i < styles.size()) {
            line.words.back().italic = styles[i]->italic;
            line.words.back().bold = styles[i]->bold;
            if (styles[i]->unsure) line.words.back().certainty = kUnsureTyped;
        }
    }
    return lines;
}

double share_of_height(const Box& a, const Box& b) {
    const double shared = std::min(a.bottom, b.bottom) - std::max(a.top, b.top);
    return shared / std::max(0.1, std::min(a.height(), b.height()));
}

// The line of ink that a typed line stands in, or none.
ReadLine* line_about(Reading& reading, const Box& box) {
    ReadLine* best = nullptr;
    double most = kSameHeight;
    for (ReadLine& line : reading.lines) {
        if (line.kind != RegionKind::text || line.words.empty() || line.cell >= 0) continue;
        const double reach = kJoinGap * line.box.height();
        if (box.left > line.box.right + reach || box.right < line.box.left - reach) continue;
        // Nothing is laid over what was written.
        if (std::ranges::any_of(line.words, [&](const ReadWord& w) { return w.box.overlap(box) > 0.2; })) continue;
        if (const double share = share_of_height(line.box, box); share > most) most = share, best = &line;
    }
    return best;
}

void join(ReadLine& line, const ReadLine& typed) {
    line.words.insert(line.words.end(), typed.words.begin(), typed.words.end());
    std::ranges::stable_sort(line.words, {}, [](const ReadWord& w) { return w.box.left; });
    line.box.include(typed.box);
    if (!line.ticked) line.ticked = typed.ticked;
}

// Puts a typed line into the cell of a table that it stands in; false if there is none.
bool put_in_cell(Reading& reading, const ReadLine& typed) {
    for (size_t t = 0; t < reading.lines.size(); ++t) {
        if (!reading.lines[t].table) continue;
        const std::vector<ReadCell>& cells = reading.lines[t].table->cells;
        // The boxes about cells of a table that is turned lie over one another.
        const Point middle = typed.box.centre();
        const auto cell = std::ranges::min_element(cells, {}, [&](const ReadCell& c) {
            return c.box.contains(middle) ? distance(c.box.centre(), middle) : std::numeric_limits<double>::infinity();
        });
        if (cell == cells.end() || !cell->box.contains(middle)) continue;
        ReadLine line = typed;
        line.region = reading.lines[t].region;
        line.cell = static_cast<int>(cell - cells.begin());
        // Beside words of that cell; else before what stands lower or in a later one.
        size_t at = t + 1;
        for (; at < reading.lines.size() && reading.lines[at].region == line.region; ++at) {
            ReadLine& other = reading.lines[at];
            if (other.cell == line.cell && share_of_height(other.box, line.box) > kSameHeight)
                return join(other, typed), true;
            if (std::pair(other.cell, other.box.top) > std::pair(line.cell, line.box.top)) break;
        }
        reading.lines.insert(reading.lines.begin() + static_cast<std::ptrdiff_t>(at), std::move(line));
        return true;
    }
    return false;
}

double likeness(const std::vector<StrokeId>& a, const std::vector<StrokeId>& b) {
    const std::set<StrokeId> first(a.begin(), a.end());
    const auto shared = std::ranges::count_if(b, [&](StrokeId id) { return first.contains(id); });
    return static_cast<double>(shared) / static_cast<double>(first.size() + b.size() - static_cast<size_t>(shared));
}

}  // namespace

std::optional<bool> to_tick(const ReadLine& line) {
    if (line.ticked || line.kind != RegionKind::text || line.words.size() < 2) return line.ticked;
    if (line.words[0].text == kOpenBox) return false;
    if (line.words[0].text == kTickedBox) return true;
    return std::nullopt;
}

std::string todo_text(const ReadLine& line) {
    ReadLine rest;
    for (const ReadWord& word : line.words)
        if (!rest.words.empty() || (word.text != kOpenBox && word.text != kTickedBox)) rest.words.push_back(word);
    return rest.text();
}

void insert_regions(Reading& reading, std::vector<ReadLine> news) {
    if (news.empty()) return;
    std::vector<std::vector<ReadLine>> regions;
    for (ReadLine& line : reading.lines) {
        if (regions.empty() || regions.back().front().region != line.region) regions.emplace_back();
        regions.back().push_back(std::move(line));
    }
    const double top = std::ranges::min_element(news, {}, [](const ReadLine& line) { return line.box.top; })->box.top;
    const auto lower = std::ranges::find_if(regions, [&](const auto& other) {
        return std::ranges::all_of(other, [&](const ReadLine& line) { return line.box.top > top; });
    });
    regions.insert(lower, std::move(news));
    reading.lines.clear();
    int number = 0;
    for (auto& lines : regions) {
        int before = lines.front().region;
        for (ReadLine& line : lines) {
            if (line.region != std::exchange(before, line.region)) ++number;
            line.region = number;
            reading.lines.push_back(std::move(line));
        }
        ++number;
    }
}

ReadLine grid_line(const FairTable& table) {
    ReadLine line;
    line.kind = RegionKind::table;
    line.certainty = 1;
    line.box = drawn_box(table);
    line.table = as_read(table);
    return line;
}

void add_typed(Reading& reading, const Elements& elements) {
    for (const FairTable& table : elements.tables) {
        const auto known = std::ranges::find_if(reading.lines, [&](const ReadLine& line) {
            return line.table && line.table->rules == std::vector{table.id};
        });
        if (known == reading.lines.end()) insert_regions(reading, {grid_line(table)});
    }
    std::vector<std::vector<ReadLine>> blocks;
    for (const TextBlock& text : elements.texts) {
        std::vector<ReadLine> lines = lines_of(text);
        std::erase_if(lines, [&](const ReadLine& line) { return put_in_cell(reading, line); });
        if (lines.size() == 1) {
            if (ReadLine* about = line_about(reading, lines[0].box)) {
                join(*about, lines[0]);
                continue;
            }
        }
        if (!lines.empty()) blocks.push_back(std::move(lines));
    }
    // What is drawn fair is read as it is, with the drawing it is part of.
    for (const FairShape& fair : elements.shapes) {
        const ReadShape shape{{fair.id}, {{fair.shape, 1, 0}}};
        auto drawing = std::ranges::find_if(reading.lines, [](const ReadLine& line) { return !line.shapes.empty(); });
        if (drawing == reading.lines.end()) {
            ReadLine line;
            line.kind = RegionKind::drawing;
            line.certainty = 1;
            line.box = drawn_box(fair);
            line.shapes = {shape};
            insert_regions(reading, {std::move(line)});
            continue;
        }
        drawing->shapes.push_back(shape);
        drawing->box.include(drawn_box(fair));
    }
    for (const SetFormula& formula : elements.formulas) {
        ReadLine line;
        line.kind = RegionKind::math;
        line.certainty = 1;
        line.box = drawn_box(formula);
        line.words = {{formula.latex, 1, line.box, {}, {}, false, formula.id}};
        blocks.push_back({line});
    }
    for (const Card& card : elements.cards) {
        ReadLine line;
        line.certainty = 1;
        line.box = card.box;
        std::istringstream words(card.name);
        int count = 0;
        for (std::string word; words >> word; ++count) {
            line.words.push_back({word, 1, card.box, {}, {}, false, card.id});
            line.words.back().block_word = count;
        }
        if (count > 0) blocks.push_back({line});
    }
    for (const Divider& divider : elements.dividers) {
        ReadLine line;
        line.kind = RegionKind::divider;
        line.certainty = 1;
        line.box = drawn_box(divider);
        blocks.push_back({line});
    }
    std::ranges::stable_sort(blocks, {}, [](const auto& lines) { return lines.front().box.top; });
    for (auto& block : blocks) insert_regions(reading, std::move(block));
}

void add_list_signs(Reading& reading, const std::vector<TextBlock>& texts) {
    for (const TextBlock& text : texts) {
        int first = 0, number = 0;  // the paragraph's first word; its number in its list
        for (const Paragraph& paragraph : text.paragraphs) {
            number = paragraph.list == ListKind::number ? number + 1 : 0;
            std::string all;
            for (const TextRun& run : paragraph.runs) all += run.text;
            const auto words = static_cast<int>(words_in(all));
            const std::string sign = list_sign(paragraph.list, number);
            for (ReadLine& line : reading.lines) {
                if (sign.empty() || words == 0 || line.words.empty()) continue;
                const ReadWord& begin = line.words.front();
                if (begin.block != text.id || begin.block_word != first) continue;
                line.words.insert(line.words.begin(), {sign, 1, {}, {}, {}, false, text.id, -1});
                break;
            }
            first += words;
        }
    }
}

std::string ReadLine::text() const {
    std::string out;
    for (const ReadWord& word : words) {
        if (!out.empty()) out += ' ';
        out += word.text;
    }
    return out;
}

namespace {

void say(ReadWord& word, const std::string& text) {
    if (word.text != text) {
        std::erase_if(word.alternatives, [&](const Alternative& a) { return a.text == text; });
        if (!word.text.empty()) word.alternatives.insert(word.alternatives.begin(), {word.text, word.certainty});
    }
    word.text = text;
    word.certainty = 1;
    word.corrected = true;
}

// The words of a line that a correction's strokes make up together, joined into the first of them; null when they are
// fewer than two, or others' strokes would come along.
ReadWord* joined(ReadLine& line, const Correction& correction) {
    const std::set<StrokeId> ink(correction.strokes.begin(), correction.strokes.end());
    std::vector<size_t> parts;
    size_t shared = 0, all = 0;
    for (size_t w = 0; w < line.words.size(); ++w) {
        const ReadWord& word = line.words[w];
        const auto in = std::ranges::count_if(word.strokes, [&](StrokeId id) { return ink.contains(id); });
        if (word.block != 0 || 2 * in <= std::ssize(word.strokes)) continue;
        parts.push_back(w);
        shared += static_cast<size_t>(in);
        all += word.strokes.size();
    }
    if (parts.size() < 2 || parts.back() - parts.front() + 1 != parts.size()) return nullptr;
    if (static_cast<double>(shared) < kSameInk * static_cast<double>(ink.size() + all - shared)) return nullptr;
    ReadWord& first = line.words[parts[0]];
    for (size_t i = 1; i < parts.size(); ++i) {
        ReadWord& next = line.words[parts[i]];
        first.text += next.text;
        first.box.include(next.box);
        first.certainty = std::min(first.certainty, next.certainty);
        first.strokes.insert(first.strokes.end(), next.strokes.begin(), next.strokes.end());
    }
    first.alternatives.clear();
    line.words.erase(line.words.begin() + static_cast<std::ptrdiff_t>(parts[1]),
                     line.words.begin() + static_cast<std::ptrdiff_t>(parts.back()) + 1);
    return &line.words[parts[0]];
}

// The correction's strokes as a word of their own, taken out of the word they are part of; null when they are not.
ReadWord* split_off(ReadLine& line, const Correction& correction) {
    const std::set<StrokeId> ink(correction.strokes.begin(), correction.strokes.end());
    for (size_t w = 0; w < line.words.size(); ++w) {
        const ReadWord& whole = line.words[w];
        const auto in = std::ranges::count_if(whole.strokes, [&](StrokeId id) { return ink.contains(id); });
        if (whole.block != 0 || in != std::ssize(correction.strokes) || in == std::ssize(whole.strokes)) continue;
        ReadWord part{correction.text, 1, correction.box, correction.strokes, {}, true};
        ReadWord rest = whole;
        std::erase_if(rest.strokes, [&](StrokeId id) { return ink.contains(id); });
        // The rest begins or ends where the part does not reach.
        const bool part_first = correction.box.centre().x < whole.box.centre().x;
        (part_first ? rest.box.left : rest.box.right) = part_first ? correction.box.right : correction.box.left;
        line.words[w] = part_first ? part : rest;
        line.words.insert(line.words.begin() + static_cast<std::ptrdiff_t>(w) + 1, part_first ? rest : part);
        return &line.words[part_first ? w : w + 1];
    }
    return nullptr;
}

// A shape of the same strokes becomes what was said, and what it was taken for remains beside it; shapes within strokes
// that were said to be none are ink again.
void say_shape(Reading& reading, const Correction& correction) {
    const std::optional<ShapeKind> kind = shape_kind(correction.text);
    const std::set<StrokeId> said(correction.strokes.begin(), correction.strokes.end());
    const auto within = [&](const ReadShape& s) {
        return !s.strokes.empty() && std::ranges::all_of(s.strokes, [&](StrokeId id) { return said.contains(id); });
    };
    for (ReadLine& line : reading.lines) {
        if (correction.text.empty()) {
            for (const ReadShape& shape : line.shapes)
                if (within(shape)) line.ink.insert(line.ink.end(), shape.strokes.begin(), shape.strokes.end());
            std::erase_if(line.shapes, within);
            continue;
        }
        const auto shape = std::ranges::find_if(
            line.shapes, [&](const ReadShape& s) { return s.strokes.size() == said.size() && within(s); });
        if (shape == line.shapes.end()) continue;
        const auto best =
            std::ranges::find_if(shape->candidates, [&](const ShapeCandidate& c) { return c.shape.kind == kind; });
        if (best == shape->candidates.end()) return;
        std::rotate(shape->candidates.begin(), best, best + 1);
        shape->candidates.front().certainty = 1;
        return;
    }
}

}  // namespace

void forget(Reading& reading, const std::vector<Correction>& corrections) {
    std::set<uint64_t> signatures;  // lines of a picture share theirs
    for (const Correction& correction : corrections) {
        const std::set<StrokeId> corrected(correction.strokes.begin(), correction.strokes.end());
        for (const ReadLine& line : reading.lines)
            for (const ReadWord& word : line.words) {
                const bool ink = std::ranges::any_of(word.strokes, [&](StrokeId id) { return corrected.contains(id); });
                if (ink || (corrected.empty() && word.strokes.empty() && correction.box.overlap(word.box) > 0))
                    signatures.insert(line.input_signature);
            }
    }
    for (ReadLine& line : reading.lines)
        if (signatures.contains(line.input_signature)) line.input_signature = 0;
}

void apply_corrections(Reading& reading, const std::vector<Correction>& corrections) {
    for (const Correction& correction : corrections) {
        if (correction.kind == InkClass::shape) say_shape(reading, correction);
        if (!correction.is_of_word()) continue;  // what kind it is was known before it was read
        ReadWord* best = nullptr;
        ReadLine* formula = nullptr;  // that it is of
        double closest = 0;
        const bool ink = !correction.strokes.empty();
        for (ReadLine& line : reading.lines) {
            if (line.kind != RegionKind::text && line.kind != RegionKind::math) continue;
            for (ReadWord& word : line.words) {
                if (ink == word.strokes.empty() || word.block != 0) continue;
                const double same = ink ? likeness(correction.strokes, word.strokes) : correction.box.overlap(word.box);
                if (same >= (ink ? kSameInk : kSamePlace) && same > closest)
                    best = &word, closest = same, formula = line.kind == RegionKind::math ? &line : nullptr;
            }
        }
        // A word that is nearly what was spoken of may still be one of two that were joined, or hold what was split
        // off.
        if (ink && closest < 1)
            for (ReadLine& line : reading.lines) {
                if (line.kind != RegionKind::text) continue;
                if (ReadWord* whole = joined(line, correction)) best = whole;
                if (ReadWord* part = best ? nullptr : split_off(line, correction)) best = part;
            }
        if (best) say(*best, correction.text);
        if (formula) formula->signs.clear();  // they are not those of what was said
    }
}

}  // namespace fernleaf
