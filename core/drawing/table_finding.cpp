#include "drawing/table_finding.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <numeric>
#include <optional>

#include "base/quantile.h"
#include "drawing/drawn_rules.h"
#include "drawing/ruled_rows.h"

namespace fernleaf {
namespace {

constexpr double kPieceGapMm = 3;     // between pieces of one rule
constexpr double kOneLineMm = 2.6;    // rules no farther apart are drawn twice, or in pieces
constexpr double kLeastCellMm = 4;    // across
constexpr double kLeastOpenMm = 6.5;  // across, without a border: less is a rule that was drawn too far
constexpr size_t kMostLines = 100;    // of a grid, each way
constexpr double kCovered = 0.6, kCoveredAtEnd = 0.2, kBare = 0.3;  // of a cell's side: is a rule, is none
constexpr double kMostCutMm = 15;                                   // of a side where a frame does not close
constexpr double kBeyondMm = 6;      // how far what is written may stand out where a table has no frame
constexpr double kLongShare = 0.7;   // of the table: so long a rule is one whatever it ends on
constexpr size_t kMostRules = 3000;  // hatching

// Rules that touch one another, as groups.
std::vector<Rules> grids_of(const Rules& rules) {
    const size_t n = rules.level.size(), m = rules.upright.size();
    std::vector<size_t> parent(n + m);
    std::iota(parent.begin(), parent.end(), size_t{0});
    const auto root = [&](size_t i) {
        while (parent[i] != i) i = parent[i] = parent[parent[i]];
        return i;
    };
    for (size_t i = 0; i < n; ++i)
        for (size_t j = 0; j < m; ++j)
            if (touch(rules.level[i], rules.upright[j])) parent[root(i)] = root(n + j);
    std::vector<Rules> out(n + m);
    for (size_t i = 0; i < n; ++i) out[root(i)].level.push_back(rules.level[i]);
    for (size_t j = 0; j < m; ++j) out[root(n + j)].upright.push_back(rules.upright[j]);
    std::erase_if(out, [](const Rules& grid) { return grid.level.empty() || grid.upright.empty(); });
    return out;
}

double begin_of(const std::vector<Rule>& rules) { return std::ranges::min(rules, {}, &Rule::begin).begin; }
double end_of(const std::vector<Rule>& rules) { return std::ranges::max(rules, {}, &Rule::end).end; }

// Where most rules begin and end.
std::pair<double, double> reach_of_most(const std::vector<Rule>& rules) {
    std::vector<double> begins, ends;
    for (const Rule& r : rules) begins.push_back(r.begin), ends.push_back(r.end);
    return {quantile(std::move(begins), 0.25), quantile(std::move(ends), 0.75)};
}

// Rules that were drawn on by one another, as one.
std::vector<Rule> drawn_through(const std::vector<Rule>& rules) {
    std::vector<Rule> out = rules;
    for (bool grew = true; grew;) {
        grew = false;
        for (size_t i = 0; i < out.size(); ++i)
            for (size_t j = 0; j < out.size(); ++j) {
                const bool same = std::abs(out[i].at - out[j].at) < kOneLineMm &&
                                  out[j].begin < out[i].end + kPieceGapMm && out[i].begin < out[j].end + kPieceGapMm;
                if (!same || (out[j].begin >= out[i].begin && out[j].end <= out[i].end)) continue;
                out[i].begin = std::min(out[i].begin, out[j].begin), out[i].end = std::max(out[i].end, out[j].end);
                grew = true;
            }
    }
    return out;
}

// Underlines in cells and the like end on nothing.
std::vector<Rule> spanning(const std::vector<Rule>& rules, const std::vector<Rule>& crossing) {
    const double all = end_of(rules) - begin_of(rules);
    const std::vector<Rule> whole = drawn_through(rules);
    const auto [begin, last] = reach_of_most(rules);
    std::vector<Rule> out;
    for (size_t i = 0; i < rules.size(); ++i) {
        const double reach = touch_reach(whole[i]);
        const auto ends_on = [&, begin = begin, last = last](double end) {
            if (std::min(std::abs(end - begin), std::abs(end - last)) < reach) return true;
            return std::ranges::any_of(crossing, [&](const Rule& c) {
                return std::abs(c.at - end) < reach && whole[i].at > c.begin - reach && whole[i].at < c.end + reach;
            });
        };
        if (whole[i].length() >= kLongShare * all || (ends_on(whole[i].begin) && ends_on(whole[i].end)))
            out.push_back(rules[i]);
    }
    return out;
}

// Rules that make up one line of a grid.
struct GridLine {
    double at = 0;
    std::vector<Rule> rules;  // none: the table ends here without a rule

