#include "ink/grouping.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>
#include <map>
#include <numbers>
#include <numeric>
#include <optional>

#include "base/quantile.h"

namespace fernleaf {
namespace {

// All in multiples of the page's usual stroke height unless a unit is named.
constexpr double kMarkHeight = 0.45;     // lower and narrower strokes are dots, accents, dashes
constexpr double kWordGap = 0.55;        // strokes nearer than this belong to one piece of a word
constexpr double kColumnGap = 5.0;       // a wider gap in a line is the gap between columns
constexpr double kLineTolerance = 0.62;  // how far from a line's course a piece may lie
constexpr double kDrawingHeight = 3.6;
constexpr double kTallestLetter = 7.5;  // a letter with a tall loop and a long tail
constexpr double kLetterReach = 1.5;    // and no farther than this from its neighbours in the line
constexpr double kLoopWidth = 0.6;      // what is narrower may be a bar
constexpr double kLetterCovers = 0.5;   // of its width: what covers more of what is written about it holds it
constexpr double kRuleWidth = 9.0;      // a flat stroke this wide is a rule or an underline
constexpr double kParagraphGap = 3.4;   // between the courses of consecutive lines
constexpr double kSmallestStrokeMm = 0.8;
constexpr size_t kMostTouching =
    20'000;  // strokes; and points of two strokes: beyond these, touching is not looked for
constexpr size_t kMostPointsTouching = 10'000;
constexpr double kTouchMm = 0.25;        // strokes nearer than this touch
constexpr double kTouchedHeight = 1.9;   // of the taller strokes: what touches and is higher together stays apart
constexpr double kMergeTolerance = 0.5;  // how far from a line's course a whole piece of line may lie
constexpr double kLongShare = 0.4;       // of the longest course's ink: courses that tell the distance of lines
constexpr double kWidestPitch = 5;       // lines farther apart tell no more of what belongs to them
constexpr double kPitchShare = 0.35;     // of the distance of lines: what is nearer to a line than this is part of it
constexpr double kInsideShare = 0.7;  // of a small course's height that lies within a larger one's: they are one line
constexpr double kShredGap = 0.6;
constexpr double kMergeGap = 3.0;     // and no farther from it than this
constexpr double kBlankShare = 1.45;  // of the usual distance of lines: farther apart, a new paragraph begins

constexpr size_t kLeastHatching = 10;  // strokes
constexpr double kHatchingShare = 0.85;
constexpr double kStraight = 1.04;  // times its chord: so long is a straight stroke at most
constexpr double kParallel = 0.2;   // radians

InkComponent measured(const Stroke& stroke) {
    InkComponent blot;
    blot.box = stroke.box();
    double sum = 0;
    for (size_t i = 1; i < stroke.points.size(); ++i) {
        const Point a = stroke.points[i - 1].at;
        const Point b = stroke.points[i].at;
        const double d = distance(a, b);
        blot.ink += d;
        sum += d * (a.y + b.y) / 2;
    }
    blot.mean_y = blot.ink > 0 ? sum / blot.ink : blot.box.centre().y;
    return blot;
}

class Sets {  // union-find
public:
    explicit Sets(size_t count) : parent_(count) { std::iota(parent_.begin(), parent_.end(), size_t{0}); }
    size_t root(size_t i) {
        while (parent_[i] != i) i = parent_[i] = parent_[parent_[i]];
        return i;
    }
    void join(size_t a, size_t b) { parent_[root(a)] = root(b); }

private:
    std::vector<size_t> parent_;
};

enum class Touch { none, end_on_path, end_to_end };

// The longest way between two points of a stroke that follow one another.
double longest_step(const Stroke& stroke) {
    double out = 0;
    for (size_t i = 1; i < stroke.points.size(); ++i)
        out = std::max(out, distance(stroke.points[i - 1].at, stroke.points[i].at));
    return out;
}

// Whether a path comes near a place. Far from it as many points are passed by as it takes to come there.
bool comes_near(const InkPoints& path, Point place, double longest_step) {
    for (size_t i = 0; i < path.size();) {
        const double away = distance_to_segment(place, path[i > 0 ? i - 1 : 0].at, path[i].at);
        if (away < kTouchMm) return true;
        i += longest_step > 0 ? std::max<size_t>(1, static_cast<size_t>((away - kTouchMm) / longest_step)) : 1;
    }
    return false;
}

// Whether strokes run on in one another, or an end of one lies on the other's path.
Touch touch(const Stroke& a, const Stroke& b, double step_a, double step_b) {
    for (const InkPoint* end : {&a.points.front(), &a.points.back()})
        for (const InkPoint* other : {&b.points.front(), &b.points.back()})
            if (distance(end->at, other->at) < kTouchMm) return Touch::end_to_end;
    for (const Point end : {a.points.front().at, a.points.back().at})
        if (comes_near(b.points, end, step_b)) return Touch::end_on_path;
    for (const Point end : {b.points.front().at, b.points.back().at})
        if (comes_near(a.points, end, step_a)) return Touch::end_on_path;
    return Touch::none;
}

// Strokes in groups that touch: letters written with several strokes, boxes with their arrows. What would be higher
// than letters are stays apart, so that a loop hanging into the next line does not tie two lines together; drawings
// are high anyhow.
std::vector<std::vector<size_t>> touching_strokes(const std::vector<Stroke>& strokes) {
    std::vector<size_t> order;
    std::vector<Box> boxes(strokes.size());
    std::vector<double> heights, steps(strokes.size());
    for (size_t i = 0; i < strokes.size(); ++i) {
        boxes[i] = strokes[i].box();
        steps[i] = longest_step(strokes[i]);
        if (boxes[i].empty() || !is_valid(strokes[i]) || strokes[i].pen.kind == PenKind::highlighter) continue;
        order.push_back(i);
        if (boxes[i].height() > kSmallestStrokeMm) heights.push_back(boxes[i].height());
    }
    std::ranges::sort(heights);
    if (order.size() > kMostTouching) {  // no page of handwriting: every stroke for itself
        std::vector<std::vector<size_t>> alone;
        for (const size_t i : order) alone.push_back({i});
        return alone;
    }
    const double tall = heights.empty() ? 4.0 : heights[heights.size() * 4 / 5];
    std::ranges::sort(order, {}, [&](size_t i) { return boxes[i].left; });
    Sets sets(strokes.size());
    std::vector<Box> joint = boxes;
    double widest = 0;
    for (const size_t i : order) widest = std::max(widest, boxes[i].width());
    const auto join = [&](size_t a, size_t b) {
        const size_t ra = sets.root(a), rb = sets.root(b);
        if (ra == rb) return;
        Box both = joint[ra];
        both.include(joint[rb]);
        const bool drawing = std::max(joint[ra].height(), joint[rb].height()) > kTouchedHeight * tall;
        if (both.height() > kTouchedHeight * tall && !drawing) return;
        sets.join(ra, rb);
        joint[sets.root(ra)] = both;
    };
    // What runs on in one another goes first: a tail belongs to its letter before it belongs to what it ends on below.
    std::vector<std::pair<size_t, size_t>> crossing;
    for (size_t k = 0; k < order.size(); ++k) {
        const size_t b = order[k];
        for (size_t j = k; j-- > 0;) {
            const size_t a = order[j];
            if (boxes[a].left + widest + kTouchMm < boxes[b].left) break;
            if (!boxes[a].grown(kTouchMm).meets(boxes[b])) continue;
            if (strokes[a].points.size() + strokes[b].points.size() > kMostPointsTouching) continue;
            switch (touch(strokes[a], strokes[b], steps[a], steps[b])) {
                case Touch::end_to_end:
                    join(a, b);
                    break;
                case Touch::end_on_path:
                    crossing.emplace_back(a, b);
                    break;
                case Touch::none:
                    break;
            }
        }
    }
    for (const auto& [a, b] : crossing) join(a, b);
    std::map<size_t, std::vector<size_t>> groups;
    for (const size_t i : order) groups[sets.root(i)].push_back(i);
    std::vector<std::vector<size_t>> out;
    for (auto& [root, members] : groups) out.push_back(std::move(members));
    return out;
}

// A run of strokes that touch or nearly touch: a word or a part of one.
struct Piece {
    std::vector<size_t> strokes;
    InkComponent shape;
};

struct LineHypothesis {
    std::vector<Piece> pieces;
    Box box;
    double height = 0;  // mean height of its pieces

