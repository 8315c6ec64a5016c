#include "leaves/text_layout.h"

#include <QCoreApplication>
#include <QHash>
#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <unordered_set>

#include "desk/math_desk.h"
#include "transcript/written_line.h"

namespace fernleaf {
namespace {

constexpr double kInkInsetPx = 12;  // the type stands so much farther left than the ink
constexpr double kLabelMarginPx = 6;
constexpr double kOutlineGapPx = 8;  // below its drawing
constexpr double kBesidePlotPx = 16, kLeastPlot = 0.5;

constexpr double kSmallestPx = 13, kLargestPx = 40;
constexpr double kTextToPitch = 0.74;
constexpr double kTextToInk = 1.0;      // size of the type to the height of a written line, loops included
constexpr size_t kMostMeasured = 5000;  // lines
constexpr double kInkStepPx = 1.5;      // points of ink that are nearer than this are one
constexpr double kThinnestInkPx = 0.8;
constexpr double kNarrowTable = 0.8;
constexpr double kFormulaToType = 1.15, kResultGap = 0.9, kBehindFormula = 0.4;  // of the size of type
constexpr double kTypeToSign = 1.5;  // to the height of most signs, where there are no words
constexpr int kLeastFormulaPx = 5;   // however long it is
constexpr size_t kWordsOfSign = 3;   // are measured while one sign of a formula is set
constexpr double kNarrowest = 0.62;  // a line too long for its place is set smaller, but no smaller than this

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
            if (line.cell >= 0) ++in_cell_[{line.region, line.cell}];
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
    // At what height a line stands, mm: that of its ink, and all that is in a cell by itself in the cell's middle.
    double height_of(const ReadLine& line) const {
        const auto alone = in_cell_.find({line.region, line.cell});
        const Box* cell = alone != in_cell_.end() && alone->second == 1 ? cell_about(line) : nullptr;
        return (cell ? *cell : line.box).centre().y;
    }

private:
    std::vector<Box> figures_;
    std::map<int, const ReadTable*> grids_;       // by region
    std::map<std::pair<int, int>, int> in_cell_;  // lines in a region's cell
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

std::string formula_key(const ReadLine& line, int px) {
    std::string key = std::to_string(px) + ' ' + line.words[0].text + '\n' + line.result;
    for (const ReadWord& sign : line.signs) key += sign.certainty < kSureEnough ? '?' : '.';
    return key + (line.words[0].corrected ? 'c' : ' ') + (can_be_said(line.signs) ? 's' : ' ');
}

// What a formula comes to as it stands beside it.
FormulaLook result_look(const ReadLine& line, bool& wrong, int px) {
    static constexpr std::string_view kFalse = "false";
    wrong = line.result.starts_with(kFalse);
    if (wrong) {
        const std::string right =
            line.result.substr(std::min(line.result.size(), kFalse.size() + 2));  // behind a colon
        return judged_look(false, right.empty() ? QString() : "= " + shown_plainly(right), px);
    }
    if (line.result == "true") return judged_look(true, {}, px);
    const std::string& formula = line.words[0].text;
    const bool asks = formula.ends_with('=');
    const bool relates = formula.find_first_of("=<>") != std::string::npos ||
                         formula.find("\\le") != std::string::npos || formula.find("\\ge") != std::string::npos ||
                         formula.find("\\ne") != std::string::npos;
    const QString text = shown_plainly(line.result);
    return plain_look(asks || relates ? text : "= " + text, px);
}

double wide(const LaidOutFormula& f) { return f.look.width + f.gap + f.result.width; }

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
    std::vector<double> signs;
    for (const ReadLine& line : reading.lines)
        for (const ReadWord& sign : line.signs) signs.push_back(kTypeToSign * sign.box.height());
    std::ranges::sort(signs);
    const double usual = !heights.empty() ? heights[heights.size() / 2] : !signs.empty() ? signs[signs.size() / 2] : 6;
    for (size_t i = 1; i < middles.size(); ++i)
        if (middles[i] - middles[i - 1] > usual / 2) distances.push_back(middles[i] - middles[i - 1]);
    std::ranges::sort(distances);
    const double pitch = distances.empty() ? 2 * usual : distances[distances.size() / 2];
    return std::clamp(std::min(kTextToInk * usual, kTextToPitch * pitch) * scale, kSmallestPx, kLargestPx);
}

}  // namespace

