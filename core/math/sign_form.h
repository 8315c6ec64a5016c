// The form of a sign in numbers, from its strokes: what the network of sign_network.h sees.
//
// Where on a grid of 12 by 12 the ink runs, apart for four directions, whichever way the pen went (after Bai & Huo, "A
// study on the use of 8-directional features for online handwritten Chinese character recognition", 2005; undirected,
// so that the order and sense of strokes don't matter and traced paper is read like ink), where strokes end, on one of
// 6 by 6, and how large, long and slender it is beside the rest of its formula. Slender signs are widened before
// (aspect-adaptive normalisation: Liu, Nakashima, Sako & Fujisawa, 2004).
#pragma once

#include <array>
#include <span>
#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

constexpr size_t kSignGrid = 12, kSignDirections = 4;
constexpr size_t kSignFormMaps = kSignDirections * kSignGrid * kSignGrid;  // of its numbers the first
constexpr size_t kSignFormNumbers = kSignFormMaps + 6 * 6 + 7;
using SignForm = std::array<float, kSignFormNumbers>;

// strokes: at least one, each with a point. usual_mm: the size of most signs of the formula, over 0 (usual_size()).
SignForm sign_form(std::span<const Stroke* const> strokes, double usual_mm);

// Of strokes that may be many formulas' or one: their longer sides, the middle one; over 0.
double usual_size(std::span<const Stroke* const> strokes);

}  // namespace fernleaf
