#include "reading/teaching.h"

#include <oneapi/dnnl/dnnl.h>
#include <algorithm>
#include <charconv>
#include <cmath>
#include <cstring>

#include "base/edit_distance.h"
#include "base/text.h"
#include "reading/ctc.h"
#include "reading/one_thread.h"
#include "reading/packed_file.h"
#include "reading/raster.h"

namespace fernleaf {
namespace {

constexpr char kTaughtMagic[] = "fernleaf hand 1\n";
constexpr char kLinesMagic[] = "fernleaf lines 1\n";
constexpr int kShares = 4;   // of the cross-validation
constexpr int kRounds = 12;  // through all examples, at most
constexpr int kRoundsBetweenChecks = 2;
constexpr float kRate = 1e-3F;
constexpr float kPull = 2e-4F;  // back to the head before, each step
constexpr float kMomentum = 0.9F;
constexpr float kSpread = 0.999F;
constexpr double kLeastGain = 0.02;  // of the errors before; less may be chance
constexpr uint64_t kSeed = 20;

struct Lesson {
    cv::Mat features;
    std::vector<int> symbols;
};

enum class Turned { no, yes };

// The product of two matrices, either of them transposed.
cv::Mat product(const cv::Mat& a, Turned turn_a, const cv::Mat& b, Turned turn_b) {
    const OneThread one;
    const int rows = turn_a == Turned::yes ? a.cols : a.rows;
    const int inner = turn_a == Turned::yes ? a.rows : a.cols;
    const int columns = turn_b == Turned::yes ? b.rows : b.cols;
    cv::Mat out(rows, columns, CV_32F);
    dnnl_sgemm(turn_a == Turned::yes ? 'T' : 'N', turn_b == Turned::yes ? 'T' : 'N', rows, columns, inner, 1,
               a.ptr<float>(), a.cols, b.ptr<float>(), b.cols, 0, out.ptr<float>(), columns);
    return out;
}

cv::Mat scores(const ReaderHead& head, const cv::Mat& features, int symbols) {
    cv::Mat out = product(features, Turned::no, head.weights, Turned::yes);
    for (int row = 0; row < out.rows; ++row) out.row(row) += head.bias;
    return to_log_probabilities(out, symbols);
}

// One parameter matrix under Adam.
class Moved {
public:
    explicit Moved(cv::Mat& value)
        : value_(value),
          start_(value.clone()),
          mean_(cv::Mat::zeros(value.size(), CV_32F)),
          square_(cv::Mat::zeros(value.size(), CV_32F)) {}

    void step(const cv::Mat& gradient, int number) {
        const float mean_scale = 1 / (1 - std::pow(kMomentum, static_cast<float>(number)));
        const float square_scale = 1 / (1 - std::pow(kSpread, static_cast<float>(number)));
        auto* value = value_.ptr<float>();
        const auto* start = start_.ptr<float>();
        auto* mean = mean_.ptr<float>();
        auto* square = square_.ptr<float>();
        const auto* g = gradient.ptr<float>();
        for (size_t i = 0; i < value_.total(); ++i) {
            mean[i] += (1 - kMomentum) * (g[i] - mean[i]);
            square[i] += (1 - kSpread) * (g[i] * g[i] - square[i]);
            value[i] -= kRate * mean[i] * mean_scale / (std::sqrt(square[i] * square_scale) + 1e-8F);
            value[i] -= kPull * (value[i] - start[i]);
        }
    }

private:
    cv::Mat& value_;
    cv::Mat start_;
    cv::Mat mean_;
    cv::Mat square_;
};

class Pupil {
public:
    // others: lessons of other hands, rehearsed between this one's.
    Pupil(const ReaderHead& head, int symbols, const std::vector<Lesson>& others)
        : head_{head.weights.clone(), head.bias.clone()},
          symbols_(symbols),
          others_(others),
          random_(kSeed),
          weights_(head_.weights),
          bias_(head_.bias) {}
    Pupil(const Pupil&) = delete;
    Pupil& operator=(const Pupil&) = delete;

    const ReaderHead& head() const { return head_; }

    void round(const std::vector<const Lesson*>& lessons) {
        std::vector<const Lesson*> order = lessons;
        for (size_t i = order.size(); i > 1; --i) std::swap(order[i - 1], order[any_of(i)]);
        for (const Lesson* lesson : order) {
            learn(*lesson);
            if (!others_.empty()) learn(others_[any_of(others_.size())]);
        }
    }

