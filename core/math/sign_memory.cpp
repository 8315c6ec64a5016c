#include "math/sign_memory.h"

#include <algorithm>
#include <cmath>
#include <iterator>
#include <map>
#include <numeric>

#include "math/math_signs.h"

namespace fernleaf {
namespace {

// How alike forms are, as the cosine between their maps: from where on it counts, and how much it counts at most.
constexpr float kAlike = 0.8F, kMostWeight = 0.9F;

std::vector<float> unit_maps(const SignForm& form) {
    std::vector<float> out(form.begin(), form.begin() + kSignFormMaps);
    const float length = std::sqrt(std::inner_product(out.begin(), out.end(), out.begin(), 0.0F));
    for (float& v : out) v /= std::max(length, 1e-6F);
    return out;
}

float alike(const std::vector<float>& a, const std::vector<float>& b) {
    return std::inner_product(a.begin(), a.end(), b.begin(), 0.0F);
}

// The network tells signs of one form together.
size_t taught_as(size_t sign) {
    for (size_t i = 0; i < math_signs().size(); ++i)
        if (!is_twin(i) && (i == sign || std::ranges::find(twins_of(i), sign) != twins_of(i).end())) return i;
    return sign;
}

}  // namespace

bool SignMemory::take(const std::unordered_set<StrokeId>& ink, const std::vector<TaughtSign>& said) {
    std::vector<Known> now, before;
    for (const TaughtSign& sign : said) now.push_back({sign.strokes, unit_maps(sign.form), taught_as(sign.sign)});
    const auto is_its = [&](const Known& known) { return ink.contains(known.strokes.front()); };
    std::ranges::copy_if(known_, std::back_inserter(before), is_its);
    if (now == before) return false;
    std::erase_if(known_, is_its);
    for (Known& sign : now) {
        if (known_.size() == kMost) known_.pop_front();
        known_.push_back(std::move(sign));
    }
    return true;
}

void SignMemory::lean(const SignForm& form, const std::unordered_set<StrokeId>& ink,
                      std::vector<float>& chances) const {
    if (known_.empty()) return;
    const std::vector<float> maps = unit_maps(form);
    std::map<size_t, float> weights;  // by sign
    float all = 0, most = 0;
    for (const Known& known : known_) {
        if (ink.contains(known.strokes.front())) continue;
        const float weight = kMostWeight * std::max(0.0F, (alike(maps, known.maps) - kAlike) / (1 - kAlike));
        float& best = weights[known.sign];
        best = std::max(best, weight);
    }
    for (const auto& [sign, weight] : weights) all += weight, most = std::max(most, weight);
    if (all <= 0) return;
    // Forms of several signs share what one of them would have.
    for (float& chance : chances) chance *= 1 - most;
    for (const auto& [sign, weight] : weights) chances[sign] += most * weight / all;
}

}  // namespace fernleaf
