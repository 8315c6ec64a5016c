#include "reading/teaching.h"

#include <oneapi/dnnl/dnnl.h>
#include <algorithm>
#include <cmath>
#include <cstring>

#include "base/edit_distance.h"
#include "base/text.h"
#include "reading/ctc.h"
#include "reading/one_thread.h"

namespace fernleaf {
namespace {

constexpr char kMagic[] = "fernleaf hand 1\n";
constexpr int kShares = 4;   // of the cross-validation
constexpr int kRounds = 16;  // through all examples, at most
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
    Pupil(const ReaderHead& head, int symbols)
        : head_{head.weights.clone(), head.bias.clone()},
          symbols_(symbols),
          weights_(head_.weights),
          bias_(head_.bias) {}
    Pupil(const Pupil&) = delete;
    Pupil& operator=(const Pupil&) = delete;

    const ReaderHead& head() const { return head_; }

    void learn(const Lesson& lesson) {
        const cv::Mat p = scores(head_, lesson.features, symbols_);
        CtcLoss loss = ctc_loss(p, lesson.symbols);
        if (loss.gradient.empty()) return;
        const cv::Mat outer = loss.gradient.reshape(1, lesson.features.rows);
        const cv::Mat by_weights = product(outer, Turned::yes, lesson.features, Turned::no);
        cv::Mat by_bias;
        cv::reduce(outer, by_bias, 0, cv::REDUCE_SUM);
        ++steps_;
        weights_.step(by_weights, steps_);
        bias_.step(by_bias, steps_);
    }

    void round(const std::vector<const Lesson*>& lessons, cv::RNG& random) {
        std::vector<const Lesson*> order = lessons;
        for (size_t i = order.size(); i > 1; --i)
            std::swap(order[i - 1], order[static_cast<size_t>(random.uniform(0, static_cast<int>(i)))]);
        for (const Lesson* lesson : order) learn(*lesson);
    }

    double errors(const Lesson& lesson) const {
        return static_cast<double>(edit_distance(ctc_greedy(scores(head_, lesson.features, symbols_)), lesson.symbols));
    }

private:
    ReaderHead head_;
    int symbols_;
    int steps_ = 0;
    Moved weights_;
    Moved bias_;
};

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

Result<Taught> teach(const Network& network, const std::vector<Example>& examples, const CancelToken& cancel,
                     const Progress& progress) {
    const Error too_few{"Teaching needs ten lines whose text is known, or as much in words."};
    if (!enough_to_teach(examples)) return too_few;
    const Weights& weights = *network.weights();
    const int symbols = weights.alphabet.size();
    std::vector<Lesson> lessons;
    for (const Example& example : examples) {
        if (cancel.cancelled()) return Error{"Teaching was cancelled."};
        Lesson lesson;
        for (const char32_t c : weights.alphabet.spelt(decode_utf8(example.text)))
            lesson.symbols.push_back(weights.alphabet.symbol(c));
        if (lesson.symbols.empty() || std::ranges::find(lesson.symbols, 0) != lesson.symbols.end()) continue;
        if (example.pixels.empty() || example.pixels.type() != CV_8U) continue;
        lesson.features = network.before_layer(example.pixels, weights.layers.size() - 1);
        if (static_cast<size_t>(2 * lesson.features.rows) < lesson.symbols.size()) continue;
        lessons.push_back(std::move(lesson));
    }
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
        Pupil pupil(before, symbols);
        cv::RNG random(kSeed);
        for (int check = 0; check <= kChecks; ++check) {
            for (int i = 0; i < kRoundsBetweenChecks && check > 0; ++i) {
                if (cancel.cancelled()) return Error{"Teaching was cancelled."};
                pupil.round(taught, random);
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
    Pupil pupil(before, symbols);
    cv::RNG random(kSeed);
    std::vector<const Lesson*> all;
    for (const Lesson& lesson : lessons) all.push_back(&lesson);
    const auto rounds = kRoundsBetweenChecks * static_cast<int>(best - wrong.begin());
    for (int i = 0; i < rounds; ++i) {
        if (cancel.cancelled()) return Error{"Teaching was cancelled."};
        pupil.round(all, random);
        if (progress) progress((kShares + (i + 1) / static_cast<double>(rounds)) / (kShares + 1));
    }
    out.head = {pupil.head().weights.clone(), pupil.head().bias.clone()};
    return out;
}

std::shared_ptr<const Weights> with_head(const Weights& weights, const ReaderHead& head) {
    auto taught = std::make_shared<Weights>(weights);  // the other layers' numbers are shared, not copied
    taught->layers.back().weights = head.weights;
    taught->layers.back().bias = head.bias;
    return taught;
}

std::string encode_head(const ReaderHead& head, const Weights& weights) {
    std::string out = kMagic;
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
    const size_t header = sizeof kMagic - 1;
    if (bytes.compare(0, header, kMagic) != 0 || bytes.size() < header + sizeof(uint64_t))
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
