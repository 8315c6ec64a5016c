#include "math/sign_form.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/quantile.h"

namespace fernleaf {
namespace {

constexpr size_t kCells = kSignGrid, kEndCells = 6, kDirections = kSignDirections;
constexpr double kStep = 0.04;  // of the sign's size, between places along the ink
constexpr double kLeastUsualMm = 0.5;
constexpr double kDotMm = 0.05;  // a dot has a size, too

// Adds to the four cells about a place, 0 to 1 each way.
void add_softly(float* cells, size_t side, double x, double y, double amount) {
    const auto wide = static_cast<double>(side);
    const double column = std::clamp(x * wide - 0.5, 0.0, wide - 1.0),
                 row = std::clamp(y * wide - 0.5, 0.0, wide - 1.0);
    const size_t c = std::min(static_cast<size_t>(column), side - 2), r = std::min(static_cast<size_t>(row), side - 2);
    const double right = column - static_cast<double>(c), below = row - static_cast<double>(r);
    cells[r * side + c] += static_cast<float>(amount * (1 - right) * (1 - below));
    cells[r * side + c + 1] += static_cast<float>(amount * right * (1 - below));
    cells[(r + 1) * side + c] += static_cast<float>(amount * (1 - right) * below);
    cells[(r + 1) * side + c + 1] += static_cast<float>(amount * right * below);
}

}  // namespace

double usual_size(std::span<const Stroke* const> strokes) {
    std::vector<double> sizes;
    for (const Stroke* s : strokes) {
        const Box box = s->box();
        sizes.push_back(std::max(box.width(), box.height()));
    }
    return std::max(kLeastUsualMm, median(sizes));
}

SignForm sign_form(std::span<const Stroke* const> strokes, double usual_mm) {
    SignForm out{};
    Box box;
    for (const Stroke* s : strokes) box.include(s->box());
    const double width = std::max(box.width(), kDotMm), height = std::max(box.height(), kDotMm);
    const double larger = std::max(width, height), slender = std::min(width, height) / larger;
    const double lesser = std::sqrt(std::sin(std::numbers::pi / 2 * slender));
    const double across = width < height ? lesser : 1, down = width < height ? 1 : lesser;
    const auto placed = [&](Point p) {
        return Point{0.5 + across * (p.x - box.centre().x) / width, 0.5 + down * (p.y - box.centre().y) / height};
    };
    double way = 0, turned = 0;
    for (const Stroke* stroke : strokes) {
        Point before = placed(stroke->points.front().at);
        add_softly(&out[kDirections * kCells * kCells], kEndCells, before.x, before.y, 1);
        double last_angle = 10;  // none yet
        for (const InkPoint& point : stroke->points) {
            const Point here = placed(point.at);
            const double far = distance(before, here);
            if (far < kStep) continue;
            const double angle = std::atan2(here.y - before.y, here.x - before.x);
            if (last_angle < 10) turned += std::abs(std::remainder(angle - last_angle, 2 * std::numbers::pi));
            last_angle = angle;
            // Between the two directions that are nearest, of four that go either way.
            double direction = angle / std::numbers::pi * kDirections;
            direction -= std::floor(direction / kDirections) * kDirections;
            const size_t first = static_cast<size_t>(direction) % kDirections, second = (first + 1) % kDirections;
            const double part = direction - std::floor(direction);
            const int pieces = static_cast<int>(std::ceil(far / kStep));
            for (int i = 0; i < pieces; ++i) {
                const Point at = before + (here - before) * ((i + 0.5) / pieces);
                add_softly(&out[first * kCells * kCells], kCells, at.x, at.y, (1 - part) * far / pieces);
                add_softly(&out[second * kCells * kCells], kCells, at.x, at.y, part * far / pieces);
            }
            way += far;
            before = here;
        }
        add_softly(&out[kDirections * kCells * kCells], kEndCells, before.x, before.y, 1);
    }
    for (size_t i = 0; i < kDirections * kCells * kCells; ++i) out[i] = std::sqrt(out[i]) * 2;
    size_t at = kDirections * kCells * kCells + kEndCells * kEndCells;
    out[at++] = static_cast<float>(std::log(width / height) / 2);
    out[at++] = static_cast<float>(std::log(width / usual_mm) / 2);
    out[at++] = static_cast<float>(std::log(height / usual_mm) / 2);
    out[at++] = static_cast<float>(std::min<size_t>(strokes.size(), 5)) / 2;
    out[at++] = static_cast<float>(strokes.size() == 1);
    out[at++] = static_cast<float>(std::min(way, 10.0) / 3);
    out[at++] = static_cast<float>(std::min(turned, 40.0) / 10);
    return out;
}

}  // namespace fernleaf
