#include "math/formula_grids.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <string_view>

#include "math/formula_parts.h"
#include "math/math_signs.h"
#include "math/sign_form.h"

namespace fernleaf {
namespace {

constexpr double kAsHighAsAll = 0.72;              // of the rows, which a bracket is at least,
constexpr double kTaller = 1.7, kSlender = 0.45;   // than a sign; and its width to its height
constexpr double kBracket = 0.25;                  // how likely it is one, of all that it may be
constexpr double kRowGap = 0.12, kCellGap = 0.75;  // of a sign's size: room between rows, and between cells
constexpr double kFlat = 0.15;                     // a bar's height to its width
constexpr size_t kMostRows = 12, kMostCells = 12;

struct Bracket {
    size_t stroke = 0;
    std::string_view sign;  // "(" for both
    double certainty = 0;
};

using Strokes = std::vector<size_t>;

class GridReading {
public:
    GridReading(const std::vector<Stroke>& strokes, const FormulaWeights& weights, const CancelToken& cancel,
                const std::vector<SaidSign>& said, const SignMemory* taught)
        : strokes_(strokes), weights_(weights), cancel_(cancel), said_(said), taught_(taught) {
        std::vector<const Stroke*> all;
        for (const Stroke& s : strokes) all.push_back(&s), boxes_.push_back(s.box());
        usual_ = usual_size(all);
    }

    std::optional<FormulaReading> read() {
        for (size_t i = 0; i < strokes_.size(); ++i) {
            const Box& left = boxes_[i];
            if (left.height() < kTaller * usual_ || left.width() > kSlender * left.height()) continue;
            // What is at its height, and right of it.
            Strokes behind, before;
            for (size_t k = 0; k < strokes_.size(); ++k)
                if (k != i) (boxes_[k].centre().x > left.right - 0.1 * left.height() ? behind : before).push_back(k);
            const auto close = closing(left, behind);
            Strokes inside, after;
            for (const size_t k : behind)
                if (!close || k != *close)
                    (!close || boxes_[k].centre().x < boxes_[*close].left + 0.1 * left.height() ? inside : after)
                        .push_back(k);
            Box whole;
            for (const size_t k : inside) whole.include(boxes_[k]);
            if (inside.empty() || left.height() < kAsHighAsAll * whole.height() || whole.height() < kTaller * usual_)
                continue;
            const std::vector<Strokes> rows = parted(inside, true, kRowGap);
            if (rows.size() < 2 || rows.size() > kMostRows) continue;
            const Bracket open = bracket(i, {"(", "[", "\\{", "|"});
            if (open.certainty < kBracket || (!close && open.sign != "\\{")) continue;
            if (auto out = grid(open, close, before, rows, after)) return out;
        }
        return {};
    }

private:
    // The bracket as high as the first that stands farthest right, if there is one.
    std::optional<size_t> closing(const Box& left, const Strokes& behind) const {
        std::optional<size_t> out;
        for (const size_t k : behind) {
            const Box& box = boxes_[k];
            if (box.height() < kAsHighAsAll * left.height() || box.height() > left.height() / kAsHighAsAll ||
                box.width() > kSlender * box.height() ||
                std::abs(box.centre().y - left.centre().y) > 0.25 * left.height())
                continue;
            if (!out || box.right > boxes_[*out].right) out = k;
        }
        return out;
    }

    // Which of some signs a stroke is, and how likely it is one of them.
    Bracket bracket(size_t stroke, std::initializer_list<std::string_view> signs) const {
        Bracket out{stroke, *signs.begin(), 0};
        const std::array<const Stroke*, 1> alone{&strokes_[stroke]};
        const std::vector<float> chances = weights_.signs.chances(sign_form(alone, usual_));
        double best = 0;
        for (const std::string_view sign : signs) {
            const double chance = chances[*sign_named(sign)];
            out.certainty += chance;
            if (chance > best) best = chance, out.sign = sign;
        }
        return out;
    }

    // Groups with room between them, in their order: rows, or the cells of a row.
    std::vector<Strokes> parted(Strokes among, bool rows, double gap) const {
        const auto begin = [&](size_t i) { return rows ? boxes_[i].top : boxes_[i].left; };
        const auto end = [&](size_t i) { return rows ? boxes_[i].bottom : boxes_[i].right; };
        std::ranges::sort(among, {}, begin);
        std::vector<Strokes> out;
        double reach = 0;
        for (const size_t i : among) {
            if (out.empty() || begin(i) > reach + gap * usual_) out.emplace_back(), reach = end(i);
            out.back().push_back(i);
            reach = std::max(reach, end(i));
        }
        return out;
    }

