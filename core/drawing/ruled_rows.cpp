#include "drawing/ruled_rows.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numeric>

#include "base/quantile.h"
#include "ink/grouping.h"

namespace fernleaf {
namespace {

constexpr double kLeastLevelMm = 25, kLeastUprightMm = 14;  // a shorter rule is an underline, or a letter
constexpr size_t kMostRules = 100, kMostSets = 40;          // of a page: more are hatching
constexpr double kAlikeMm = 7, kAlikeShare = 0.1;           // how far ends of rules of one table may differ
constexpr double kBeyondMm = 6;                             // how far words may stand out
constexpr double kOuterRowMm = 14, kOuterColumnMm = 45;     // how far beyond the last rule words are looked for
constexpr double kColumnGap = 0.8, kColumnGapOfFew = 1.6;   // of a row's height: a wider gap parts columns
constexpr size_t kFewRows = 3;                              // fewer leave a gap at one place by chance
constexpr double kGapOfColumn = 0.15;                       // of the widest column: prose in columns leaves less
constexpr double kLeastSpan = 0.55;                         // of the rules' length: what is written beside them
constexpr double kOneRuleMm = 2.6;                          // rules no farther apart are drawn twice
constexpr double kStraightMm = 3, kStraight = 0.16;         // how far a rule's stroke may go across it
constexpr double kFigureMm = 9;       // from a rule's end: what is drawn is a figure it belongs to or leads to
constexpr double kOnRule = 0.25;      // of a row's height: so far above and below a rule it stands on it
constexpr double kLeastFilled = 0.6;  // of its cells
constexpr double kProse = 0.75;       // of a column's width that lines of prose fill
constexpr double kOneRow = 0.4;       // of the lower line's height: what lines of one row share
constexpr double kRimMm = 2;          // about what is written, where no rule ends a table

// A stroke, or a word that is set in type, on the page set level.
struct Piece {
    Box box;
    std::optional<size_t> stroke;
};

struct Row {
    Box box;
    size_t band = 0;  // how many rules stand before it
    std::vector<Piece> pieces;

