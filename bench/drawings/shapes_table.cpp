#include <chrono>
#include <cstdio>
#include <map>
#include <string>

#include "bench/drawings/tables.h"
#include "demo/drawn_shape.h"
#include "drawing/shape_fits.h"
#include "drawing/shape_reading.h"

namespace fernleaf {

namespace {

struct Drawn {
    std::vector<Stroke> strokes;
    std::vector<const Stroke*> ink() const {
        std::vector<const Stroke*> out;
        for (const Stroke& s : strokes) out.push_back(&s);
        return out;
    }
};

Drawn draw(ShapeKind kind, size_t i, unsigned seed, double careless) {
    std::mt19937 random(seed * 100000 + 1000 * static_cast<unsigned>(kind) + static_cast<unsigned>(i));
    const double size = std::uniform_real_distribution<double>(10, 60)(random);
    return {drawn_by_hand(any_shape(kind, {100, 100}, size, random), {careless, {}}, random)};
}

}  // namespace

void shapes_table(const DrawingsBench& bench) {
    std::printf("shapes told right, among the first three, and what else they were taken for\n");
    size_t all = 0, right = 0, near = 0;
    double seconds = 0;
    for (int k = 0; k < kShapeKinds; ++k) {
        const auto kind = static_cast<ShapeKind>(k);
        size_t good = 0, third = 0;
        std::map<std::string, int> others;
        for (size_t i = 0; i < bench.count; ++i) {
            const Drawn drawn = draw(kind, i, bench.seed, bench.careless);
            const std::vector<const Stroke*> ink = drawn.ink();
            const auto begin = std::chrono::steady_clock::now();
            const ShapeReading reading = read_shape(ink);
            seconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
            if (reading.candidates.empty()) {
                ++others["nothing"];
                continue;
            }
            if (reading.best().shape.kind == kind)
                ++good;
            else
                ++others[std::string(name_of(reading.best().shape.kind))];
            for (size_t c = 0; c < std::min<size_t>(3, reading.candidates.size()); ++c)
                third += reading.candidates[c].shape.kind == kind;
        }
        std::printf("%-18s %5.1f %%  %5.1f %%  ", std::string(name_of(kind)).c_str(),
                    100.0 * static_cast<double>(good) / static_cast<double>(bench.count),
                    100.0 * static_cast<double>(third) / static_cast<double>(bench.count));
        for (const auto& [name, count] : others) std::printf(" %s %d", name.c_str(), count);
        std::printf("\n");
        all += bench.count, right += good, near += third;
    }
    std::printf("%-18s %5.1f %%  %5.1f %%   %.2f ms a shape\n", "all",
                100.0 * static_cast<double>(right) / static_cast<double>(all),
                100.0 * static_cast<double>(near) / static_cast<double>(all),
                1000 * seconds / static_cast<double>(all));
}

void shape_fits_dump(const DrawingsBench& bench) {
    for (int k = 0; k < kShapeKinds; ++k)
        for (size_t i = 0; i < bench.count; ++i) {
            // From hardly to as carelessly as is asked for, evenly.
            const double careless =
                0.5 + (bench.careless - 0.5) * static_cast<double>(i) / static_cast<double>(bench.count);
            const Drawn drawn = draw(static_cast<ShapeKind>(k), i, bench.seed, careless);
            const ShapeFits all = shape_fits(drawn.ink());
            std::printf("L %d\nF", k);
            for (const Fit& fit : all.fits)
                std::printf(" %d %.5f %.1f", static_cast<int>(fit.shape.kind), fit.error / all.scale, fit.freedom);
            std::printf("\n");
        }
}

}  // namespace fernleaf
