#include "leaves/text_layout.h"

#include <QCoreApplication>
#include <QHash>
#include <algorithm>
#include <cmath>
#include <map>
#include <span>

namespace fernleaf {
namespace {

constexpr double kInkInsetPx = 12;  // the type stands so much farther left than the ink
constexpr double kLabelMarginPx = 6;

constexpr double kSmallestPx = 13, kLargestPx = 40;
constexpr double kTextToPitch = 0.74;
constexpr double kTextToInk = 1.0;      // size of the type to the height of a written line, loops included
constexpr size_t kMostMeasured = 5000;  // lines
constexpr double kNarrowest = 0.62;     // a line too long for its place is set smaller, but no smaller than this

// Lines by their height on the page, to find those that stand beside one.
class LinesBeside {
public:
    explicit LinesBeside(const std::vector<ReadLine>& lines) {
        for (const ReadLine& line : lines) {
            by_top_.push_back(&line);
            highest_ = std::max(highest_, line.box.height());
        }
        std::ranges::sort(by_top_, {}, top);
    }

    // Where the nearest one to its right begins, mm.
    std::optional<double> left_of_next(const ReadLine& line) const {
        std::optional<double> left;
        for (auto at = std::ranges::upper_bound(by_top_, line.box.top - highest_, {}, top);
             at != by_top_.end() && top(*at) < line.box.bottom; ++at)
            if (const Box& other = (*at)->box; other.left > line.box.right && other.bottom > line.box.top)
                left = std::min(left.value_or(other.left), other.left);
        return left;
    }

private:
    static double top(const ReadLine* line) { return line->box.top; }

