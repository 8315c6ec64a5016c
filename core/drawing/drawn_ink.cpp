#include "drawing/drawn_ink.h"

#include <algorithm>
#include <limits>
#include <optional>

#include "base/quantile.h"
#include "drawing/pen_path.h"
#include "ink/grouping.h"
#include "ink/ringed.h"
#include "ink/selecting.h"
#include "ink/underline.h"

namespace fernleaf {
namespace {

constexpr size_t kMostCandidates = 6;  // that are kept of what a shape may be
constexpr double kMostOff = 0.06;      // of its diagonal: ink farther off every shape is no figure,
constexpr double kSureOff = 0.032;     // and, where it might be written, ink farther off than this
constexpr double kFlat = 4;
constexpr double kLarge = 2.2;      // times as high as letters: what is larger may be drawn
constexpr double kLargeMm = 14;     // and what is so large is, if it encloses anything or not
constexpr double kMostWay = 7;      // of its diagonal: a longer path is a word, or a scribble
constexpr double kLeastRingMm = 8;  // about something, for letters have loops, too
constexpr double kWordGap = 1.2,
                 kMarkGap = 0.25;      // of the writing's height, beside and above one another: more parts words
constexpr int kMiddleEnds = 3;         // of lines that go out from the same words: the middle of a map
constexpr double kWinding = 1.4;       // of a branch: its way to how far its ends are from one another
constexpr double kStraight = 1.2;      // of a line: its way to its diagonal
constexpr double kLeastTwig = 1.3;     // of it: how long a line that leads on is
constexpr double kLeastMm = 5;         // and larger than this
constexpr double kTurnShare = 0.2;     // of a stroke's height,
constexpr double kTurnOfAll = 0.04;    // and of its diagonal: lower is a hand's shaking
constexpr int kMostTurns = 12;         // a star of six points has as many
constexpr double kUsualHeightMm = 3;   // of letters, where there are none
constexpr double kUsualTallestMm = 8;  // of letters: few write larger, but some do
constexpr double kReachShare = 0.3, kLeastReachMm = 3,
                 kMostReachMm = 9;   // of a link: how far its ends are from figures
constexpr double kHeadShare = 0.45;  // of a line: what lies about its end and is smaller may be its head

double diagonal_of(const std::vector<const Stroke*>& strokes, const std::vector<size_t>& members) {
    Box box;
    for (const size_t m : members) box.include(strokes[m]->box());
    return std::hypot(box.width(), box.height());
}

// How far ink may be off a figure is told by its shorter side, if that is short: a flat triangle is near any two lines.
bool fits(const ShapeGroup& group, const std::vector<const Stroke*>& strokes) {
    const ShapeCandidate& best = group.reading.best();
    double scale = diagonal_of(strokes, group.strokes);
    if (is_closed(best.shape.kind)) {
        const Box box = box_of(best.shape);
        scale = std::min(scale, kFlat * std::min(box.width(), box.height()));
    }
    return best.error < kMostOff * scale;
}

double usual_height(const std::vector<InkLine>& lines) {
    std::vector<double> heights;
    for (const InkLine& line : lines)
        if (!line.drawing) heights.insert(heights.end(), line.members.size(), line.size);
    return heights.empty() ? kUsualHeightMm : median(std::move(heights));
}

// How often a stroke turns between up and down, by a good part of its height. Words do it all the time; that is told at
// once, where fitting shapes takes a millisecond.
int turns_up_and_down(const Stroke& stroke) {
    const Box box = stroke.box();
    const double least = std::max(kTurnShare * box.height(), kTurnOfAll * std::hypot(box.width(), box.height()));
    int count = 0, going = 0;
    double extreme = stroke.points.front().at.y;
    for (const InkPoint& p : stroke.points) {
        const double moved = p.at.y - extreme;
        if (going != 0 && moved * going > 0) {
            extreme = p.at.y;
        } else if (std::abs(moved) > least) {
            going = moved > 0 ? 1 : -1;
            extreme = p.at.y;
            ++count;
        }
    }
    return count;
}

double way(const Stroke& stroke, double diagonal) { return path_length(stroke) / std::max(1e-9, diagonal); }

// Figures are drawn, whatever is written about them; lines are if they lead from one to another.
class Sorting {
public:
    // tallest_mm: lines of more than that are taken to be drawn.
    Sorting(const std::vector<Stroke>& strokes, const std::vector<InkLine>& lines, double tallest_mm,
            ShapeMemory& memory)
        : strokes_(strokes), memory_(memory) {
        height_ = usual_height(lines);
        least_ = std::max(kLeastMm, kLarge * std::min(tallest_mm, height_));
        large_.resize(strokes.size());
        underline_.resize(strokes.size());
        for (const Underline& u : underlines_in(strokes)) underline_[u.stroke] = true;
        for (const InkLine& line : lines)
            for (const size_t m : line.members) large_[m] = line.drawing || line.size > tallest_mm;
    }