    // The share of a part of it that is drawn.
    double drawn(double begin, double end) const {
        std::vector<std::pair<double, double>> parts;
        for (const Rule& r : rules)
            if (r.end > begin && r.begin < end) parts.emplace_back(std::max(begin, r.begin), std::min(end, r.end));
        std::ranges::sort(parts);
        double sum = 0, reached = begin;
        for (const auto& [from, to] : parts)
            if (to > reached) sum += to - std::max(from, reached), reached = to;
        return end > begin ? sum / (end - begin) : 0;
    }
};

std::vector<GridLine> lines_of(std::vector<Rule> rules, const std::vector<Rule>& crossing) {
    std::ranges::sort(rules, {}, &Rule::at);
    std::vector<GridLine> out;
    for (const Rule& rule : rules) {
        if (out.empty() || rule.at - out.back().rules.back().at > kOneLineMm) out.emplace_back();
        out.back().rules.push_back(rule);
    }
    for (GridLine& line : out) {
        double sum = 0, weight = 0;
        for (const Rule& r : line.rules) sum += r.at * r.length(), weight += r.length();
        line.at = sum / weight;
    }
    // Where rules reach farther than the outermost line there are cells without a border.
    const auto [begin, end] = reach_of_most(crossing);
    if (out.front().at - begin > kLeastOpenMm) out.insert(out.begin(), GridLine{begin, {}});
    if (end - out.back().at > kLeastOpenMm) out.push_back({end, {}});
    return out;
}

// Joins places of a grid to cells.
class Cells {
public:
    Cells(size_t rows, size_t columns) : rows_(rows), columns_(columns), cell_(rows * columns) {
        std::iota(cell_.begin(), cell_.end(), size_t{0});
    }
    size_t& at(size_t row, size_t column) { return cell_[row * columns_ + column]; }
    void join(size_t a, size_t b) {
        if (a != b) std::ranges::replace(cell_, std::max(a, b), std::min(a, b));
    }
    // Cells that are no rectangles grow to be some.
    void fill_up() {
        for (bool changed = true; changed;) {
            changed = false;
            for (size_t first = 0; first < cell_.size() && !changed; ++first) {
                if (cell_[first] != first) continue;
                size_t top = rows_, left = columns_, bottom = 0, right = 0;
                for (size_t r = 0; r < rows_; ++r)
                    for (size_t c = 0; c < columns_; ++c)
                        if (at(r, c) == first)
                            top = std::min(top, r), left = std::min(left, c), bottom = std::max(bottom, r),
                            right = std::max(right, c);
                for (size_t r = top; r <= bottom && !changed; ++r)
                    for (size_t c = left; c <= right && !changed; ++c)
                        if (at(r, c) != first) join(first, at(r, c)), changed = true;
            }
        }
    }

private:
    size_t rows_, columns_;
    std::vector<size_t> cell_;  // each place: the first place of its cell
};

// Of a side of a table, along a cell.
struct SidePart {
    double drawn = 0;   // share of it
    double length = 0;  // mm
    // Where a frame in one stroke does not close, or its corner is cut, some of it lacks.
    bool drawn_at_end() const { return drawn >= kCoveredAtEnd || (drawn > 0 && (1 - drawn) * length < kMostCutMm); }
};

// How a side of a table is drawn, of parts that are each drawn or not.
enum class Side { drawn, open, ragged };

// A corner may be left out, as above a column of names; and a frame in one stroke need not close.
Side side_of(const std::vector<SidePart>& parts, bool first_may_lack) {
    size_t drawn = 0, bare = 0;
    for (size_t i = first_may_lack ? 1 : 0; i < parts.size(); ++i) {
        const bool last = i == 0 || i + 1 == parts.size();
        drawn += last ? parts[i].drawn_at_end() : parts[i].drawn >= kCovered;
        bare += parts[i].drawn <= kBare;
    }
    const size_t count = parts.size() - (first_may_lack ? 1 : 0);
    return drawn == count ? Side::drawn : bare == count ? Side::open : Side::ragged;
}

struct Sides {
    Side top, bottom, left, right;
    bool ragged() const { return count(Side::ragged) > 0; }
    bool framed() const { return count(Side::drawn) == 4; }
    int count(Side side) const { return (top == side) + (bottom == side) + (left == side) + (right == side); }
};

class Grid {
public:
    Grid(std::vector<GridLine> rows, std::vector<GridLine> columns)
        : rows_(std::move(rows)), columns_(std::move(columns)) {}

    size_t rows() const { return rows_.size() - 1; }
    size_t columns() const { return columns_.size() - 1; }
    const std::vector<GridLine>& row_lines() const { return rows_; }
    const std::vector<GridLine>& column_lines() const { return columns_; }