    std::vector<const ReadLine*> by_top_;
    double highest_ = 0;  // mm
};

// What words stand within: figures that enclose something, and cells of tables.
class Frames {
public:
    explicit Frames(const std::vector<ReadLine>& lines) {
        for (const ReadLine& line : lines) {
            if (line.table) grids_[line.region] = &*line.table;
            for (const ReadShape& shape : line.shapes)
                if (is_closed(shape.best().shape.kind)) figures_.push_back(box_of(shape.best().shape));
        }
    }
    // The smallest figure about a line, mm.
    const Box* figure_about(const ReadLine& line) const {
        const Box* best = nullptr;
        for (const Box& box : figures_)
            if (box.contains(line.box.centre()) && (!best || box.width() < best->width())) best = &box;
        return best;
    }
    // The cell a line is in, mm.
    const Box* cell_about(const ReadLine& line) const {
        const auto grid = line.cell < 0 ? grids_.end() : grids_.find(line.region);
        if (grid == grids_.end() || static_cast<size_t>(line.cell) >= grid->second->cells.size()) return nullptr;
        return &grid->second->cells[static_cast<size_t>(line.cell)].box;
    }

private:
    std::vector<Box> figures_;
    std::map<int, const ReadTable*> grids_;  // by region
};

// What stands on the text leaf for a region that is no text.
QString caption_of(RegionKind kind) {
    switch (kind) {
        case RegionKind::math:
            return QCoreApplication::translate("TextLayout", "math");
        case RegionKind::picture:
            return QCoreApplication::translate("TextLayout", "a picture");
        case RegionKind::drawing:
        case RegionKind::divider:
        case RegionKind::table:
        case RegionKind::text:
            break;
    }
    return QCoreApplication::translate("TextLayout", "a drawing");
}

// As large as the writing, but no larger than lets the lines stand beside their ink.
double type_px(const Reading& reading, double scale) {
    std::vector<double> heights, middles, distances;
    for (const ReadLine& line : reading.lines) {
        if (line.kind != RegionKind::text) continue;
        heights.push_back(line.box.height());
        middles.push_back(line.box.centre().y);
    }
    std::ranges::sort(heights);
    std::ranges::sort(middles);
    const double usual = heights.empty() ? 6 : heights[heights.size() / 2];
    for (size_t i = 1; i < middles.size(); ++i)
        if (middles[i] - middles[i - 1] > usual / 2) distances.push_back(middles[i] - middles[i - 1]);
    std::ranges::sort(distances);
    const double pitch = distances.empty() ? 2 * usual : distances[distances.size() / 2];
    return std::clamp(std::min(kTextToInk * usual, kTextToPitch * pitch) * scale, kSmallestPx, kLargestPx);
}

}  // namespace

std::optional<std::vector<QRectF>> differences(const SetPage& before, const SetPage& now) {
    if (before.words.empty() || now.words.empty() || before.captions != now.captions || before.rules != now.rules ||
        before.figures != now.figures)
        return std::nullopt;
    // Mostly one line in the middle.
    const auto alike = [](const SetWord& a, const SetWord& b) { return a.same(b); };
    const auto [gone_from, new_from] = std::ranges::mismatch(before.words, now.words, alike);
    auto gone_to = before.words.end();
    auto new_to = now.words.end();
    while (gone_to != gone_from && new_to != new_from && alike(*std::prev(gone_to), *std::prev(new_to)))
        --gone_to, --new_to;
    const std::span<const SetWord> gone(gone_from, gone_to), come(new_from, new_to);
    if (gone.size() + come.size() > kMostWordsAtOnce) return std::nullopt;
    std::vector<QRectF> places;
    const auto differ = [&](std::span<const SetWord> these, std::span<const SetWord> those) {
        QHash<std::pair<int, int>, const SetWord*> at;
        for (const SetWord& w : those) at.insert({qRound(w.box.left()), qRound(w.box.top())}, &w);
        for (const SetWord& w : these) {
            const SetWord* other = at.value({qRound(w.box.left()), qRound(w.box.top())});
            if (!other || !other->same(w)) places.push_back(w.box);
        }
    };
    differ(gone, come);
    differ(come, gone);
    return places;
}

bool TextLayout::measure_some(const Reading& reading, double scale) {
    const auto& lines = reading.lines;
    if (lines.size() > kMostMeasured) return true;  // they are not kept
    const int px = qRound(type_px(reading, scale));
    size_t words = 0;
    for (const ReadLine& line : lines) {
        if (line.kind != RegionKind::text || measured_.contains(measured_as(line, px))) continue;
        if (words > kMostWordsAtOnce) return false;
        measured(line, px);
        words += line.words.size();
    }
    return true;
}

void TextLayout::lay_out(const Reading& reading, const Sheet& sheet, const UsefulFinder& useful) {
    set_ = {};
    const auto& lines = reading.lines;
    const double px = type_px(reading, sheet.scale);
    const double room = sheet.width_px - 2 * kSheetPaddingPx;
    const double x_scale = room / sheet.width_mm;

    const auto x_of = [&](double mm) { return kSheetPaddingPx + mm * x_scale - kInkInsetPx; };
    const LinesBeside beside(lines);
    const Frames frames(lines);
    std::vector<QRectF> rows;            // of the lines set so far
    std::multimap<double, size_t> tops;  // of those rows
    for (size_t l = 0; l < lines.size(); ++l) {
        const ReadLine& line = lines[l];
        if (line.kind != RegionKind::text) continue;
        double left = kSheetPaddingPx + std::clamp(line.box.left * x_scale - kInkInsetPx, 0.0, 0.8 * room);
        // How far it may reach: to the next line that stands beside it.
        double right = kSheetPaddingPx + room;
        if (const auto next = beside.left_of_next(line))
            right = std::min(right, kSheetPaddingPx + *next * x_scale - 24);
        const MeasuredLine* set = &measured(line, qRound(px));
        const double natural = set->width;
        double font_px = px;
        const Box* figure = frames.figure_about(line);
        const Box* frame = figure ? figure : frames.cell_about(line);
        if (frame) {
            const double from = x_of(frame->left) + kLabelMarginPx, to = x_of(frame->right) - kLabelMarginPx;
            // A label stands in the middle of its figure, a cell's words where they were written.
            left = figure ? (from + to - natural) / 2 : std::min(x_of(line.box.left), to - natural);
            left = std::max(from, left), right = to;
        }
        if (natural > right - left && !frame) left = std::max(kSheetPaddingPx, std::min(left, right - natural));
        if (natural > right - left) {
            font_px = px * std::max(kNarrowest, (right - left) / natural);
            set = &measured(line, qRound(font_px));
        }
        const TypeCase::Face face = type_.face({qRound(font_px)});
        QRectF row(left, line.box.centre().y * sheet.scale - face.height / 2, std::min(natural, right - left),
                   face.height);
        for (auto at = tops.lower_bound(row.top() - kLargestPx * 2); at != tops.end() && at->first <= row.top(); ++at)
            if (const QRectF& before = rows[at->second];
                before.left() < row.right() && row.left() < before.right() && before.bottom() > row.top())
                row.moveTop(before.bottom());
        tops.emplace(row.top(), rows.size());
        rows.push_back(row);
        const bool holds_useful =
            std::ranges::any_of(useful.found(), [l](const Useful& u) { return u.line == static_cast<int>(l); });
        double x = left;
        for (size_t w = 0; w < line.words.size(); ++w) {
            const ReadWord& word = line.words[w];
            const WordPlace place{static_cast<int>(l), static_cast<int>(w)};
            set_.words.push_back({place,
                                  QRectF(x, row.top(), set->words[w].wide, row.height()),
                                  {x, row.top() + face.ascent},
                                  set->words[w].style,
                                  set->words[w].text,
                                  !word.corrected && word.certainty < kSureEnough,
                                  word.corrected,
                                  holds_useful && useful.at(place.line, place.word) != nullptr});
            x += set->words[w].wide + face.space;
        }
    }
    // Drawings and math are named at their upper or lower edge, where no words stand.
    for (const ReadLine& line : lines) {
        if (line.kind == RegionKind::text) continue;
        if (line.kind == RegionKind::divider) {
            const double y = line.box.centre().y * sheet.scale;
            set_.rules.emplace_back(kSheetPaddingPx, y, kSheetPaddingPx + room, y);
            continue;
        }
        if (line.table) {
            SetFigure grid;
            grid.unsure = line.certainty < kSureEnough;
            for (const ReadCell& cell : line.table->cells)
                grid.lines.push_back(QPolygonF(QRectF(QPointF(x_of(cell.box.left), cell.box.top * sheet.scale),
                                                      QPointF(x_of(cell.box.right), cell.box.bottom * sheet.scale))));
            set_.figures.push_back(std::move(grid));
            continue;
        }
        if (!line.shapes.empty()) {
            for (const ReadShape& shape : line.shapes) {
                SetFigure figure;
                figure.unsure = shape.best().certainty < kSureEnough;
                for (const std::vector<Point>& points : outline_of(shape.best().shape)) {
                    QPolygonF drawn;
                    for (const Point& p : points) drawn << QPointF(x_of(p.x), p.y * sheet.scale);
                    figure.lines.push_back(std::move(drawn));
                }
                set_.figures.push_back(std::move(figure));
            }
            continue;
        }
        const double left = kSheetPaddingPx + std::clamp(line.box.left * x_scale - kInkInsetPx, 0.0, 0.8 * room);
        for (const double y : {line.box.top, line.box.bottom}) {
            const QRectF box(left, y * sheet.scale - kCaptionPx, 6.0 * kCaptionPx, 2.0 * kCaptionPx);
            const auto meets = [&](const QRectF& other) { return other.intersects(box); };
            if (std::ranges::any_of(rows, meets) || std::ranges::any_of(set_.captions, meets, &Caption::box)) continue;
            set_.captions.push_back({box, caption_of(line.kind)});
            break;
        }
    }
}

std::string TextLayout::measured_as(const ReadLine& line, int px) {
    std::string key = std::to_string(px) + (line.heading != 0 ? 'h' : ' ');
    for (const ReadWord& w : line.words) {
        key += static_cast<char>(1 + int{w.italic} + 2 * int{w.bold});
        key += w.text;
    }
    return key;
}

const TextLayout::MeasuredLine& TextLayout::measured(const ReadLine& line, int px) {
    std::string key = measured_as(line, px);
    const auto found = measured_.find(key);
    if (found != measured_.end()) return found->second;
    if (measured_.size() >= kMostMeasured) measured_.clear();
    MeasuredLine set;
    set.width = (static_cast<double>(line.words.size()) - 1) * type_.face({px}).space;
    for (const ReadWord& w : line.words) {
        const TypeCase::Style style{px, w.italic, w.bold || line.heading != 0};
        const QString text = QString::fromStdString(w.text);
        set.words.push_back({text, style, type_.word(text, style).advance});
        set.width += set.words.back().wide;
    }
    return measured_.emplace(std::move(key), std::move(set)).first->second;
}

const SetWord* TextLayout::find(WordPlace place) const {
    const auto found = std::ranges::find(set_.words, place, &SetWord::place);
    return found == set_.words.end() ? nullptr : &*found;
}

WordPlace TextLayout::word_at(QPointF px) const {
    for (const SetWord& word : set_.words)
        if (word.box.adjusted(-3, -3, 3, 4).contains(px)) return word.place;
    return {};
}

WordPlace TextLayout::beside(WordPlace from, int dx, int dy) const {
    const std::vector<SetWord>& words = set_.words;
    const auto at = std::ranges::find(words, from, &SetWord::place);
    if (at == words.end()) return words.empty() ? WordPlace() : words.front().place;
    if (dx != 0) {
        const auto index = at - words.begin() + dx;
        return index >= 0 && index < static_cast<std::ptrdiff_t>(words.size()) ? words[static_cast<size_t>(index)].place
                                                                               : from;
    }
    WordPlace best = from;
    double nearest = 1e18;
    for (const SetWord& word : words) {
        const double down = (word.box.center().y() - at->box.center().y()) * dy;
        if (word.place.line == from.line || down <= 1) continue;
        const double miss = 8 * down + std::abs(word.box.center().x() - at->box.center().x());
        if (miss < nearest) nearest = miss, best = word.place;
    }
    return best;
}

}  // namespace fernleaf