    void add(const Row& line) {
        box.include(line.box);
        pieces.insert(pieces.end(), line.pieces.begin(), line.pieces.end());
    }
};

bool alike(const Rule& a, const Rule& b) {
    const double most = std::max(kAlikeMm, kAlikeShare * std::max(a.length(), b.length()));
    return std::abs(a.begin - b.begin) < most && std::abs(a.end - b.end) < most;
}

// Those of rules that cross none of the others, in sets.
std::vector<std::vector<Rule>> sets_of(const std::vector<Rule>& rules, const std::vector<Rule>& others, bool level,
                                       double least) {
    std::vector<std::vector<Rule>> out;
    for (const Rule& rule : rules) {
        if (rule.length() < least) continue;
        const bool crosses = std::ranges::any_of(others, [&](const Rule& other) {
            return other.stroke == rule.stroke || (level ? touch(rule, other) : touch(other, rule));
        });
        if (crosses) continue;
        const auto same =
            std::ranges::find_if(out, [&](const std::vector<Rule>& set) { return alike(set.front(), rule); });
        if (same == out.end())
            out.push_back({rule});
        else
            same->push_back(rule);
    }
    std::erase_if(out, [](const std::vector<Rule>& set) { return set.size() < 2 || set.size() > kMostRules; });
    for (std::vector<Rule>& set : out) std::ranges::sort(set, {}, &Rule::at);
    return out;
}

bool is_rule(const Rules& rules, size_t stroke) {
    const auto same = [&](const Rule& rule) { return rule.stroke == stroke; };
    return std::ranges::any_of(rules.level, same) || std::ranges::any_of(rules.upright, same);
}

// How far a rule's stroke goes across it, mm.
double across(bool level, double skew_deg, const Stroke& stroke) {
    Box box;
    for (const InkPoint& p : stroke.points) box.include(turned(p.at, -skew_deg, {}));
    return level ? box.height() : box.width();
}

// Whether a rule is a side of a figure, or leads to one: its stroke goes on, or something drawn is near its end.
bool are_of_figures(const Rules& rules, const std::vector<Stroke>& strokes, const std::vector<bool>& sides) {
    const auto ends_of = [&](const Rule& rule, bool level) {
        std::array<Point, 2> out;
        for (size_t i = 0; i < 2; ++i) {
            const double along = i == 0 ? rule.begin : rule.end;
            out[i] = turned(level ? Point{along, rule.at} : Point{rule.at, along}, rules.skew_deg, {});
        }
        return out;
    };
    for (const bool level : {true, false})
        for (const Rule& rule : level ? rules.level : rules.upright) {
            if (across(level, rules.skew_deg, strokes[rule.stroke]) > kStraightMm + kStraight * rule.length())
                return true;
            for (const Point end : ends_of(rule, level))
                for (size_t s = 0; s < strokes.size(); ++s)
                    if (s != rule.stroke && sides[s] && !is_rule(rules, s) && touches(strokes[s], end, kFigureMm))
                        return true;
        }
    return false;
}

bool is_between(const std::vector<Rule>& rules, double at) {
    return !rules.empty() && at > rules.front().at && at < rules.back().at;
}

// Lines of what is written in a part of the page; none if something that is no writing stands between the rules.
std::vector<Row> lines_in(const Box& part, const Rules& rules, const std::vector<Stroke>& strokes,
                          const std::vector<bool>& taken, const std::vector<Box>& typed) {
    const auto level = [&](const Box& box) {
        const Point middle = turned(box.centre(), -rules.skew_deg, {});
        return Box::of(middle.x - box.width() / 2, middle.y - box.height() / 2, box.width(), box.height());
    };
    std::vector<Stroke> ink;
    std::vector<size_t> at;
    for (size_t s = 0; s < strokes.size(); ++s)
        if (!taken[s] && part.contains(level(strokes[s].box()).centre()) && !is_rule(rules, s))
            ink.push_back(strokes[s]), at.push_back(s);
    std::vector<Row> out;
    for (const InkLine& line : group_lines(ink)) {
        Row row;
        for (const size_t m : line.members) {
            row.pieces.push_back({level(ink[m].box()), at[m]});
            row.box.include(row.pieces.back().box);
        }
        const Point middle = row.box.centre();
        if (line.drawing && is_between(rules.level, middle.y)) return {};
        if (line.drawing && is_between(rules.upright, middle.x)) return {};
        if (!line.drawing) out.push_back(std::move(row));
    }
    for (const Box& word : typed)
        if (const Box box = level(word); part.contains(box.centre())) out.push_back({box, 0, {{box, {}}}});
    return out;
}

double shared_height(const Box& a, const Box& b) {
    return (std::min(a.bottom, b.bottom) - std::max(a.top, b.top)) / std::max(0.1, std::min(a.height(), b.height()));
}

// Lines at one height are one row.
std::vector<Row> rows_of(std::vector<Row> lines) {
    std::ranges::stable_sort(lines, {}, [](const Row& line) { return std::pair(line.band, line.box.centre().y); });
    std::vector<Row> rows;
    for (Row& line : lines) {
        const bool another =
            rows.empty() || rows.back().band != line.band || shared_height(rows.back().box, line.box) < kOneRow;
        if (another)
            rows.push_back(std::move(line));
        else
            rows.back().add(line);
    }
    return rows;
}

// Where columns are parted, and how well.
struct Columns {
    std::vector<double> borders;  // the table's own sides are the first and the last
    std::vector<double> gaps;     // that all rows leave about the borders between
    std::vector<size_t> filled;   // in how many rows each is
    double widest = 0;            // of what is written in one