    // Where the line's ink should lie at x: a straight line through its last pieces, flat while there is too little
    // of it to tell a slope.
    double y_at(double x) const {
        const size_t first = pieces.size() > 6 ? pieces.size() - 6 : 0;
        double n = 0, sx = 0, sy = 0, sxx = 0, sxy = 0;
        for (size_t i = first; i < pieces.size(); ++i) {
            const double weight = pieces[i].shape.ink;
            const double px = pieces[i].shape.box.centre().x;
            n += weight, sx += weight * px, sy += weight * pieces[i].shape.mean_y;
            sxx += weight * px * px, sxy += weight * px * pieces[i].shape.mean_y;
        }
        const double mean_x = sx / n;
        const double mean_y = sy / n;
        const double spread = sxx / n - mean_x * mean_x;
        const double span = box.width();
        if (span < 4 * height || spread < height * height) return mean_y;  // one piece has no slope, but for rounding
        const double slope = std::clamp((sxy / n - mean_x * mean_y) / spread, -0.6, 0.6);
        return mean_y + slope * (x - mean_x);
    }
    void add(Piece piece) {
        height = (height * static_cast<double>(pieces.size()) + piece.shape.box.height()) /
                 static_cast<double>(pieces.size() + 1);
        box.include(piece.shape.box);
        pieces.push_back(std::move(piece));
    }
};

double usual_height(const std::vector<InkComponent>& shapes, double smallest) {
    std::vector<std::pair<double, double>> heights;  // height, weight
    double total = 0;
    for (const InkComponent& s : shapes) {
        const double h = s.box.height();
        if (h < smallest) continue;
        // Joined words count for their letters, long drawing strokes do not drown the writing.
        const double weight = std::clamp(s.box.width() / h, 0.5, 4.0);
        heights.emplace_back(h, weight);
        total += weight;
    }
    if (heights.empty()) return 3.0;
    std::ranges::sort(heights);
    double sum = 0;
    for (const auto& [h, weight] : heights)
        if ((sum += weight) >= total / 2) return h;
    return heights.back().first;
}

std::vector<Piece> pieces_of(const std::vector<InkComponent>& shapes, std::vector<size_t> members, double unit) {
    std::ranges::sort(members, {}, [&](size_t i) { return shapes[i].box.left; });
    double widest = 0;
    for (size_t i : members) widest = std::max(widest, shapes[i].box.width());
    Sets sets(members.size());
    for (size_t i = 0; i < members.size(); ++i) {
        const Box& a = shapes[members[i]].box;
        for (size_t k = i + 1; k < members.size(); ++k) {
            const Box& b = shapes[members[k]].box;
            if (b.left > a.left + widest + kWordGap * unit) break;
            const double shared = std::min(a.bottom, b.bottom) - std::max(a.top, b.top);
            const double low = std::min(a.height(), b.height());
            const double means = std::abs(shapes[members[i]].mean_y - shapes[members[k]].mean_y);
            if (b.left - a.right < kWordGap * unit && shared > 0.4 * low && means < 0.8 * unit) sets.join(i, k);
        }
    }
    std::map<size_t, Piece> pieces;
    for (size_t i = 0; i < members.size(); ++i) {
        Piece& piece = pieces[sets.root(i)];
        const InkComponent& s = shapes[members[i]];
        piece.strokes.push_back(members[i]);
        piece.shape.mean_y =
            (piece.shape.mean_y * piece.shape.ink + s.mean_y * (s.ink + 1e-6)) / (piece.shape.ink + s.ink + 1e-6);
        piece.shape.ink += s.ink + 1e-6;
        piece.shape.box.include(s.box);
    }
    std::vector<Piece> out;
    for (auto& [root, piece] : pieces) out.push_back(std::move(piece));
    std::ranges::sort(out, {}, [](const Piece& p) { return p.shape.box.left; });
    return out;
}

std::vector<LineHypothesis> courses_of(std::vector<Piece> pieces, double unit) {
    std::vector<LineHypothesis> courses;
    for (Piece& piece : pieces) {
        LineHypothesis* best = nullptr;
        double nearest = 0;
        for (LineHypothesis& course : courses) {
            const double gap = piece.shape.box.left - course.box.right;
            const double size = std::clamp((course.height + piece.shape.box.height()) / 2, unit, 3 * unit);
            if (gap > kColumnGap * size) continue;
            const double off = std::abs(course.y_at(piece.shape.box.centre().x) - piece.shape.mean_y) / size;
            // A far neighbour must fit better than a near one.
            const double cost = off + std::max(0.0, gap) / (14 * size);
            if (off < kLineTolerance && (!best || cost < nearest)) best = &course, nearest = cost;
        }
        if (!best) best = &courses.emplace_back();
        best->add(std::move(piece));
    }
    return courses;
}

// How much of a course's ink near a box lies above and below: the whole course's box where it has nothing near.
Box neighbourhood(const LineHypothesis& course, const Box& box, double reach) {
    Box near;
    for (const Piece& piece : course.pieces)
        if (piece.shape.box.left < box.right + reach && piece.shape.box.right > box.left - reach)
            near.include(piece.shape.box);
    return near.empty() ? course.box : near;
}

// Where the ink of a whole course should lie at x: near pieces where there are any, else the straight line through all.
double expected_y(const LineHypothesis& course, double x, double unit) {
    double n = 0, sx = 0, sy = 0, sxx = 0, sxy = 0, near = 0, near_y = 0;
    for (const Piece& piece : course.pieces) {
        const double weight = piece.shape.ink;
        const double px = piece.shape.box.centre().x;
        n += weight, sx += weight * px, sy += weight * piece.shape.mean_y;
        sxx += weight * px * px, sxy += weight * px * piece.shape.mean_y;
        if (piece.shape.box.left < x + 8 * unit && piece.shape.box.right > x - 8 * unit)
            near += weight, near_y += weight * piece.shape.mean_y;
    }
    if (near > 0) return near_y / near;
    const double spread = sxx / n - sx / n * sx / n;
    if (course.box.width() < 4 * course.height || spread < course.height * course.height) return sy / n;
    return sy / n + std::clamp((sxy / n - sx / n * sy / n) / spread, -0.6, 0.6) * (x - sx / n);
}

double ink_of(const LineHypothesis& course) {
    double sum = 0;
    for (const Piece& p : course.pieces) sum += p.shape.ink;
    return sum;
}

double mean_y_of(const LineHypothesis& course) {
    double sum = 0;
    for (const Piece& p : course.pieces) sum += p.shape.ink * p.shape.mean_y;
    return sum / std::max(ink_of(course), 1e-9);
}

// The usual distance between the long courses of a page; 0 where there are too few to tell.
double pitch_of(const std::vector<LineHypothesis>& courses, double unit) {
    double most = 0;
    for (const LineHypothesis& course : courses) most = std::max(most, ink_of(course));
    std::vector<double> places, distances;
    for (const LineHypothesis& course : courses)
        if (ink_of(course) > kLongShare * most) places.push_back(mean_y_of(course));
    std::ranges::sort(places);
    for (size_t i = 1; i < places.size(); ++i)
        if (places[i] - places[i - 1] > 0.8 * unit) distances.push_back(places[i] - places[i - 1]);
    if (distances.size() < 2) return 0;
    std::ranges::sort(distances);
    // A form's title and foot are long, and far apart.
    return std::min(distances[(distances.size() - 1) / 2], kWidestPitch * unit);
}

// A course that began a little too high or low (a degree sign, a bullet, a tall first letter) stands for itself at
// first; here it joins the larger one on whose course or in whose height it lies.
void merge_courses(std::vector<LineHypothesis>& courses, double unit) {
    const double pitch = pitch_of(courses, unit);
    std::ranges::sort(courses, std::greater{}, ink_of);
    for (size_t small = courses.size(); small-- > 1;) {
        std::optional<size_t> best;
        double nearest = std::numeric_limits<double>::infinity();
        const Box& box = courses[small].box;
        for (size_t large = 0; large < small; ++large) {
            const LineHypothesis& course = courses[large];
            const double size = std::clamp(std::max(course.height, courses[small].height), unit, 3 * unit);
            const double gap = std::max({0.0, course.box.left - box.right, box.left - course.box.right});
            if (gap > kColumnGap * size) continue;
            const double off = std::abs(expected_y(course, box.centre().x, unit) - mean_y_of(courses[small])) / size;
            const Box near = neighbourhood(course, box, 4 * unit);
            const double shared = std::min(near.bottom, box.bottom) - std::max(near.top, box.top);
            const bool inside = shared > kInsideShare * std::max(box.height(), 0.3 * unit) && gap < kMergeGap * size;
            // What hangs just above or below, too narrow to be a word: a part torn off its letter.
            const bool shred = box.width() < 2 * unit && gap < unit && shared > -kShredGap * unit;
            if (off > std::max(kMergeTolerance, kPitchShare * pitch / size) && !inside && !shred) continue;
            const double cost = off + gap / (14 * size);
            if (cost < nearest) nearest = cost, best = large;
        }
        if (!best) continue;
        for (Piece& piece : courses[small].pieces) courses[*best].add(std::move(piece));
        std::ranges::sort(courses[*best].pieces, {}, [](const Piece& p) { return p.shape.box.left; });
        courses.erase(courses.begin() + static_cast<std::ptrdiff_t>(small));
    }
}

// Index of the line a small mark belongs to: the one whose course lies nearest below or above it.
std::optional<size_t> line_for_mark(const std::vector<LineHypothesis>& courses, const InkComponent& mark, double unit) {
    std::optional<size_t> best;
    double nearest = 2.2;
    for (size_t i = 0; i < courses.size(); ++i) {
        const LineHypothesis& course = courses[i];
        const double aside = std::max({0.0, course.box.left - mark.box.right, mark.box.left - course.box.right});
        double reference = course.y_at(mark.box.centre().x);
        // Within the line the course is that of the pieces around the mark.
        double around = std::numeric_limits<double>::infinity();
        for (const Piece& piece : course.pieces) {
            const double d = std::abs(piece.shape.box.centre().x - mark.box.centre().x);
            if (d < around) around = d, reference = piece.shape.mean_y;
        }
        const double size = std::clamp(course.height, unit, 3 * unit);
        const double up = (reference - mark.mean_y) / size;  // accents lie above their letters more often than below
        const double cost = (up > 0 ? 0.85 * up : -up) + aside / (3 * size);
        if (cost < nearest && aside < kColumnGap * size) nearest = cost, best = i;
    }
    return best;
}

// The line that a piece as high as a drawing is a letter of: one line alone runs through it, with ink beside it (on
// both sides, if it is a mere bar), and it encloses none.
std::optional<size_t> line_for_tall_letter(const std::vector<LineHypothesis>& courses, const InkComponent& tall,
                                           double unit) {
    if (tall.box.height() > kTallestLetter * unit || tall.box.width() > tall.box.height()) return std::nullopt;
    std::optional<size_t> only;
    for (size_t i = 0; i < courses.size(); ++i) {
        const LineHypothesis& course = courses[i];
        double nearest = std::numeric_limits<double>::infinity(), covered = 0, y = 0;
        bool left = false, right = false;
        for (const Piece& piece : course.pieces) {
            const Box& box = piece.shape.box;
            const double gap = std::max({0.0, box.left - tall.box.right, tall.box.left - box.right});
            if (gap < nearest) nearest = gap, y = piece.shape.mean_y;
            if (gap < kLetterReach * unit) (box.centre().x < tall.box.centre().x ? left : right) = true;
            covered += std::max(0.0, std::min(box.right, tall.box.right) - std::max(box.left, tall.box.left));
        }
        if (y < tall.box.top || y > tall.box.bottom || nearest > kLetterReach * unit) continue;
        if (!(left && right) && tall.box.width() < kLoopWidth * unit) return std::nullopt;
        if (only || covered > kLetterCovers * tall.box.width()) return std::nullopt;
        only = i;
    }
    return only;
}

void finish(InkLine& line, const std::vector<InkComponent>& shapes) {
    std::ranges::sort(line.members, {}, [&](size_t i) { return shapes[i].box.left; });
    double n = 0, sx = 0, sy = 0, sxx = 0, sxy = 0;
    std::vector<double> heights;
    for (size_t i : line.members) {
        const InkComponent& s = shapes[i];
        line.box.include(s.box);
        const double weight = s.ink + 1e-6;
        const double x = s.box.centre().x;
        n += weight, sx += weight * x, sy += weight * s.mean_y, sxx += weight * x * x, sxy += weight * x * s.mean_y;
        heights.push_back(s.box.height());
    }
    const double spread = sxx / n - (sx / n) * (sx / n);
    line.size = std::max(median(std::move(heights)), kSmallestStrokeMm);
    if (line.box.width() > 3 * line.size && spread > 0)
        line.slope = std::clamp((sxy / n - sx / n * sy / n) / spread, -1.0, 1.0);
}

// Reading order of boxes by recursive cuts at white columns first, then at white rows (Nagy & Seth 1984).
void cut(const std::vector<Box>& boxes, std::vector<size_t> members, double gutter, std::vector<size_t>& order) {
    const auto split = [&](bool by_column) -> std::optional<std::pair<std::vector<size_t>, std::vector<size_t>>> {
        const auto from = [&](size_t i) { return by_column ? boxes[i].left : boxes[i].top; };
        const auto to = [&](size_t i) { return by_column ? boxes[i].right : boxes[i].bottom; };
        std::ranges::sort(members, {}, from);
        double end = to(members[0]);
        for (size_t i = 1; i < members.size(); ++i) {
            if (from(members[i]) > end + (by_column ? gutter : 0.0))
                return std::pair{std::vector(members.begin(), members.begin() + static_cast<long>(i)),
                                 std::vector(members.begin() + static_cast<long>(i), members.end())};
            end = std::max(end, to(members[i]));
        }
        return std::nullopt;
    };
    if (members.size() > 1) {
        auto parts = split(true);
        if (!parts) parts = split(false);
        if (parts) {
            cut(boxes, std::move(parts->first), gutter, order);
            cut(boxes, std::move(parts->second), gutter, order);
            return;
        }
    }
    std::ranges::sort(members, {}, [&](size_t i) { return boxes[i].top; });
    order.insert(order.end(), members.begin(), members.end());
}

// Gathers lines into blocks and numbers the blocks in reading order.
void assign_regions(std::vector<InkLine>& lines, double unit) {
    if (lines.empty()) return;
    Sets sets(lines.size());
    std::vector<size_t> by_top(lines.size());
    std::iota(by_top.begin(), by_top.end(), size_t{0});
    std::ranges::sort(by_top, {}, [&](size_t i) { return lines[i].box.centre().y; });
    // The usual distance from a line to the next below it: wide rules set lines farther apart than their size tells.
    std::vector<double> distances;
    for (size_t i = 0; i + 1 < by_top.size(); ++i) {
        const InkLine& a = lines[by_top[i]];
        for (size_t k = i + 1; k < by_top.size(); ++k) {
            const InkLine& b = lines[by_top[k]];
            const double apart = b.box.centre().y - a.box.centre().y;
            if (a.drawing || b.drawing || apart < 0.7 * unit ||
                std::min(a.box.right, b.box.right) < std::max(a.box.left, b.box.left))
                continue;
            distances.push_back(apart);
            break;
        }
    }
    double pitch = 0;
    if (distances.size() >= 2) {
        std::ranges::sort(distances);
        pitch = std::min(distances[(distances.size() - 1) / 2], 5 * unit);
    }
    for (size_t i = 0; i < by_top.size(); ++i) {
        for (size_t k = i + 1; k < by_top.size(); ++k) {
            const InkLine& a = lines[by_top[i]];
            const InkLine& b = lines[by_top[k]];
            if (a.drawing || b.drawing) continue;
            const double size = std::max({a.size, b.size, unit});
            const double apart = b.box.centre().y - a.box.centre().y;
            if (apart > 8 * size) break;
            if (apart > (pitch > 0 ? kBlankShare * pitch : kParagraphGap * size) || apart < 0.5 * size) continue;
            const double shared = std::min(a.box.right, b.box.right) - std::max(a.box.left, b.box.left);
            const bool flush = std::abs(a.box.left - b.box.left) < 5 * size && shared > 0;
            if (flush || shared > 0.6 * std::max(a.box.width(), b.box.width())) sets.join(by_top[i], by_top[k]);
        }
    }
    std::map<size_t, Box> blocks;
    for (size_t i = 0; i < lines.size(); ++i) blocks[sets.root(i)].include(lines[i].box);
    std::vector<size_t> roots;
    std::vector<Box> boxes;
    for (const auto& [root, box] : blocks) roots.push_back(root), boxes.push_back(box);
    std::vector<size_t> all(boxes.size()), order;
    std::iota(all.begin(), all.end(), size_t{0});
    cut(boxes, all, 2 * unit, order);
    std::map<size_t, int> number;
    for (size_t i = 0; i < order.size(); ++i) number[roots[order[i]]] = static_cast<int>(i);
    for (size_t i = 0; i < lines.size(); ++i) lines[i].region = number[sets.root(i)];
    std::ranges::sort(lines, [](const InkLine& a, const InkLine& b) {
        if (a.region != b.region) return a.region < b.region;
        return a.box.centre().y != b.box.centre().y ? a.box.centre().y < b.box.centre().y : a.box.left < b.box.left;
    });
}

// Whether a line is hatching: many strokes, nearly all straight and parallel, as no writing has them.
bool is_hatching(const std::vector<Stroke>& strokes, const std::vector<size_t>& members) {
    if (members.size() < kLeastHatching) return false;
    std::vector<double> directions;  // of the straight ones, 0 to pi
    for (const size_t i : members) {
        const auto& points = strokes[i].points;
        const double chord = distance(points.front().at, points.back().at);
        if (chord <= 0 || path_length(strokes[i]) > kStraight * chord) continue;
        const Point d = points.back().at - points.front().at;
        const double angle = std::atan2(d.y, d.x);
        directions.push_back(angle < 0 ? angle + std::numbers::pi : angle);
    }
    if (directions.empty()) return false;
    // Directions close a circle: the most parallel ones are counted about each of them in turn.
    size_t most = 0;
    for (const double a : directions)
        most = std::max<size_t>(most, static_cast<size_t>(std::ranges::count_if(directions, [a](double b) {
                                    const double off = std::abs(a - b);
                                    return std::min(off, std::numbers::pi - off) < kParallel;
                                })));
    return static_cast<double>(most) >= kHatchingShare * static_cast<double>(members.size());
}

}  // namespace

std::vector<InkLine> group_lines(const std::vector<Stroke>& strokes) {
    const std::vector<std::vector<size_t>> touching = touching_strokes(strokes);
    std::vector<InkComponent> blots;
    blots.reserve(touching.size());
    for (const std::vector<size_t>& members : touching) {
        InkComponent blot;
        for (const size_t i : members) {
            const InkComponent one = measured(strokes[i]);
            blot.mean_y = (blot.mean_y * blot.ink + one.mean_y * (one.ink + 1e-6)) / (blot.ink + one.ink + 1e-6);
            blot.ink += one.ink + 1e-6;
            blot.box.include(one.box);
        }
        blots.push_back(blot);
    }
    std::vector<InkLine> lines = group_shapes(blots, kSmallestStrokeMm);
    for (InkLine& line : lines) {
        std::vector<size_t> members;
        for (const size_t b : line.members) members.insert(members.end(), touching[b].begin(), touching[b].end());
        std::ranges::sort(members, {}, [&](size_t i) { return strokes[i].box().left; });
        line.members = std::move(members);
        line.drawing = line.drawing || is_hatching(strokes, line.members);
    }
    return lines;
}

std::vector<InkLine> group_shapes(const std::vector<InkComponent>& shapes, double smallest) {
    const double unit = usual_height(shapes, smallest);

    std::vector<size_t> writing, marks, drawn;
    for (size_t i = 0; i < shapes.size(); ++i) {
        if (shapes[i].box.empty()) continue;
        const Box& box = shapes[i].box;
        const bool flat = box.height() < 0.6 * unit;
        if (box.height() > kDrawingHeight * unit || (flat && box.width() > kRuleWidth * unit))
            drawn.push_back(i);
        else if (box.height() < kMarkHeight * unit && box.width() < 1.6 * unit)
            marks.push_back(i);
        else
            writing.push_back(i);
    }

    std::vector<LineHypothesis> courses = courses_of(pieces_of(shapes, writing, unit), unit);
    merge_courses(courses, unit);
    std::vector<InkLine> lines(courses.size());
    for (size_t i = 0; i < courses.size(); ++i)
        for (const Piece& piece : courses[i].pieces)
            lines[i].members.insert(lines[i].members.end(), piece.strokes.begin(), piece.strokes.end());
    std::vector<size_t> lone;
    for (size_t i : marks) {
        if (const auto line = line_for_mark(courses, shapes[i], unit))
            lines[*line].members.push_back(i);
        else
            lone.push_back(i);
    }
    // Marks near no writing: a line of dots or dashes of its own.
    for (LineHypothesis& course : courses_of(pieces_of(shapes, lone, unit), unit)) {
        InkLine& line = lines.emplace_back();
        for (const Piece& piece : course.pieces)
            line.members.insert(line.members.end(), piece.strokes.begin(), piece.strokes.end());
    }
    std::erase_if(drawn, [&](size_t i) {
        const auto line = line_for_tall_letter(courses, shapes[i], unit);
        if (line) lines[*line].members.push_back(i);
        return line.has_value();
    });
    for (const Piece& piece : pieces_of(shapes, drawn, unit)) {
        InkLine& line = lines.emplace_back();
        line.members = piece.strokes;
        line.drawing = true;
    }
    for (InkLine& line : lines) finish(line, shapes);
    assign_regions(lines, unit);
    return lines;
}

InkLine one_line(const std::vector<Stroke>& strokes) {
    InkLine line;
    std::vector<InkComponent> blots;
    for (size_t i = 0; i < strokes.size(); ++i) {
        blots.push_back(measured(strokes[i]));
        line.members.push_back(i);
    }
    finish(line, blots);
    return line;
}

std::vector<InkLine> group_formulas(const std::vector<Stroke>& strokes) {
    constexpr double kLeastUsualMm = 1, kBetween = 0.6, kBeside = 8;  // of the strokes' usual size
    std::vector<Box> boxes;
    std::vector<double> sizes;
    for (const Stroke& s : strokes) {
        boxes.push_back(s.box());
        sizes.push_back(std::max(boxes.back().width(), boxes.back().height()));
    }
    const double usual = std::max(kLeastUsualMm, median(sizes));
    // Bands from the top, each in pieces from the left.
    const auto parted = [&](std::vector<size_t> of, double gap, double Box::*begin, double Box::*end) {
        std::ranges::sort(of, {}, [&](size_t i) { return boxes[i].*begin; });
        std::vector<std::vector<size_t>> out;
        double reach = -std::numeric_limits<double>::infinity();
        for (const size_t i : of) {
            if (boxes[i].*begin > reach + gap) out.emplace_back();
            out.back().push_back(i);
            reach = std::max(reach, boxes[i].*end);
        }
        return out;
    };
    std::vector<size_t> all(strokes.size());
    std::iota(all.begin(), all.end(), size_t{0});
    std::vector<InkLine> out;
    int region = 0;
    for (const std::vector<size_t>& band : parted(all, kBetween * usual, &Box::top, &Box::bottom))
        for (const std::vector<size_t>& piece : parted(band, kBeside * usual, &Box::left, &Box::right)) {
            std::vector<Stroke> ink;
            for (const size_t i : piece) ink.push_back(strokes[i]);
            InkLine line = one_line(ink);
            for (size_t& member : line.members) member = piece[member];
            line.region = region++;
            out.push_back(std::move(line));
        }
    return out;
}

std::pair<std::vector<Stroke>, std::vector<Stroke>> split_at_widest_gap(std::vector<Stroke> word) {
    if (word.size() < 2) return {};
    std::ranges::sort(word, {}, [](const Stroke& s) { return s.box().centre().x; });
    size_t at = 1;
    double widest = -std::numeric_limits<double>::infinity(), reach = word[0].box().right;
    for (size_t i = 1; i < word.size(); ++i) {
        double begins = std::numeric_limits<double>::infinity();
        for (size_t k = i; k < word.size(); ++k) begins = std::min(begins, word[k].box().left);
        if (begins - reach > widest) widest = begins - reach, at = i;
        reach = std::max(reach, word[i].box().right);
    }
    const auto middle = word.begin() + static_cast<std::ptrdiff_t>(at);
    return {{word.begin(), middle}, {middle, word.end()}};
}

}  // namespace fernleaf