    ShapeMemory& memory() const { return memory_; }
    double height() const { return height_; }  // of most writing, mm

    // Strokes that may be drawn, by themselves or as a head of what is.
    std::vector<size_t> candidates() const {
        std::vector<size_t> out;
        std::vector<size_t> open;
        for (size_t i = 0; i < strokes_.size(); ++i) {
            if (lies_under(strokes_[i].pen)) continue;
            const double diagonal = diagonal_of({&strokes_[i]}, {0});
            // A shorter line may be one of a map.
            const double length = way(strokes_[i], diagonal);
            const bool twig = length < kStraight && diagonal > std::max(kLeastMm, kLeastTwig * height_);
            if ((diagonal < least_ && !twig) || length > kMostWay || turns_up_and_down(strokes_[i]) > kMostTurns)
                continue;
            const ShapeReading& reading = memory_.read({&strokes_[i]});
            if (reading.candidates.empty() ||
                reading.best().error > (large_[i] || twig ? kMostOff : kSureOff) * diagonal)
                continue;
            out.push_back(i);
            if (!is_closed(reading.best().shape.kind)) open.push_back(i);
            if (out.size() > kMostDrawnStrokes) return {};  // hatching: there is no need to fit the rest
        }
        std::vector<bool> taken(strokes_.size());
        for (const size_t i : out) taken[i] = true;
        for (size_t i = 0; i < strokes_.size(); ++i) {
            if (taken[i] || lies_under(strokes_[i].pen)) continue;
            const Box box = strokes_[i].box();
            for (const size_t line : open) {
                const double reach = kHeadShare * diagonal_of({&strokes_[line]}, {0});
                const auto& points = strokes_[line].points;
                const auto about = [&](Point end) {
                    return within(box, end, reach) && touches(strokes_[i], end, 0.5 * reach);
                };
                if (!about(points.front().at) && !about(points.back().at)) continue;
                out.push_back(i), taken[i] = true;
                break;
            }
        }
        std::ranges::sort(out);
        return out;
    }

    // Whether a group is drawn by itself, not only as a link.
    bool stands(const ShapeGroup& group, const std::vector<size_t>& at) const {
        Box box;
        size_t large = 0;
        for (const size_t s : group.strokes) box.include(strokes_[at[s]].box()), large += large_[at[s]];
        const double diagonal = std::hypot(box.width(), box.height());
        if (diagonal < least_ || (group.strokes.size() == 1 && underline_[at[group.strokes[0]]])) return false;
        if (!is_closed(group.reading.best().shape.kind)) return 2 * large > group.strokes.size();
        if (diagonal > kLargeMm) return true;
        if (diagonal < kLeastRingMm) return false;
        // A ring about something.
        for (size_t i = 0; i < strokes_.size(); ++i) {
            const bool own = std::ranges::any_of(group.strokes, [&](size_t s) { return at[s] == i; });
            if (!own && box.contains(strokes_[i].box().centre())) return true;
        }
        return false;
    }

private:
    static bool within(const Box& box, Point p, double reach) {
        return std::max({std::abs(box.left - p.x), std::abs(box.right - p.x), std::abs(box.top - p.y),
                         std::abs(box.bottom - p.y)}) < reach;
    }

