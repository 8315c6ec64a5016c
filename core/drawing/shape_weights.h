// What the network in shape_reading.cpp has learnt; written by training/shape_net.py.
#pragma once

#include <array>

#include "document/shape/shape.h"

namespace fernleaf {

constexpr size_t kShapeInputs = 3 * kShapeKinds, kShapeHidden = 32;

// Row by row: one row for each number that comes out of a layer.
extern const std::array<float, kShapeInputs * kShapeHidden> kFirstWeights;
extern const std::array<float, kShapeHidden> kFirstBias;
extern const std::array<float, kShapeHidden * kShapeHidden> kSecondWeights;
extern const std::array<float, kShapeHidden> kSecondBias;
extern const std::array<float, kShapeHidden * kShapeKinds> kThirdWeights;
extern const std::array<float, kShapeKinds> kThirdBias;

}  // namespace fernleaf