    double errors(const Lesson& lesson) const {
        return static_cast<double>(edit_distance(ctc_greedy(scores(head_, lesson.features, symbols_)), lesson.symbols));
    }

private:
    size_t any_of(size_t count) { return static_cast<size_t>(random_.uniform(0, static_cast<int>(count))); }

    void learn(const Lesson& lesson) {
        const cv::Mat p = scores(head_, lesson.features, symbols_);
        const CtcLoss loss = ctc_loss(p, lesson.symbols);
        if (loss.gradient.empty()) return;
        const cv::Mat outer = loss.gradient.reshape(1, lesson.features.rows);
        const cv::Mat by_weights = product(outer, Turned::yes, lesson.features, Turned::no);
        cv::Mat by_bias;
        cv::reduce(outer, by_bias, 0, cv::REDUCE_SUM);
        ++steps_;
        weights_.step(by_weights, steps_);
        bias_.step(by_bias, steps_);
    }

    ReaderHead head_;
    int symbols_;
    const std::vector<Lesson>& others_;
    cv::RNG random_;
    int steps_ = 0;
    Moved weights_;
    Moved bias_;
};

// What can be learnt from, in the examples' order.
std::vector<Lesson> lessons_of(const Network& network, const std::vector<Example>& examples,
                               const CancelToken& cancel) {
    const Weights& weights = *network.weights();
    std::vector<Lesson> lessons;
    for (const Example& example : examples) {
        if (cancel.cancelled()) break;
        Lesson lesson;
        for (const char32_t c : weights.alphabet.spelt(decode_utf8(example.text)))
            lesson.symbols.push_back(weights.alphabet.symbol(c));
        if (lesson.symbols.empty() || std::ranges::find(lesson.symbols, 0) != lesson.symbols.end()) continue;
        if (example.pixels.empty() || example.pixels.type() != CV_8U) continue;
        lesson.features = network.before_layer(example.pixels, weights.layers.size() - 1);
        if (2 * static_cast<size_t>(lesson.features.rows) < lesson.symbols.size()) continue;
        lessons.push_back(std::move(lesson));
    }
    return lessons;
}

ReaderHead head_of(const Weights& weights) { return {weights.layers.back().weights, weights.layers.back().bias}; }

uint64_t checksum(const Weights& weights) {
    uint64_t hash = 0xCBF29CE484222325U;
    for (size_t i = 0; i + 1 < weights.layers.size(); ++i) {
        const cv::Mat& m = weights.layers[i].weights;
        for (size_t k = 0; k < m.total(); k += 7) {
            uint32_t bits = 0;
            std::memcpy(&bits, m.ptr<float>() + k, sizeof bits);
            hash = (hash ^ bits) * 0x100000001B3U;
        }
    }
    return hash;
}

}  // namespace

bool enough_to_teach(const std::vector<Example>& examples) {
    size_t characters = 0;
    for (const Example& e : examples) characters += decode_utf8(e.text).size();
    return examples.size() >= kFewestExamples && characters >= kFewestCharacters;
}

Result<Taught> teach(const Network& network, const std::vector<Example>& examples,
                     const std::vector<Example>& rehearsal, const CancelToken& cancel, const Progress& progress) {
    const Error too_few{"Teaching needs ten lines whose text is known, or as much in words."};
    const Error cancelled{"Teaching was cancelled."};
    if (!enough_to_teach(examples)) return too_few;
    const Weights& weights = *network.weights();
    const int symbols = weights.alphabet.size();
    const std::vector<Lesson> lessons = lessons_of(network, examples, cancel);
    const std::vector<Lesson> others = lessons_of(network, rehearsal, cancel);
    if (cancel.cancelled()) return cancelled;
    if (lessons.size() < kFewestExamples) return too_few;

    const ReaderHead before = head_of(weights);
    double characters = 0;
    for (const Lesson& lesson : lessons) characters += static_cast<double>(lesson.symbols.size());
    constexpr int kChecks = kRounds / kRoundsBetweenChecks;
    std::vector<double> wrong(kChecks + 1, 0);  // in held-back lines, after so many checks' rounds
    for (int share = 0; share < kShares; ++share) {
        std::vector<const Lesson*> taught, held;
        for (size_t i = 0; i < lessons.size(); ++i)
            (static_cast<int>(i % kShares) == share ? held : taught).push_back(&lessons[i]);
        Pupil pupil(before, symbols, others);
        for (int check = 0; check <= kChecks; ++check) {
            for (int i = 0; i < kRoundsBetweenChecks && check > 0; ++i) {
                if (cancel.cancelled()) return cancelled;
                pupil.round(taught);
            }
            for (const Lesson* lesson : held) wrong[static_cast<size_t>(check)] += pupil.errors(*lesson);
            if (progress) progress((share + check / static_cast<double>(kChecks)) / (kShares + 1));
        }
    }
    const auto best = std::ranges::min_element(wrong);
    Taught out{before, lessons.size(), 100 * wrong[0] / characters, 100 * *best / characters};
    if (*best > (1 - kLeastGain) * wrong[0]) {
        out.errors_after = out.errors_before;
        return out;
    }
    Pupil pupil(before, symbols, others);
    std::vector<const Lesson*> all;
    for (const Lesson& lesson : lessons) all.push_back(&lesson);
    const auto rounds = kRoundsBetweenChecks * static_cast<int>(best - wrong.begin());
    for (int i = 0; i < rounds; ++i) {
        if (cancel.cancelled()) return cancelled;
        pupil.round(all);
        if (progress) progress((kShares + (i + 1) / static_cast<double>(rounds)) / (kShares + 1));
    }
    out.head = {pupil.head().weights.clone(), pupil.head().bias.clone()};
    return out;
}

Result<std::vector<Example>> load_rehearsal(const std::filesystem::path& directory) {
    const auto packed = read_packed(directory / "rehearsal.gz");
    if (!packed) return packed.error();
    const Error damaged{"The lines to rehearse in " + directory.string() + " are damaged."};
    std::string_view rest = *packed;
    if (!rest.starts_with(kLinesMagic)) return damaged;
    rest.remove_prefix(sizeof kLinesMagic - 1);
    std::vector<Example> out;
    while (!rest.empty()) {
        int width = 0;
        const auto [end, problem] = std::from_chars(rest.data(), rest.data() + std::min<size_t>(rest.size(), 8), width);
        const auto line_end = rest.find('\n');
        if (problem != std::errc() || width <= 0 || width > kLongestLinePx || line_end == std::string_view::npos)
            return damaged;
        const auto begin = static_cast<size_t>(end - rest.data()) + 1;
        const size_t size = static_cast<size_t>(width) * kLineHeightPx;
        if (begin >= line_end || rest.size() - line_end - 1 < size + 1) return damaged;
        Example example{cv::Mat(kLineHeightPx, width, CV_8U), std::string(rest.substr(begin, line_end - begin))};
        std::memcpy(example.pixels.data, rest.data() + line_end + 1, size);
        out.push_back(std::move(example));
        rest.remove_prefix(line_end + 1 + size + 1);
    }
    return out;
}

std::shared_ptr<const Weights> with_head(const Weights& weights, const ReaderHead& head) {
    auto taught = std::make_shared<Weights>(weights);  // the other layers' numbers are shared, not copied
    taught->layers.back().weights = head.weights;
    taught->layers.back().bias = head.bias;
    return taught;
}

std::string encode_head(const ReaderHead& head, const Weights& weights) {
    std::string out = kTaughtMagic;
    const uint64_t sum = checksum(weights);
    out.append(reinterpret_cast<const char*>(&sum), sizeof sum);
    for (const cv::Mat& m : {head.weights, head.bias}) {
        cv::Mat halves;
        m.convertTo(halves, CV_16F);
        out.append(halves.ptr<char>(), halves.total() * halves.elemSize());
    }
    return out;
}

Result<ReaderHead> decode_head(const std::string& bytes, const Weights& weights) {
    const ReaderHead base = head_of(weights);
    const size_t header = sizeof kTaughtMagic - 1;
    if (bytes.compare(0, header, kTaughtMagic) != 0 || bytes.size() < header + sizeof(uint64_t))
        return Error{"This is not a hand that Fernleaf has learnt."};
    uint64_t sum = 0;
    std::memcpy(&sum, bytes.data() + header, sizeof sum);
    if (sum != checksum(weights))
        return Error{"This hand was learnt by another version of the reader. Teach it again from its examples."};
    size_t at = header + sizeof sum;
    if (bytes.size() - at != 2 * (base.weights.total() + base.bias.total()))
        return Error{"This learnt hand is damaged."};
    ReaderHead head;
    for (auto [from, to] : {std::pair{&base.weights, &head.weights}, std::pair{&base.bias, &head.bias}}) {
        cv::Mat halves(from->size(), CV_16F);
        std::memcpy(halves.ptr<char>(), bytes.data() + at, 2 * from->total());
        halves.convertTo(*to, CV_32F);
        at += 2 * from->total();
    }
    if (!cv::checkRange(head.weights) || !cv::checkRange(head.bias)) return Error{"This learnt hand is damaged."};
    return head;
}

}  // namespace fernleaf