    const std::vector<Stroke>& strokes_;
    ShapeMemory& memory_;
    double least_ = kLeastMm, height_ = 0;
    std::vector<bool> underline_;
    std::vector<bool> large_;  // too large or tangled to be written
};

double reach_of(const std::vector<Point>& line) {
    return std::clamp(kReachShare * path_length(line), kLeastReachMm, kMostReachMm);
}

bool touches_any(const ShapeGroup& group, const std::vector<std::vector<std::vector<Point>>>& borders) {
    const std::vector<Point> line = outline_of(group.reading.best().shape)[0];
    return std::ranges::any_of(borders, [&](const std::vector<std::vector<Point>>& border) {
        return std::min(distance_to(border, line.front()), distance_to(border, line.back())) < reach_of(line);
    });
}

// Whether a line leads from one figure to another.
bool leads(const ShapeGroup& group, const std::vector<std::vector<std::vector<Point>>>& borders) {
    const Shape& shape = group.reading.best().shape;
    if (is_closed(shape.kind) || shape.kind == ShapeKind::brace) return false;
    const std::vector<Point> line = outline_of(shape)[0];
    const double reach = reach_of(line);
    const auto nearest = [&](Point p) {
        size_t best = borders.size();
        double away = reach;
        for (size_t b = 0; b < borders.size(); ++b)
            if (const double d = distance_to(borders[b], p); d < away) away = d, best = b;
        return best;
    };
    const size_t from = nearest(line.front()), to = nearest(line.back());
    return from != to && from < borders.size() && to < borders.size();
}

// Pieces of writing that stand together, as words do: their boxes.
std::vector<Box> words_in(const std::vector<Stroke>& strokes, const std::vector<bool>& not_written, double height) {
    std::vector<Box> pieces;
    for (size_t i = 0; i < strokes.size(); ++i)
        if (!not_written[i] && !lies_under(strokes[i].pen)) pieces.push_back(strokes[i].box());
    std::ranges::sort(pieces, {}, &Box::left);
    const double beside = kWordGap * std::max(height, kUsualHeightMm), above = kMarkGap * height;
    std::vector<Box> words;
    for (const Box& piece : pieces) {
        Box word = piece;
        // What it touches becomes one with it; few words are open at a place, for they are in order.
        std::erase_if(words, [&](const Box& other) {
            const bool near = other.right + beside > word.left && other.left < word.right + beside &&
                              other.bottom + above > word.top && other.top < word.bottom + above;
            if (near) word.include(other);
            return near;
        });
        words.push_back(word);
    }
    return words;
}

double distance_to(const Box& box, Point p) {
    return length({std::max({box.left - p.x, 0.0, p.x - box.right}), std::max({box.top - p.y, 0.0, p.y - box.bottom})});
}

// Lines that lead on from a figure to words, and from words that a line leads to: as in a map. known: places that lines
// lead to already, figures' borders first.
class LeadingOn {
public:
    LeadingOn(const std::vector<std::vector<std::vector<Point>>>& borders, std::vector<Box> words)
        : borders_(borders), words_(std::move(words)), reached_(words_.size()), ends_(words_.size()) {}

    // Words at an end of what is drawn.
    void reach(const ShapeGroup& group) {
        const std::vector<Point> line = outline_of(group.reading.best().shape)[0];
        for (const Point end : {line.front(), line.back()})
            if (const auto word = word_at(end, reach_of(line))) reached_[*word] = true, ++ends_[*word];
    }

    // Words at both ends of what may be drawn.
    void count(const ShapeGroup& group) {
        const std::vector<Point> line = outline_of(group.reading.best().shape)[0];
        const auto first = word_at(line.front(), reach_of(line)), last = word_at(line.back(), reach_of(line));
        if (first && last && *first != *last) ++ends_[*first], ++ends_[*last];
    }

    // Whether there is a figure, or words that lines go out from as they do in the middle of a map.
    bool has_middle() const {
        return !borders_.empty() || std::ranges::any_of(ends_, [](int ends) { return ends >= kMiddleEnds; });
    }