std::optional<std::vector<QRectF>> differences(const SetPage& before, const SetPage& now) {
    if (before.words.empty() || now.words.empty() || before.captions != now.captions || before.outline != now.outline ||
        before.rules != now.rules || before.figures != now.figures || before.ink != now.ink ||
        before.plots != now.plots)
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
        if (line.kind == RegionKind::math && !line.words.empty() && !formulas_.contains(formula_key(line, px))) {
            if (words > kMostWordsAtOnce) return false;
            (void)formula(line, px);
            words += kWordsOfSign * line.signs.size();
        }
        if (line.kind != RegionKind::text || measured_.contains(measured_as(line, px))) continue;
        if (words > kMostWordsAtOnce) return false;
        measured(line, px);
        words += line.words.size();
    }
    return true;
}

void TextLayout::lay_out(const Reading& reading, const Sheet& sheet, const UsefulFinder& useful) {
    set_ = {};
    sheet_ = sheet;
    const auto& lines = reading.lines;
    const double px = type_px(reading, sheet.scale);
    const double room = sheet.width_px - 2 * kSheetPaddingPx;
    const double x_scale = room / sheet.width_mm;

    const auto x_of = [&](double mm) { return kSheetPaddingPx + mm * x_scale - kInkInsetPx; };
    const LinesBeside beside(lines);
    const Frames frames(lines);
    // All of a table in the size in which the longest of its lines fits, or not much smaller; what is longer still is
    // smaller by itself.
    std::map<int, double> table_px;
    for (const ReadLine& line : lines)
        if (const Box* cell = line.kind == RegionKind::text ? frames.cell_about(line) : nullptr) {
            const double wide = x_of(cell->right) - x_of(cell->left) - 2 * kLabelMarginPx;
            const double fits = px * std::clamp(wide / measured(line, qRound(px)).width, kNarrowTable, 1.0);
            const auto [at, first] = table_px.try_emplace(line.region, fits);
            if (!first) at->second = std::min(at->second, fits);
        }
    // Words and a formula in one written line: type is wider than ink, so what stands behind moves on.
    std::map<size_t, double> begins;     // where a line begins at the earliest, px
    std::vector<QRectF> rows;            // of the lines set so far
    std::multimap<double, size_t> tops;  // of those rows
    for (size_t l = 0; l < lines.size(); ++l) {
        const ReadLine& line = lines[l];
        const bool has_more = l + 1 < lines.size() && goes_on(line, lines[l + 1]);
        if (has_more && line.kind == RegionKind::math)
            begins[l + 1] = std::max(begins[l], x_of(line.box.left)) + width_of_formula(line, px) + kBehindFormula * px;
        if (line.kind != RegionKind::text) continue;
        double left = kSheetPaddingPx + std::clamp(line.box.left * x_scale - kInkInsetPx, 0.0, 0.8 * room);
        // How far it may reach: to the next line that stands beside it.
        double right = kSheetPaddingPx + room;
        if (const auto next = beside.left_of_next(line); next && !has_more)
            right = std::min(right, kSheetPaddingPx + *next * x_scale - 24);
        const auto shared_px = line.cell < 0 ? table_px.end() : table_px.find(line.region);
        double font_px = shared_px == table_px.end() ? px : shared_px->second;
        const MeasuredLine* set = &measured(line, qRound(font_px));
        const double natural = set->width;
        const Box* figure = frames.figure_about(line);
        const Box* frame = figure ? figure : frames.cell_about(line);
        if (frame) {
            const double from = x_of(frame->left) + kLabelMarginPx, to = x_of(frame->right) - kLabelMarginPx;
            // A label stands in the middle of its figure.
            left = figure ? std::max(from, (from + to - natural) / 2) : from, right = to;
        }
        if (natural > right - left && !frame) left = std::max(kSheetPaddingPx, std::min(left, right - natural));
        if (const auto behind = begins.find(l); behind != begins.end()) {
            left = std::max(left, behind->second);
            right = std::max(right, left + kNarrowest * natural);
        }
        if (natural > right - left) {
            font_px = std::max(kNarrowest * px, font_px * (right - left) / natural);
            set = &measured(line, qRound(font_px));
        }
        const TypeCase::Face face = type_.face({qRound(font_px)});
        QRectF row(left, frames.height_of(line) * sheet.scale - face.height / 2, std::min(natural, right - left),
                   face.height);
        for (auto at = tops.lower_bound(row.top() - kLargestPx * 2); at != tops.end() && at->first <= row.top(); ++at)
            if (const QRectF& before = rows[at->second];
                before.left() < row.right() && row.left() < before.right() && before.bottom() > row.top())
                row.moveTop(before.bottom());
        tops.emplace(row.top(), rows.size());
        rows.push_back(row);
        const bool holds_useful =
            std::ranges::any_of(useful.found(), [l](const Useful& u) { return u.line == static_cast<int>(l); });
        if (has_more) begins[l + 1] = row.right() + kBehindFormula * px;
        double x = left;
        for (size_t w = 0; w < line.words.size(); ++w) {
            const ReadWord& word = line.words[w];
            const ReadPlace place{static_cast<int>(l), static_cast<int>(w)};
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
    for (size_t l = 0; l < lines.size(); ++l) {
        const ReadLine& line = lines[l];
        if (line.kind == RegionKind::text) continue;
        if (line.kind == RegionKind::divider) {
            const double y = line.box.centre().y * sheet.scale;
            set_.rules.emplace_back(kSheetPaddingPx, y, kSheetPaddingPx + room, y);
            continue;
        }
        if (line.table) {
            SetFigure grid;
            grid.unsure = line.certainty < kSureEnough;
            const auto at = [&](double x, double y) { return QPointF(x_of(x), y * sheet.scale); };
            QRectF whole;
            for (const ReadCell& cell : line.table->cells) {
                const Box& box = cell.box;
                whole |= QRectF(at(box.left, box.top), at(box.right, box.bottom));
                grid.lines.push_back({{at(box.right, box.top), at(box.right, box.bottom), at(box.left, box.bottom)}});
            }
            grid.lines.emplace_back(whole);
            set_.figures.push_back(std::move(grid));
            continue;
        }
        if (!line.shapes.empty()) {
            if (sheet.diagram && !set_.outline) {
                QRectF place(x_of(line.box.left), line.box.bottom * sheet.scale + kOutlineGapPx, 8.0 * kCaptionPx,
                             1.8 * kCaptionPx);
                // Words without a frame may hang below what is drawn.
                for (size_t moved = 0; moved <= rows.size(); ++moved) {
                    const auto under =
                        std::ranges::find_if(rows, [&](const QRectF& row) { return row.intersects(place); });
                    if (under == rows.end()) break;
                    place.moveTop(under->bottom() + 1);
                }
                set_.outline = {place, QCoreApplication::translate("TextLayout", "▸ Outline")};
            }
            for (size_t s = 0; s < line.shapes.size(); ++s) {
                const ShapeCandidate& shape = line.shapes[s].best();
                SetFigure figure;
                figure.unsure = shape.certainty < kSureEnough;
                figure.place = ReadPlace::of_shape(static_cast<int>(l), static_cast<int>(s));
                for (const std::vector<Point>& points : outline_of(shape.shape)) {
                    QPolygonF drawn;
                    for (const Point& p : points) drawn << QPointF(x_of(p.x), p.y * sheet.scale);
                    figure.lines.push_back(std::move(drawn));
                }
                set_.figures.push_back(std::move(figure));
            }
            set_ink(line.ink);
            continue;
        }
        if (line.kind == RegionKind::math && !line.words.empty()) {
            set_formula(line, static_cast<int>(l), px, begins.contains(l) ? begins[l] : 0);
            continue;
        }
        if (set_ink(line.ink)) continue;
        const double left = kSheetPaddingPx + std::clamp(line.box.left * x_scale - kInkInsetPx, 0.0, 0.8 * room);
        for (const double y : {line.box.top, line.box.bottom}) {
            const QRectF box(left, y * sheet.scale - kCaptionPx, 6.0 * kCaptionPx, 2.0 * kCaptionPx);
            const auto meets = [&](const QRectF& other) { return other.intersects(box); };
            if (std::ranges::any_of(rows, meets) || std::ranges::any_of(set_.captions, meets, &Caption::box)) continue;
            set_.captions.push_back({box, caption_of(line.kind)});
            break;
        }
    }
    for (const Plot& plot : sheet.plots) set_plot(plot);
}

// Where it is on the page; type is wider than ink, so it may have to give way to what stands to its left, and be
// smaller.
void TextLayout::set_plot(const Plot& plot) {
    const double room = sheet_.width_px - 2 * kSheetPaddingPx, x_scale = room / sheet_.width_mm;
    const Box box = ElementTraits<Plot>::bounds(plot);
    const double scale = std::min(x_scale, sheet_.scale), top = box.top * sheet_.scale;
    double left = kSheetPaddingPx + box.left * x_scale - kInkInsetPx;
    for (const SetWord& word : set_.words)
        if (word.box.left() < left && word.box.bottom() > top && word.box.top() < top + box.height() * scale)
            left = std::max(left, word.box.right() + kBesidePlotPx);
    const double widest = std::max(kLeastPlot * box.width() * scale, kSheetPaddingPx + room - left);
    const double fits = std::min(1.0, widest / (box.width() * scale));
    set_.plots.push_back({plot, {std::min(left, sheet_.width_px - fits * scale * box.width()), top}, fits * scale});
}

std::shared_ptr<const LaidOutFormula> TextLayout::formula(const ReadLine& line, int px) {
    const std::string key = formula_key(line, px);
    if (const auto found = formulas_.find(key); found != formulas_.end()) return found->second;
    if (formulas_.size() >= kMostMeasured) formulas_.clear();
    const ReadWord& word = line.words[0];
    auto out = std::make_shared<LaidOutFormula>();
    const auto written = written_math(word.text);
    out->look = written ? formula_look(*written, px) : plain_look(QString::fromStdString(word.text), px);
    const bool known = out->look.signs.size() == line.signs.size();
    for (size_t i = 0; i < line.signs.size() && known; ++i)
        if (line.signs[i].certainty < kSureEnough) out->doubtful.push_back(out->look.signs[i]);
    if (known && can_be_said(line.signs)) out->signs = out->look.signs;
    if (!line.result.empty()) {
        out->result = result_look(line, out->wrong, px);
        out->gap = kResultGap * px;
    }
    return formulas_.emplace(key, std::move(out)).first->second;
}

double TextLayout::width_of_formula(const ReadLine& line, double px) {
    return wide(*formula(line, qRound(kFormulaToType * px)));
}

void TextLayout::set_formula(const ReadLine& line, int number, double px, double least_left) {
    const double room = sheet_.width_px - 2 * kSheetPaddingPx, x_scale = room / sheet_.width_mm;
    int size = qRound(kFormulaToType * px);
    auto set = formula(line, size);
    double left = kSheetPaddingPx + std::clamp(line.box.left * x_scale - kInkInsetPx, 0.0, 0.8 * room);
    left = std::max({kSheetPaddingPx, least_left, std::min(left, kSheetPaddingPx + room - wide(*set))});
    if (wide(*set) > room) {
        size = std::max(kLeastFormulaPx, static_cast<int>(size * room / wide(*set)));
        set = formula(line, size);
    }
    const double ascent = std::max(set->look.ascent, set->result.ascent),
                 descent = std::max(set->look.descent, set->result.descent);
    const double top = line.box.centre().y * sheet_.scale - (ascent + descent) / 2;
    const ReadWord& word = line.words[0];
    set_.words.push_back({{number, 0},
                          QRectF(left, top, wide(*set), ascent + descent),
                          {left, top + ascent},
                          {size},
                          QString::fromStdString(word.text),
                          false,
                          word.corrected,
                          false,
                          set});
}

bool TextLayout::set_ink(const std::vector<StrokeId>& ids) {
    const std::unordered_set<StrokeId> wanted(ids.begin(), ids.end());
    const double x_scale = (sheet_.width_px - 2 * kSheetPaddingPx) / sheet_.width_mm;
    size_t count = 0;
    for (const SetInk& other : set_.ink) count += static_cast<size_t>(other.line.size());
    std::vector<SetInk> news;
    for (const Stroke& stroke : sheet_.strokes) {
        if (!wanted.contains(stroke.id)) continue;
        SetInk ink{{}, stroke.pen.colour, std::max(kThinnestInkPx, stroke.pen.width_mm * sheet_.scale)};
        for (const InkPoint& p : stroke.points) {
            const QPointF at(kSheetPaddingPx + p.at.x * x_scale - kInkInsetPx, p.at.y * sheet_.scale);
            if (!ink.line.isEmpty() && (at - ink.line.last()).manhattanLength() < kInkStepPx) continue;
            ink.line << at;
        }
        if (ink.line.size() == 1) ink.line << ink.line.first() + QPointF(0.1, 0);  // a dot
        count += static_cast<size_t>(ink.line.size());
        if (count > kMostSetPoints) return false;
        news.push_back(std::move(ink));
    }
    std::ranges::move(news, std::back_inserter(set_.ink));
    return !news.empty();
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

const SetWord* TextLayout::find(ReadPlace place) const {
    const auto found = std::ranges::find(set_.words, place.whole(), &SetWord::place);
    return found == set_.words.end() ? nullptr : &*found;
}

const SetFigure* TextLayout::find_figure(ReadPlace place) const {
    if (place.shape < 0) return nullptr;
    const auto found = std::ranges::find(set_.figures, place, &SetFigure::place);
    return found == set_.figures.end() ? nullptr : &*found;
}

Point TextLayout::page_point(QPointF px) const {
    const double x_scale = (sheet_.width_px - 2 * kSheetPaddingPx) / sheet_.width_mm;
    return {(px.x() + kInkInsetPx - kSheetPaddingPx) / x_scale, px.y() / sheet_.scale};
}

ReadPlace TextLayout::word_at(QPointF px) const {
    for (const SetWord& word : set_.words) {
        if (!word.box.adjusted(-3, -3, 3, 4).contains(px)) continue;
        // Of signs that lie over one another, as a root over what stands under it, the smaller.
        ReadPlace best = word.place;
        double smallest = std::numeric_limits<double>::infinity();
        for (size_t i = 0; word.formula && i < word.formula->signs.size(); ++i) {
            const QRectF box = sign_box(ReadPlace::of_sign(word.place.line, static_cast<int>(i)));
            const double size = box.width() * box.height();
            if (box.adjusted(-1, -2, 1, 2).contains(px) && size < smallest)
                smallest = size, best = ReadPlace::of_sign(word.place.line, static_cast<int>(i));
        }
        return best;
    }
    return {};
}

bool TextLayout::has_signs(ReadPlace formula) const {
    const SetWord* word = find(formula);
    return word && word->formula && !word->formula->signs.empty();
}

QRectF TextLayout::sign_box(ReadPlace place) const {
    const SetWord* word = find(place);
    if (!word || !word->formula || place.sign < 0 || place.sign >= static_cast<int>(word->formula->signs.size()))
        return {};
    return word->formula->signs[static_cast<size_t>(place.sign)].translated(word->baseline);
}

ReadPlace TextLayout::beside(ReadPlace from, int dx, int dy) const {
    const std::vector<SetWord>& words = set_.words;
    if (find_figure(from) || (words.empty() && !set_.figures.empty())) return figure_beside(from, dx + dy);
    const auto at = std::ranges::find(words, from.whole(), &SetWord::place);
    if (at == words.end()) return words.empty() ? ReadPlace() : words.front().place;
    if (dx != 0) {
        // Through a formula sign by sign: first it as a whole, then each.
        const int signs = at->formula ? static_cast<int>(at->formula->signs.size()) : 0;
        if (const int sign = from.sign + dx; sign >= -1 && sign < signs && (sign >= 0 || from.sign >= 0))
            return sign < 0 ? at->place : ReadPlace::of_sign(from.line, sign);
        const auto index = at - words.begin() + dx;
        return index >= 0 && index < static_cast<std::ptrdiff_t>(words.size()) ? words[static_cast<size_t>(index)].place
                                                                               : from;
    }
    ReadPlace best = from;
    double nearest = 1e18;
    for (const SetWord& word : words) {
        const double down = (word.box.center().y() - at->box.center().y()) * dy;
        if (word.place.line == from.line || down <= 1) continue;
        const double miss = 8 * down + std::abs(word.box.center().x() - at->box.center().x());
        if (miss < nearest) nearest = miss, best = word.place;
    }
    return best;
}

// In the order of the reading, round.
ReadPlace TextLayout::figure_beside(ReadPlace from, int step) const {
    std::vector<ReadPlace> places;
    for (const SetFigure& figure : set_.figures)
        if (figure.place.valid()) places.push_back(figure.place);
    if (places.empty()) return from;
    const auto count = static_cast<std::ptrdiff_t>(places.size());
    const auto at = std::ranges::find(places, from);
    if (at == places.end()) return places.front();
    return places[static_cast<size_t>((at - places.begin() + step + count) % count)];
}

}  // namespace fernleaf