    size_t count() const { return filled.size(); }
    size_t at(double x) const {
        const auto after = std::ranges::upper_bound(borders, x);
        return std::min(count() - 1, static_cast<size_t>(std::max<std::ptrdiff_t>(1, after - borders.begin())) - 1);
    }
    std::vector<bool> in(const Row& row) const {
        std::vector<bool> out(count());
        for (const Piece& piece : row.pieces) out[at(piece.box.centre().x)] = true;
        return out;
    }
    void fill(const std::vector<Row>& rows) {
        filled.assign(borders.size() - 1, 0);
        for (const Row& row : rows) {
            const std::vector<bool> in_row = in(row);
            for (size_t c = 0; c < in_row.size(); ++c) filled[c] += in_row[c];
        }
    }
    double share_filled(size_t rows) const {
        return static_cast<double>(std::accumulate(filled.begin(), filled.end(), size_t{0})) /
               static_cast<double>(rows * count());
    }
};

double usual_height(const std::vector<Row>& rows) {
    std::vector<double> heights;
    for (const Row& row : rows) heights.push_back(row.box.height());
    return median(std::move(heights));
}

// least_gap: narrower ones part words, mm.
Columns columns_of(const std::vector<Row>& rows, double least_gap) {
    std::vector<std::pair<double, double>> spans;
    for (const Row& row : rows)
        for (const Piece& piece : row.pieces) spans.emplace_back(piece.box.left, piece.box.right);
    std::ranges::sort(spans);
    Columns out;
    out.borders = {spans.front().first};
    double begun = spans.front().first, reached = spans.front().second;
    for (const auto& [left, right] : spans) {
        if (left - reached > least_gap) {
            out.gaps.push_back(left - reached);
            out.widest = std::max(out.widest, reached - begun);
            out.borders.push_back((left + reached) / 2);
            begun = left;
        }
        reached = std::max(reached, right);
    }
    out.widest = std::max(out.widest, reached - begun);
    out.borders.push_back(reached);
    out.fill(rows);
    return out;
}

// Whether what is written stands in columns, as in a table.
bool convinces(const std::vector<Row>& rows, const Columns& columns, size_t rules) {
    if (columns.count() < 2 || rows.size() < 2 || (rows.size() < kFewRows && rules <= rows.size())) return false;
    const double narrowest = std::ranges::min(columns.gaps);
    if (narrowest < kGapOfColumn * columns.widest || columns.share_filled(rows.size()) < kLeastFilled) return false;
    // Few words stand in a column of their own only where a wide gap says so.
    const double wide = kColumnGapOfFew * usual_height(rows);
    if (rows.size() < kFewRows && narrowest < wide) return false;
    for (size_t c = 0; c < columns.count(); ++c) {
        const double before = c == 0 ? wide : columns.gaps[c - 1];
        const double after = c + 1 == columns.count() ? wide : columns.gaps[c];
        if (2 * columns.filled[c] < rows.size() && std::min(before, after) < wide) return false;
    }
    return true;
}

// The most columns that convince: gaps that are no wider than between words are left out one after another.
std::optional<Columns> convincing_columns(const std::vector<Row>& rows, size_t rules) {
    double least = kColumnGap * usual_height(rows);
    for (;;) {
        Columns found = columns_of(rows, least);
        if (found.gaps.empty()) return {};
        if (convinces(rows, found, rules)) return found;
        least = std::ranges::min(found.gaps);
    }
}

// Second lines of cells belong to the row they go on from, where each row has its rule.
void join_going_on(std::vector<Row>& rows, const Columns& columns, size_t rules) {
    if (rules < 4) return;
    for (size_t r = 1; r < rows.size();) {
        const std::vector<bool> in = columns.in(rows[r]);
        const bool goes_on = rows[r].band == rows[r - 1].band && rows[r].band > 0 && rows[r].band < rules &&
                             2 * std::ranges::count(in, true) <= std::ssize(in);
        if (goes_on) {
            rows[r - 1].add(rows[r]);
            rows.erase(rows.begin() + static_cast<std::ptrdiff_t>(r));
        } else {
            ++r;
        }
    }
}

// xs, ys: where cells are parted, on the page set level.
FoundTable made(const std::vector<Row>& rows, const Columns& columns, const std::vector<double>& ys, const Rules& rules,
                const std::vector<Stroke>& strokes) {
    FoundTable out;
    out.table.rows = static_cast<int>(rows.size());
    out.table.columns = static_cast<int>(columns.count());
    out.ink.resize(rows.size() * columns.count());
    for (size_t r = 0; r < rows.size(); ++r) {
        for (size_t c = 0; c < columns.count(); ++c) {
            const Box place{columns.borders[c], ys[r], columns.borders[c + 1], ys[r + 1]};
            const Point middle = turned(place.centre(), rules.skew_deg, {});
            out.table.cells.push_back(
                {static_cast<int>(r), static_cast<int>(c), 1, 1,
                 Box::of(middle.x - place.width() / 2, middle.y - place.height() / 2, place.width(), place.height())});
            out.box.include(out.table.cells.back().box);
        }
        for (const Piece& piece : rows[r].pieces)
            if (piece.stroke) out.ink[r * columns.count() + columns.at(piece.box.centre().x)].push_back(*piece.stroke);
    }
    out.certainty = columns.share_filled(rows.size());
    for (const auto* some : {&rules.level, &rules.upright})
        for (const Rule& rule : *some) out.rules.push_back(rule.stroke);
    std::ranges::sort(out.rules);
    out.rules.erase(std::unique(out.rules.begin(), out.rules.end()), out.rules.end());
    for (const size_t s : out.rules) out.table.rules.push_back(strokes[s].id);
    return out;
}

// Where most of some rules begin and end.
std::pair<double, double> reach_of(const std::vector<Rule>& rules) {
    std::vector<double> begins, ends;
    for (const Rule& rule : rules) begins.push_back(rule.begin), ends.push_back(rule.end);
    return {median(std::move(begins)), median(std::move(ends))};
}

// Where rules lie across; one that was gone over twice counts once.
std::vector<double> places_of(const std::vector<Rule>& rules) {
    std::vector<double> out;
    double last = -std::numeric_limits<double>::infinity();
    for (const Rule& rule : rules) {
        if (rule.at - last > kOneRuleMm) out.push_back(rule.at);
        last = rule.at;
    }
    return out;
}

std::optional<FoundTable> by_level_rules(const Rules& rules, const std::vector<Stroke>& strokes,
                                         const std::vector<bool>& taken, const std::vector<Box>& typed) {
    const std::vector<double> levels = places_of(rules.level);
    if (levels.size() < 2) return {};
    const auto [left, right] = reach_of(rules.level);
    const Box part{left - kBeyondMm, levels.front() - kOuterRowMm, right + kBeyondMm, levels.back() + kOuterRowMm};
    std::vector<Row> lines = lines_in(part, rules, strokes, taken, typed);
    for (Row& line : lines)
        line.band =
            static_cast<size_t>(std::ranges::count_if(levels, [&](double rule) { return rule < line.box.centre().y; }));
    std::vector<Row> rows = rows_of(std::move(lines));
    // Beyond the first and the last rule there is one row at most, the nearest.
    const auto in_last = [&](const Row& row) { return row.band == levels.size(); };
    const auto inner = std::ranges::find_if(rows, [](const Row& row) { return row.band > 0; });
    if (inner == rows.end()) return {};
    if (inner - rows.begin() > 1) rows.erase(rows.begin(), inner - 1);
    if (const auto below = std::ranges::find_if(rows, in_last); below != rows.end()) rows.erase(below + 1, rows.end());

    // A title above it, or the line that follows, may be no row: whatever leaves most columns.
    std::vector<Row> best;
    Columns columns;
    for (const bool above : {true, false})
        for (const bool below : {true, false}) {
            std::vector<Row> some = rows;
            if (!above && some.front().band == 0) some.erase(some.begin());
            if (!below && !some.empty() && in_last(some.back())) some.pop_back();
            if (some.empty()) continue;
            const auto found = convincing_columns(some, levels.size());
            if (!found) continue;
            // Words above the second column may be a head without a corner; what stands in the first one is a title.
            const auto fills_few = [&](const Row& row) {
                const std::vector<bool> in = found->in(row);
                return in[0] && std::ranges::count(in, true) < 2;
            };
            const bool outer_fills_few =
                (some.front().band == 0 && fills_few(some.front())) || (in_last(some.back()) && fills_few(some.back()));
            if (!outer_fills_few && found->count() > columns.count()) columns = *found, best = std::move(some);
        }
    // Words stand between rules, heads of arrows about them.
    for (const Row& row : best)
        for (const double rule : levels)
            if (rule > row.box.top + kOnRule * row.box.height() && rule < row.box.bottom - kOnRule * row.box.height())
                return {};
    if (best.empty() || columns.borders.back() - columns.borders.front() < kLeastSpan * (right - left)) return {};
    join_going_on(best, columns, levels.size());
    columns.borders.front() = std::min(left, columns.borders.front() - kRimMm);
    columns.borders.back() = std::max(right, columns.borders.back() + kRimMm);
    std::vector<double> ys;
    for (size_t r = 0; r <= best.size(); ++r) {
        const size_t above = r == 0 ? 0 : best[r - 1].band, below = r == best.size() ? levels.size() : best[r].band;
        // A rule, where there is one.
        if (above < below)
            ys.push_back(levels[r == 0 ? below - 1 : above]);
        else if (r == 0 || r == best.size())
            ys.push_back(r == 0 ? best.front().box.top - kRimMm : best.back().box.bottom + kRimMm);
        else
            ys.push_back((best[r - 1].box.bottom + best[r].box.top) / 2);
    }
    return made(best, columns, ys, rules, strokes);
}

std::optional<FoundTable> by_upright_rules(const Rules& rules, const std::vector<Stroke>& strokes,
                                           const std::vector<bool>& taken, const std::vector<Box>& typed) {
    const std::vector<double> uprights = places_of(rules.upright);
    if (uprights.size() < 2) return {};
    const auto [top, bottom] = reach_of(rules.upright);
    const Box part{uprights.front() - kOuterColumnMm, top - kBeyondMm, uprights.back() + kOuterColumnMm,
                   bottom + kBeyondMm};
    // Each line's part in each column; what stands beside the first and the last rule is a column, too.
    std::vector<Row> parts;
    size_t prose = 0;
    std::array<Box, 2> outer;
    for (const Row& line : lines_in(part, rules, strokes, taken, typed)) {
        std::vector<Row> by_column(uprights.size() + 1);
        for (const Piece& piece : line.pieces) {
            const auto column = static_cast<size_t>(
                std::ranges::count_if(uprights, [&](double rule) { return rule < piece.box.centre().x; }));
            by_column[column].add({piece.box, 0, {piece}});
        }
        for (size_t c = 0; c < by_column.size(); ++c) {
            const Box& box = by_column[c].box;
            if (box.empty()) continue;
            if (c == 0 || c == uprights.size())
                outer[c == 0 ? 0 : 1].include(box);
            else
                prose += box.width() > kProse * (uprights[c] - uprights[c - 1]);
            parts.push_back(std::move(by_column[c]));
        }
    }
    Columns columns;
    if (!outer[0].empty()) columns.borders.push_back(outer[0].left - kRimMm);
    columns.borders.insert(columns.borders.end(), uprights.begin(), uprights.end());
    if (!outer[1].empty()) columns.borders.push_back(outer[1].right + kRimMm);
    const size_t part_count = parts.size();
    if (columns.borders.size() < 3 || part_count == 0 || 2 * prose > part_count) return {};
    // Where lines do not stand beside those of other columns it is no table.
    const std::vector<Row> rows = rows_of(std::move(parts));
    columns.fill(rows);
    const auto cells = std::accumulate(columns.filled.begin(), columns.filled.end(), size_t{0});
    if (cells < part_count || rows.size() < (columns.count() == 2 ? kFewRows : 2)) return {};
    if (columns.share_filled(rows.size()) < kLeastFilled || std::ranges::min(columns.filled) == 0) return {};
    if (rows.back().box.bottom - rows.front().box.top < kLeastSpan * (bottom - top)) return {};
    std::vector<double> ys{std::min(top, rows.front().box.top - kRimMm)};
    for (size_t r = 1; r < rows.size(); ++r) ys.push_back((rows[r - 1].box.bottom + rows[r].box.top) / 2);
    ys.push_back(std::max(bottom, rows.back().box.bottom + kRimMm));
    return made(rows, columns, ys, rules, strokes);
}

}  // namespace

std::vector<Rules> parallel_rules(const Rules& rules) {
    std::vector<Rules> out;
    for (std::vector<Rule>& set : sets_of(rules.level, rules.upright, true, kLeastLevelMm))
        out.push_back({std::move(set), {}, rules.skew_deg});
    for (std::vector<Rule>& set : sets_of(rules.upright, rules.level, false, kLeastUprightMm))
        out.push_back({{}, std::move(set), rules.skew_deg});
    if (out.size() > kMostSets) out.clear();
    return out;
}

std::optional<FoundTable> table_by_rules(const Rules& rules, const std::vector<Stroke>& strokes,
                                         const std::vector<bool>& sides, const std::vector<bool>& taken,
                                         const std::vector<Box>& typed) {
    if (are_of_figures(rules, strokes, sides)) return {};
    return rules.upright.empty() ? by_level_rules(rules, strokes, taken, typed)
                                 : by_upright_rules(rules, strokes, taken, typed);
}

}  // namespace fernleaf