    // Whether a line leads on from what is reached, to words; these are reached then.
    bool take(const ShapeGroup& group) {
        const std::vector<Point> line = outline_of(group.reading.best().shape)[0];
        const double reach = reach_of(line);
        const auto first = word_at(line.front(), reach), last = word_at(line.back(), reach);
        if (first && last && *first == *last) return false;  // struck through, or underlined
        if (in_one_figure(line)) return false;               // a letter of its label
        const bool from = (first && reached_[*first]) || at_figure(line.front(), reach);
        const bool to = (last && reached_[*last]) || at_figure(line.back(), reach);
        if (!(from && last) && !(to && first)) return false;
        if (first) reached_[*first] = true;
        if (last) reached_[*last] = true;
        return true;
    }

private:
    std::optional<size_t> word_at(Point p, double reach) const {
        std::optional<size_t> best;
        for (size_t i = 0; i < words_.size(); ++i)
            if (const double away = distance_to(words_[i], p); away < reach) reach = away, best = i;
        return best;
    }
    bool in_one_figure(const std::vector<Point>& line) const {
        return std::ranges::any_of(borders_, [&](const auto& border) {
            return inside(border[0], line.front()) && inside(border[0], line.back());
        });
    }
    bool at_figure(Point p, double reach) const {
        return std::ranges::any_of(borders_, [&](const auto& border) { return distance_to(border, p) < reach; });
    }