    std::optional<FormulaReading> grid(const Bracket& open, const std::optional<size_t>& close, const Strokes& before,
                                       const std::vector<Strokes>& rows, const Strokes& after) {
        std::vector<std::vector<Strokes>> cells;
        for (const Strokes& row : rows)
            cells.push_back(close ? parted(row, false, kCellGap) : std::vector<Strokes>{row});
        for (const auto& row : cells)
            if (row.size() != cells.front().size() || row.size() > kMostCells) return {};
        // One column between brackets is a vector, unless a bar makes it a fraction.
        if (close && cells.front().size() == 1 && has_bar(rows)) return {};
        const std::string_view name = !close             ? "cases"
                                      : open.sign == "(" ? "pmatrix"
                                      : open.sign == "[" ? "bmatrix"
                                      : open.sign == "|" ? "vmatrix"
                                                         : "Bmatrix";
        if (!before.empty() && !add(before)) return {};
        out_.pattern += "\\begin{" + std::string(name) + "} ";
        add_bracket(open.stroke, open.sign, open.certainty);
        for (size_t r = 0; r < cells.size(); ++r) {
            if (r > 0) out_.pattern += " \\\\ ";
            for (size_t c = 0; c < cells[r].size(); ++c) {
                if (c > 0) out_.pattern += " & ";
                if (!add(cells[r][c])) return {};
            }
        }
        out_.pattern += " \\end{" + std::string(name) + "}";
        if (close) {
            const Bracket end = bracket(*close, {")", "]", "\\}", "|"});
            if (end.certainty < kBracket) return {};
            static const std::map<std::string_view, std::string_view> closed_by{
                {"(", ")"}, {"[", "]"}, {"\\{", "\\}"}, {"|", "|"}};
            add_bracket(*close, closed_by.at(open.sign), end.certainty);
        }
        if (!after.empty() && !add(after)) return {};
        spell(out_);
        out_.certainty = hangs_together_ * certainty_of(out_.signs);
        return std::move(out_);
    }

    // Whether a row is but a level stroke.
    bool has_bar(const std::vector<Strokes>& rows) const {
        return std::ranges::any_of(rows, [&](const Strokes& row) {
            return row.size() == 1 && boxes_[row[0]].height() < kFlat * boxes_[row[0]].width();
        });
    }

    void add_bracket(size_t stroke, std::string_view sign, double certainty) {
        out_.signs.push_back({std::string(sign), std::min(1.0, certainty), boxes_[stroke], {stroke}, {}});
    }

    // Reads some of the strokes as a formula of their own; false where nothing was read.
    bool add(Strokes some) {
        std::ranges::sort(some);
        std::vector<Stroke> ink;
        for (const size_t i : some) ink.push_back(strokes_[i]);
        std::vector<SaidSign> said;
        for (const SaidSign& sign : said_) {
            SaidSign own{{}, sign.sign};
            for (const size_t i : sign.strokes)
                if (const auto at = std::ranges::lower_bound(some, i); at != some.end() && *at == i)
                    own.strokes.push_back(static_cast<size_t>(at - some.begin()));
            if (own.strokes.size() == sign.strokes.size()) said.push_back(std::move(own));
        }
        FormulaReading reading = read_formula(ink, weights_, cancel_, said, taught_);
        if (reading.latex.empty()) return false;
        // Its signs are counted on from those before.
        const size_t first = out_.signs.size();
        std::vector<std::string> numbered;
        for (size_t i = 0; i < reading.signs.size(); ++i) numbered.push_back(sign_place(first + i));
        out_.pattern += latex_with(reading.pattern, numbered);
        hangs_together_ = std::min(hangs_together_, reading.certainty / std::max(certainty_of(reading.signs), 1e-6));
        for (ReadSign& sign : reading.signs) {
            for (size_t& i : sign.strokes) i = some[i];
            out_.signs.push_back(std::move(sign));
        }
        return true;
    }

    const std::vector<Stroke>& strokes_;
    const FormulaWeights& weights_;
    const CancelToken& cancel_;
    const std::vector<SaidSign>& said_;
    const SignMemory* taught_;
    std::vector<Box> boxes_;
    double usual_ = 1;
    FormulaReading out_;
    double hangs_together_ = 1;  // less where a cell's parts could not be put together
};

}  // namespace

std::optional<FormulaReading> read_grid(const std::vector<Stroke>& strokes, const FormulaWeights& weights,
                                        const CancelToken& cancel, const std::vector<SaidSign>& said,
                                        const SignMemory* taught) {
    if (strokes.size() < 4 || strokes.size() > kMostFormulaStrokes ||
        std::ranges::any_of(strokes, [](const Stroke& s) { return s.points.empty(); }))
        return {};
    auto out = GridReading(strokes, weights, cancel, said, taught).read();
    return cancel.cancelled() ? std::nullopt : out;
}

}  // namespace fernleaf
