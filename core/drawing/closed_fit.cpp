#include "drawing/closed_fit.h"

#include <array>
#include <opencv2/imgproc.hpp>
#include <optional>

namespace fernleaf {
namespace {

constexpr size_t kMostCorners = 12;
constexpr double kDiamondOff = 18;  // degrees a diamond's diagonals may be off level and upright
constexpr double kUpright = 12;     // less, with sides alike, and it is no other quadrilateral
constexpr double kSidesAlike = 0.8;
constexpr double kStarDepth = 1.25;      // times as far from the middle the points are as what is between them
constexpr double kLeastRounding = 0.12;  // of a rounded rectangle's shorter side
constexpr double kMostRounding = 0.5;
constexpr double kRoundEnough = 0.82;              // an ellipse's axes: rounder, and it may be a circle
constexpr double kSquareEnough = 0.8;              // a square's sides
constexpr double kAlike = 0.55;                    // sides of a regular figure, the shortest to the longest
constexpr double kRegular = 5.5, kOfPolygons = 5;  // numbers that form a regular figure, and any, beside 0.9 a corner

double area(const PenPath& p) {
    double out = 0;
    for (size_t i = 0; i < p.size(); ++i) {
        const Point a = p[i], b = p[(i + 1) % p.size()];
        out += a.x * b.y - b.x * a.y;
    }
    return out / 2;
}

PenPath clockwise(PenPath p) {
    if (area(p) < 0) std::ranges::reverse(p);
    // The first is the one nearest the top left.
    const auto first = std::ranges::min_element(p, {}, [](Point q) { return q.x + q.y; });
    std::rotate(p.begin(), first, p.end());
    return p;
}

bool convex(const PenPath& p) {
    int left = 0, right = 0;
    for (size_t i = 0; i < p.size(); ++i) {
        const Point a = p[(i + 1) % p.size()] - p[i], b = p[(i + 2) % p.size()] - p[(i + 1) % p.size()];
        (a.x * b.y - a.y * b.x > 0 ? left : right) += 1;
    }
    return left == 0 || right == 0;
}

std::optional<Fit> ellipse_fit(const PenPath& border) {
    std::vector<cv::Point2f> points;
    for (const Point& p : border) points.emplace_back(static_cast<float>(p.x), static_cast<float>(p.y));
    const cv::RotatedRect box = cv::fitEllipseDirect(points);
    if (!std::isfinite(box.size.width) || !std::isfinite(box.size.height) || box.size.width <= 0 ||
        box.size.height <= 0)
        return std::nullopt;
    const Point centre{box.center.x, box.center.y};
    const Point a = turned(Point{box.size.width / 2.0, 0}, box.angle, {}),
                b = turned(Point{0, box.size.height / 2.0}, box.angle, {});
    Shape shape{ShapeKind::ellipse, clockwise({centre - b, centre + a, centre + b, centre - a})};
    // The first two ends are those from which the long axis is told.
    if (distance(shape.points[1], shape.points[3]) < distance(shape.points[0], shape.points[2]))
        std::rotate(shape.points.begin(), shape.points.begin() + 1, shape.points.end());
    return Fit{shape, distance_off(border, outline_of(shape)), 5};
}

std::optional<Fit> circle_fit(const PenPath& border, const Shape& ellipse) {
    const double a = distance(ellipse.points[0], ellipse.points[2]), b = distance(ellipse.points[1], ellipse.points[3]);
    if (std::min(a, b) < kRoundEnough * std::max(a, b)) return std::nullopt;
    const Point c = (ellipse.points[0] + ellipse.points[2]) * 0.5;
    const double r = (a + b) / 4;
    const Shape shape{ShapeKind::circle, {c - Point{0, r}, c + Point{r, 0}, c + Point{0, r}, c - Point{r, 0}}};
    return Fit{shape, distance_off(border, outline_of(shape)), 3};
}

// A rectangle about a border, its sides where the border's are; turn: degrees. Sides are told by the points that are
// nearest each.
PenPath rectangle_at(const PenPath& border, double turn, Point about) {
    std::array<double, 4> sum{}, count{};
    Box box;
    PenPath level;
    for (const Point& p : border) level.push_back(turned(p, -turn, about)), box.include(level.back());
    // From the box inwards, twice: sides are the mean of what lies nearest to them, corners left out.
    for (int round = 0; round < 2; ++round) {
        sum.fill(0), count.fill(0);
        const double inset_x = 0.12 * box.width(), inset_y = 0.12 * box.height();
        for (const Point& p : level) {
            const std::array<double, 4> away{std::abs(p.y - box.top), std::abs(p.x - box.right),
                                             std::abs(p.y - box.bottom), std::abs(p.x - box.left)};
            const auto side = static_cast<size_t>(std::ranges::min_element(away) - away.begin());
            const bool corner = side % 2 == 0 ? p.x < box.left + inset_x || p.x > box.right - inset_x
                                              : p.y < box.top + inset_y || p.y > box.bottom - inset_y;
            if (corner) continue;
            sum[side] += side % 2 == 0 ? p.y : p.x;
            ++count[side];
        }
        if (std::ranges::find(count, 0) != count.end()) break;
        box = {sum[3] / count[3], sum[0] / count[0], sum[1] / count[1], sum[2] / count[2]};
    }
    PenPath out;
    for (const Point p : {Point{box.left, box.top}, Point{box.right, box.top}, Point{box.right, box.bottom},
                          Point{box.left, box.bottom}})
        out.push_back(turned(p, turn, about));
    return out;
}

// Degrees, -45 to 45: the direction that a quadrilateral's sides share, each weighed by its length.
double shared_turn(const PenPath& corners) {
    double x = 0, y = 0;
    for (size_t i = 0; i < 4; ++i) {
        const Point d = corners[(i + 1) % 4] - corners[i];
        const double t = 4 * std::atan2(d.y, d.x);
        x += length(d) * std::cos(t), y += length(d) * std::sin(t);
    }
    return std::atan2(y, x) / 4 * 180 / std::numbers::pi;
}

void add(std::vector<Fit>& out, const PenPath& border, ShapeKind kind, PenPath corners, double freedom,
         double radius = 0) {
    Shape shape{kind, clockwise(std::move(corners)), radius};
    out.push_back({shape, distance_off(border, outline_of(shape)), freedom});
}

void add_rectangles(std::vector<Fit>& out, const PenPath& border, const PenPath& quad) {
    Point middle;
    for (const Point& p : quad) middle = middle + p * 0.25;
    // The direction is that of the sides or, of rounded ones, of the smallest box about all.
    std::vector<cv::Point2f> points;
    for (const Point& p : border) points.emplace_back(static_cast<float>(p.x), static_cast<float>(p.y));
    const double box_turn = cv::minAreaRect(points).angle;
    PenPath best;
    double least = std::numeric_limits<double>::infinity();
    for (const double turn : {shared_turn(quad), box_turn, 0.0}) {
        const PenPath corners = rectangle_at(border, turn, middle);
        const double error = distance_off(border, outline_of({ShapeKind::rectangle, corners}));
        if (error < least) least = error, best = corners;
    }
    const double wide = distance(best[0], best[1]), high = distance(best[1], best[2]);
    if (std::min(wide, high) <= 0) return;
    add(out, border, ShapeKind::rectangle, best, 5);
    const double off = std::abs(std::remainder(angle_of({ShapeKind::rectangle, best}), 90));
    if (std::min(wide, high) > kSquareEnough * std::max(wide, high) && off < 45 - kDiamondOff) {
        const Point centre = (best[0] + best[2]) * 0.5, u = (best[1] - best[0]) * (1 / wide),
                    v = (best[3] - best[0]) * (1 / high);
        const double half = (wide + high) / 4;
        add(out, border, ShapeKind::square,
            {centre - u * half - v * half, centre + u * half - v * half, centre + u * half + v * half,
             centre - u * half + v * half},
            4);
    }
    Fit rounded;
    rounded.error = std::numeric_limits<double>::infinity();
    for (double part = kLeastRounding; part <= kMostRounding; part += 0.04) {
        const Shape shape{ShapeKind::rounded_rectangle, best, part * std::min(wide, high)};
        const double error = distance_off(border, outline_of(shape));
        if (error < rounded.error) rounded = {{ShapeKind::rounded_rectangle, clockwise(best), shape.radius}, error, 6};
    }
    out.push_back(rounded);
}

bool sides_alike(const PenPath& q) {
    const double a = distance(q[0], q[1]) + distance(q[2], q[3]), b = distance(q[1], q[2]) + distance(q[3], q[0]);
    return std::min(a, b) > kSidesAlike * std::max(a, b);
}

// Quadrilaterals of two and of one pair of parallel sides.
void add_slanted(std::vector<Fit>& out, const PenPath& border, const PenPath& q) {
    bool stands_on_its_corner = false;
    // A diamond's diagonals halve each other, upright and level.
    const Point centre = (q[0] + q[1] + q[2] + q[3]) * 0.25;
    PenPath by_way = q;
    std::ranges::sort(by_way, {}, [&](Point p) { return std::atan2(p.y - centre.y, p.x - centre.x); });
    const Point across = by_way[2] - by_way[0], down = by_way[3] - by_way[1];
    const auto tilt = [](Point d) {
        return std::abs(std::remainder(std::atan2(d.y, d.x) * 180 / std::numbers::pi, 90));
    };
    if (tilt(across) < kDiamondOff && tilt(down) < kDiamondOff && length(across) > 0 && length(down) > 0) {
        const bool level = std::abs(across.x) > std::abs(across.y);
        const Point wide = level ? across : down, high = level ? down : across;
        // Both lean alike: the mean of how far they are off.
        const auto lean = [](Point d, double meant) {
            return std::remainder(std::atan2(d.y, d.x) * 180 / std::numbers::pi - meant, 180);
        };
        const double turn = (lean(wide, 0) + lean(high, 90)) / 2;
        const Point a = turned(Point{length(wide) / 2, 0}, turn, {}), b = turned(Point{0, length(high) / 2}, turn, {});
        add(out, border, ShapeKind::diamond, {centre - b, centre + a, centre + b, centre - a}, 5);
        stands_on_its_corner = std::max(tilt(across), tilt(down)) < kUpright && sides_alike(q);
    }
    if (stands_on_its_corner) return;
    const Point off = (q[0] - q[1] + q[2] - q[3]) * 0.25;
    add(out, border, ShapeKind::parallelogram, {q[0] - off, q[1] + off, q[2] - off, q[3] + off}, 6.5);
    for (const size_t first : {size_t{0}, size_t{1}}) {
        const Point a = q[(first + 1) % 4] - q[first], b = q[(first + 2) % 4] - q[(first + 3) % 4];
        const double la = length(a), lb = length(b);
        if (la <= 0 || lb <= 0 || dot(a, b) <= 0) continue;
        const Point u = (a * (1 / la) + b * (1 / lb)), along = u * (1 / std::max(1e-9, length(u)));
        PenPath t = q;
        const auto lay = [&](size_t i, size_t j) {
            const Point mid = (q[i] + q[j]) * 0.5;
            const double half = dot(q[j] - q[i], along) / 2;
            t[i] = mid - along * half, t[j] = mid + along * half;
        };
        lay(first, (first + 1) % 4), lay((first + 3) % 4, (first + 2) % 4);
        add(out, border, ShapeKind::trapezoid, t, 7.5);
    }
}

bool regular(const PenPath& corners) {
    double shortest = std::numeric_limits<double>::infinity(), longest = 0;
    for (size_t i = 0; i < corners.size(); ++i) {
        const double side = distance(corners[i], corners[(i + 1) % corners.size()]);
        shortest = std::min(shortest, side), longest = std::max(longest, side);
    }
    return shortest > kAlike * longest;
}

// Whether corners are by turns far from the middle and near to it.
bool alternates(const PenPath& corners) {
    if (corners.size() % 2 != 0) return false;
    Point centre;
    for (const Point& p : corners) centre = centre + p * (1.0 / static_cast<double>(corners.size()));
    double even = std::numeric_limits<double>::infinity(), odd = 0, even_far = 0, odd_near = even;
    for (size_t i = 0; i < corners.size(); ++i) {
        const double r = distance(corners[i], centre);
        if (i % 2 == 0)
            even = std::min(even, r), even_far = std::max(even_far, r);
        else
            odd = std::max(odd, r), odd_near = std::min(odd_near, r);
    }
    return even > kStarDepth * odd || odd_near > kStarDepth * even_far;
}

}  // namespace

double distance_off(const PenPath& ink, const std::vector<PenPath>& outline) {
    double sum = 0;
    for (const Point& p : ink) {
        const double d = distance_to(outline, p);
        sum += d * d;
    }
    return std::sqrt(sum / static_cast<double>(ink.size()));
}

std::vector<Fit> closed_fits(const Contour& contour) {
    const PenPath& border = contour.middle;
    std::vector<Fit> out;
    if (const auto ellipse = ellipse_fit(border)) {
        if (const auto circle = circle_fit(border, ellipse->shape)) out.push_back(*circle);
        out.push_back(*ellipse);
    }
    const std::vector<Pieces> pieces = straight_pieces(border, kMostCorners, true);
    for (size_t k = 3; k <= kMostCorners; ++k) {
        if (pieces[k].corners.size() != k) continue;
        const PenPath corners = crossed_sides(border, pieces[k].corners);
        const bool bulges = convex(corners);
        if (k == 3) add(out, border, ShapeKind::triangle, corners, 6);
        if (k == 4) {
            if (bulges) add_rectangles(out, border, corners), add_slanted(out, border, corners);
            add(out, border, ShapeKind::polygon, corners, 9.5);
        }
        // Sides alike are drawn so on purpose: fewer numbers form them.
        const double freedom =
            bulges && k <= 6 && regular(corners) ? kRegular : kOfPolygons + 0.9 * static_cast<double>(k);
        const ShapeKind kind = !bulges || k > 6 ? ShapeKind::polygon
                               : k == 5         ? ShapeKind::pentagon
                                                : ShapeKind::hexagon;
        if (k > 4) add(out, border, kind, corners, freedom);
    }
    const PenPath& outside = contour.outer.empty() ? border : contour.outer;
    const std::vector<Pieces> points = contour.outer.empty() ? pieces : straight_pieces(outside, kMostCorners, true);
    for (const size_t k : {size_t{8}, size_t{10}, size_t{12}}) {
        if (points[k].corners.size() != k) continue;
        const PenPath corners = crossed_sides(outside, points[k].corners);
        if (alternates(corners)) add(out, outside, ShapeKind::star, corners, 8);
    }
    return out;
}

}  // namespace fernleaf