    const std::vector<std::vector<std::vector<Point>>>& borders_;
    std::vector<Box> words_;
    std::vector<bool> reached_;
    std::vector<int> ends_;  // of lines, at each of the words
};

// Takes of what is left, told by places among those in at, the lines of a map.
void lead_on(DrawnInk& out, std::vector<ShapeGroup>& open, const std::vector<std::vector<std::vector<Point>>>& borders,
             const std::vector<Stroke>& strokes, const std::vector<size_t>& at, double height) {
    std::erase_if(open, [&](const ShapeGroup& group) {
        const Shape& shape = group.reading.best().shape;
        if (is_closed(shape.kind) || shape.kind == ShapeKind::brace) return true;
        // Letters wind; a line goes from one end to the other.
        const std::vector<Point> line = outline_of(shape)[0];
        const double across = distance(line.front(), line.back());
        return across < std::max(kLeastMm, kLeastTwig * height) || path_length(line) > kWinding * across;
    });
    if (open.empty()) return;
    std::vector<bool> not_written = out.drawn;
    for (const ShapeGroup& group : open)
        for (const size_t s : group.strokes) not_written[at[s]] = true;
    LeadingOn leading(borders, words_in(strokes, not_written, height));
    for (const ShapeGroup& group : out.groups)
        if (!is_closed(group.reading.best().shape.kind)) leading.reach(group);
    for (const ShapeGroup& group : open) leading.count(group);
    if (!leading.has_middle()) return;
    for (bool more = true; more;) {
        more = false;
        std::erase_if(open, [&](ShapeGroup& group) {
            if (!leading.take(group)) return false;
            for (size_t& s : group.strokes) s = at[s], out.drawn[s] = true;
            std::ranges::sort(group.strokes);
            out.groups.push_back(std::move(group));
            return more = true;
        });
    }
}

// diagram: set to whether figures are linked, or an arrow leads to one or away from it.
DrawnInk sorted_out(const std::vector<Stroke>& strokes, const Sorting& sorting, bool all_drawn,
                    const std::vector<Shape>& known, bool& diagram) {
    DrawnInk out;
    out.drawn.resize(strokes.size());
    std::vector<size_t> at;
    if (all_drawn) {
        for (size_t i = 0; i < strokes.size(); ++i) at.push_back(i);
    } else {
        at = sorting.candidates();
    }
    std::vector<const Stroke*> ink;
    for (const size_t i : at) ink.push_back(&strokes[i]);
    const auto take = [&](ShapeGroup group) {
        for (size_t& s : group.strokes) s = at[s], out.drawn[s] = true;
        std::ranges::sort(group.strokes);
        out.groups.push_back(std::move(group));
    };
    std::vector<ShapeGroup> open;
    std::vector<std::vector<std::vector<Point>>> borders;
    for (const Shape& shape : known)
        if (is_closed(shape.kind)) borders.push_back(outline_of(shape));
    for (ShapeGroup& group : grouped(ink, sorting.memory())) {
        if (!all_drawn && !fits(group, ink)) continue;
        if (is_closed(group.reading.best().shape.kind)) borders.push_back(outline_of(group.reading.best().shape));
        if (all_drawn || sorting.stands(group, at))
            take(std::move(group));
        else
            open.push_back(std::move(group));
    }
    bool linked = std::ranges::any_of(out.groups, [&](const ShapeGroup& group) { return leads(group, borders); });
    std::erase_if(open, [&](ShapeGroup& group) {
        if (!leads(group, borders)) return false;
        take(std::move(group));
        return linked = true;
    });
    if (!all_drawn && !out.groups.empty()) lead_on(out, open, borders, strokes, at, sorting.height());
    diagram = linked || std::ranges::any_of(out.groups, [&](const ShapeGroup& group) {
                  const ShapeKind kind = group.reading.best().shape.kind;
                  return (kind == ShapeKind::arrow || kind == ShapeKind::double_arrow) && touches_any(group, borders);
              });
    // By itself a small ring about a letter is a mark beside words.
    if (!linked && !all_drawn && !out.groups.empty())
        for (const Ringed& ringed : ringed_in(strokes))
            if (std::erase_if(out.groups, [&](const ShapeGroup& g) { return g.strokes == std::vector{ringed.ring}; }) >
                0)
                out.drawn[ringed.ring] = false;
    return out;
}

}  // namespace

std::vector<Stroke> DrawnInk::rest(const std::vector<Stroke>& strokes) const {
    std::vector<Stroke> out;
    for (size_t i = 0; i < strokes.size(); ++i)
        if (!drawn[i]) out.push_back(strokes[i]);
    return out;
}

std::vector<ReadShape> DrawnInk::shapes(const std::vector<Stroke>& strokes) const {
    std::vector<ReadShape> out;
    for (const ShapeGroup& group : groups) {
        ReadShape shape;
        for (const size_t s : group.strokes) shape.strokes.push_back(strokes[s].id);
        const size_t most = std::min(kMostCandidates, group.reading.candidates.size());
        shape.candidates.assign(group.reading.candidates.begin(),
                                group.reading.candidates.begin() + static_cast<std::ptrdiff_t>(most));
        out.push_back(std::move(shape));
    }
    return out;
}

DrawnInk drawn_ink(const std::vector<Stroke>& strokes, bool all_drawn, const std::vector<Shape>& known,
                   ShapeMemory* memory) {
    ShapeMemory own;
    ShapeMemory& read = memory ? *memory : own;
    const std::vector<InkLine> lines = group_lines(strokes);
    bool diagram = false;
    DrawnInk out = sorted_out(strokes, Sorting(strokes, lines, std::numeric_limits<double>::infinity(), read),
                              all_drawn, known, diagram);
    if (all_drawn || !out.groups.empty() || usual_height(lines) <= kUsualTallestMm) return out;
    // A page of nothing but a drawing: boxes and arrows stand in lines as letters do, which are as high as they are
    // then.
    DrawnInk alone = sorted_out(strokes, Sorting(strokes, lines, kUsualTallestMm, read), false, known, diagram);
    return diagram ? alone : out;
}

std::vector<std::vector<Stroke>> parted_by_figures(const std::vector<Stroke>& writing,
                                                   const std::vector<Shape>& figures) {
    struct Figure {
        std::vector<Point> border;
        Box box;
    };
    std::vector<Figure> enclosing;
    for (const Shape& figure : figures)
        if (is_closed(figure.kind)) enclosing.push_back({outline_of(figure).front(), box_of(figure)});
    std::ranges::sort(enclosing, {}, [](const Figure& f) { return f.box.width() * f.box.height(); });
    std::vector<std::vector<Stroke>> out(enclosing.size() + 1);
    for (const Stroke& stroke : writing) {
        const Point middle = stroke.box().centre();
        const auto about = std::ranges::find_if(
            enclosing, [&](const Figure& f) { return f.box.contains(middle) && inside(f.border, middle); });
        const bool enclosed = about != enclosing.end();
        out[enclosed ? static_cast<size_t>(about - enclosing.begin()) + 1 : 0].push_back(stroke);
    }
    out.erase(std::remove_if(out.begin() + 1, out.end(), [](const auto& ink) { return ink.empty(); }), out.end());
    return out;
}

}  // namespace fernleaf
