// Single steps of reading and keeping ink, by Google Benchmark. One thread.
#include <benchmark/benchmark.h>

#include <opencv2/core.hpp>

#include "demo/hand.h"
#include "ink/grouping.h"
#include "reading/models_directory.h"
#include "reading/reader.h"
#include "store/codec.h"

namespace fernleaf {
namespace {

const Hand& hand() {
    static const Hand loaded = *Hand::load(std::string(FERNLEAF_SOURCE_DIR) + "/demo/hands/mirela.json");
    return loaded;
}

std::vector<Stroke> line_of_25() {
    std::mt19937 random(1);
    return hand().write("the wood is damp at noon.", {20, 30}, {}, random);
}

std::vector<const Stroke*> pointers(const std::vector<Stroke>& strokes) {
    std::vector<const Stroke*> out;
    for (const Stroke& s : strokes) out.push_back(&s);
    return out;
}

Reader& reader() {
    static const std::unique_ptr<Reader> loaded = [] {
        cv::setNumThreads(1);
        auto r = *Reader::load(models_directory());
        (void)static_cast<bool>(r->load_language("en"));
        return r;
    }();
    return *loaded;
}

void draw_a_line(benchmark::State& state) {
    const auto strokes = line_of_25();
    for (auto _ : state) benchmark::DoNotOptimize(draw_line(pointers(strokes), 0));
}
BENCHMARK(draw_a_line)->Unit(benchmark::kMillisecond);

void network_alone(benchmark::State& state) {
    cv::setNumThreads(1);
    const auto network = *Network::load(models_directory());
    const auto strokes = line_of_25();
    const LinePicture picture = draw_line(pointers(strokes), 0);
    for (auto _ : state) benchmark::DoNotOptimize(network->log_probabilities(picture.pixels));
}
BENCHMARK(network_alone)->Unit(benchmark::kMillisecond);

void read_a_line_of_25(benchmark::State& state) {
    const auto strokes = line_of_25();
    const LinePicture picture = draw_line(pointers(strokes), 0);
    for (auto _ : state) benchmark::DoNotOptimize(reader().read(picture, {}));
    state.counters["lines/s"] =
        benchmark::Counter(static_cast<double>(state.iterations()), benchmark::Counter::kIsRate);
}
BENCHMARK(read_a_line_of_25)->Unit(benchmark::kMillisecond);

void group_a_full_page(benchmark::State& state) {
    std::mt19937 random(1);
    std::vector<Stroke> strokes;
    while (strokes.size() < static_cast<size_t>(state.range(0))) {
        const double y = 10 + 4.0 * static_cast<double>(strokes.size()) / 50;
        for (Stroke& s : hand().write("The old press leaves the pulp wetter than the new", {20, y}, {}, random))
            strokes.push_back(std::move(s));
    }
    for (auto _ : state) benchmark::DoNotOptimize(group_lines(strokes));
}
BENCHMARK(group_a_full_page)->Arg(500)->Arg(5000)->Unit(benchmark::kMillisecond);

void encode_a_stroke(benchmark::State& state) {
    const auto strokes = line_of_25();
    for (auto _ : state)
        for (const Stroke& s : strokes) benchmark::DoNotOptimize(encode_points(s.points));
    state.SetItemsProcessed(state.iterations() * static_cast<int64_t>(strokes.size()));
}
BENCHMARK(encode_a_stroke);

}  // namespace
}  // namespace fernleaf

BENCHMARK_MAIN();