    // How much is drawn of what is above (or, with line + 1, below) a place; or to its left.
    double level(size_t line, size_t column) const {
        return rows_[line].drawn(columns_[column].at, columns_[column + 1].at);
    }
    double upright(size_t line, size_t row) const { return columns_[line].drawn(rows_[row].at, rows_[row + 1].at); }

    bool large_enough() const {
        const auto wide = [](const std::vector<GridLine>& lines) {
            for (size_t i = 1; i < lines.size(); ++i)
                if (lines[i].at - lines[i - 1].at < kLeastCellMm) return false;
            return true;
        };
        return rows_.size() <= kMostLines && columns_.size() <= kMostLines && wide(rows_) && wide(columns_);
    }

    // The sides, each to be drawn all along or not at all.
    Sides sides() const {
        std::vector<SidePart> top, bottom, left, right;
        for (size_t c = 0; c < columns(); ++c) {
            const double wide = columns_[c + 1].at - columns_[c].at;
            top.push_back({level(0, c), wide}), bottom.push_back({level(rows(), c), wide});
        }
        for (size_t r = 0; r < rows(); ++r) {
            const double high = rows_[r + 1].at - rows_[r].at;
            left.push_back({upright(0, r), high}), right.push_back({upright(columns(), r), high});
        }
        const bool no_corner = rows() > 1 && columns() > 1 && top[0].drawn <= kBare && left[0].drawn <= kBare;
        return {side_of(top, no_corner), side_of(bottom, false), side_of(left, no_corner), side_of(right, false)};
    }

    // The cells, merged where nothing parts them, and the mean share of what is drawn of their borders.
    Cells cells(double& drawn) const {
        Cells out(rows(), columns());
        double sum = 0, count = 0;
        const auto judge = [&](double share, size_t a, size_t b) {
            if (share < kCovered) return out.join(a, b);
            sum += share, ++count;
        };
        for (size_t r = 0; r < rows(); ++r)
            for (size_t c = 0; c < columns(); ++c) {
                if (c > 0) judge(upright(c, r), out.at(r, c - 1), out.at(r, c));
                if (r > 0) judge(level(r, c), out.at(r - 1, c), out.at(r, c));
            }
        out.fill_up();
        drawn = count > 0 ? sum / count : 0;
        return out;
    }

private:
    std::vector<GridLine> rows_, columns_;
};

// Whether what was found is a table, and not a figure of a drawing or a letter.
bool convinces(const FoundTable& found, const std::vector<Box>& typed, bool framed, bool said) {
    const size_t cells = found.table.cells.size();
    size_t written = 0;
    for (size_t i = 0; i < cells; ++i)
        written += !found.ink[i].empty() || std::ranges::any_of(typed, [&](const Box& word) {
            return found.table.cells[i].box.contains(word.centre());
        });
    if (said) return cells >= 2;
    if (cells < 3) return false;
    // An arrow onto a figure is a rule that ends on one.
    const ReadCell& first = found.table.cells.front();
    if (cells == 3 && !framed && first.row_count * first.column_count == 1) return false;
    if (found.table.rows == 1 || found.table.columns == 1) return framed && written + 1 >= cells;
    return written >= 3 || (framed && (cells >= 6 || 2 * written >= cells));
}

class Finding {
public:
    Finding(const std::vector<Stroke>& strokes, const std::vector<Box>& typed, bool said)
        : strokes_(strokes), typed_(typed), said_(said), taken_(strokes.size()) {
        for (const Stroke& stroke : strokes) sides_.push_back(is_side(stroke));
    }

    std::vector<FoundTable> find() {
        const Rules rules = rules_in(strokes_);
        skew_ = rules.skew_deg;
        if (rules.level.size() > kMostRules || rules.upright.size() > kMostRules) return {};
        std::vector<Rules> grids = grids_of(rules);
        // A table may stand in a cell of another: the larger is the page's.
        std::ranges::sort(grids, std::greater(), [](const Rules& g) {
            return (end_of(g.level) - begin_of(g.level)) * (end_of(g.upright) - begin_of(g.upright));
        });
        std::vector<FoundTable> out;
        for (const Rules& grid : grids)
            if (auto found = table_of(grid)) out.push_back(*std::move(found));
        for (const Rules& apart : parallel_rules(rules))
            if (auto found = table_by_rules(apart, strokes_, sides_, taken_, typed_)) {
                for (const size_t s : found->rules) taken_[s] = true;
                for (const auto& ink : found->ink)
                    for (const size_t s : ink) taken_[s] = true;
                out.push_back(*std::move(found));
            }
        std::ranges::sort(out, {}, [](const FoundTable& t) { return std::pair(t.box.top, t.box.left); });
        return out;
    }

private:
    std::optional<FoundTable> table_of(const Rules& touching) {
        const Rules rules{spanning(touching.level, touching.upright), spanning(touching.upright, touching.level)};
        if (rules.level.empty() || rules.upright.empty() || rules.level.size() + rules.upright.size() < 2) return {};
        for (const auto* some : {&rules.level, &rules.upright})
            if (std::ranges::any_of(*some, [&](const Rule& r) { return taken_[r.stroke]; })) return {};
        const Grid grid(lines_of(rules.level, rules.upright), lines_of(rules.upright, rules.level));
        if (grid.rows() < 1 || grid.columns() < 1 || !grid.large_enough()) return {};
        const Sides sides = grid.sides();
        if (sides.ragged()) return {};
        FoundTable out;
        out.table.rows = static_cast<int>(grid.rows()), out.table.columns = static_cast<int>(grid.columns());
        Cells cells = grid.cells(out.certainty);
        const std::vector<Box> places = add_cells(grid, cells, sides, out);
        for (const auto* some : {&rules.level, &rules.upright})
            for (const Rule& r : *some) out.rules.push_back(r.stroke);
        std::ranges::sort(out.rules);
        out.rules.erase(std::unique(out.rules.begin(), out.rules.end()), out.rules.end());
        share_ink(places, out);
        // An arrow onto a figure, with the figure's sides about it.
        if (!sides.framed() && !said_ && std::ranges::any_of(out.ink, [&](const std::vector<size_t>& ink) {
                return std::ranges::any_of(ink, [&](size_t s) { return sides_[s]; });
            }))
            return {};
        if (!convinces(out, typed_, sides.framed(), said_)) return {};
        for (const size_t s : out.rules) taken_[s] = true, out.table.rules.push_back(strokes_[s].id);
        for (const auto& ink : out.ink)
            for (const size_t s : ink) taken_[s] = true;
        return out;
    }

    // Gives back where what is written in each may stand, on the page set level.
    std::vector<Box> add_cells(const Grid& grid, Cells& cells, const Sides& sides, FoundTable& out) const {
        std::vector<Box> places;
        for (size_t r = 0; r < grid.rows(); ++r)
            for (size_t c = 0; c < grid.columns(); ++c) {
                const size_t self = cells.at(r, c);
                if (self != r * grid.columns() + c) continue;
                size_t right = c + 1, bottom = r + 1;
                while (right < grid.columns() && cells.at(r, right) == self) ++right;
                while (bottom < grid.rows() && cells.at(bottom, c) == self) ++bottom;
                Box place{grid.column_lines()[c].at, grid.row_lines()[r].at, grid.column_lines()[right].at,
                          grid.row_lines()[bottom].at};
                // As large as it is, where the page is askew as well.
                const Point middle = turned(place.centre(), skew_, {});
                out.table.cells.push_back({static_cast<int>(r), static_cast<int>(c), static_cast<int>(bottom - r),
                                           static_cast<int>(right - c),
                                           Box::of(middle.x - place.width() / 2, middle.y - place.height() / 2,
                                                   place.width(), place.height())});
                out.box.include(out.table.cells.back().box);
                // Where a table has no border, words may stand out.
                if (r == 0 && sides.top == Side::open) place.top -= kBeyondMm;
                if (c == 0 && sides.left == Side::open) place.left -= kBeyondMm;
                if (bottom == grid.rows() && sides.bottom == Side::open) place.bottom += kBeyondMm;
                if (right == grid.columns() && sides.right == Side::open) place.right += kBeyondMm;
                places.push_back(place);
            }
        return places;
    }

    // What is written belongs to the cell its middle is in.
    void share_ink(const std::vector<Box>& places, FoundTable& out) const {
        out.ink.resize(places.size());
        for (size_t s = 0; s < strokes_.size(); ++s) {
            if (taken_[s] || std::ranges::binary_search(out.rules, s)) continue;
            const Point middle = turned(strokes_[s].box().centre(), -skew_, {});
            const auto place = std::ranges::find_if(places, [&](const Box& box) { return box.contains(middle); });
            if (place != places.end()) out.ink[static_cast<size_t>(place - places.begin())].push_back(s);
        }
    }

    const std::vector<Stroke>& strokes_;
    const std::vector<Box>& typed_;
    bool said_;
    double skew_ = 0;
    std::vector<bool> sides_;  // of figures, for each stroke
    std::vector<bool> taken_;
};

}  // namespace

std::vector<FoundTable> tables_in(const std::vector<Stroke>& strokes, const std::vector<Box>& typed, bool said) {
    return Finding(strokes, typed, said).find();
}

}  // namespace fernleaf
