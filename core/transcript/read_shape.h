// What some strokes draw, with what else it may be.
#pragma once

#include <vector>

#include "document/shape/shape.h"
#include "ink/stroke.h"

namespace fernleaf {

struct ShapeCandidate {
    Shape shape;
    double certainty =
        0;             // 0 to 1; those of a reading add up to at most 1; 1: a person said so, whatever the others have
    double error = 0;  // mm: root of the mean square of how far the ink lies from the shape
    friend bool operator==(const ShapeCandidate&, const ShapeCandidate&) = default;
};

struct ReadShape {
    std::vector<StrokeId> strokes;
    std::vector<ShapeCandidate> candidates;  // best first, one a kind; never empty
    const ShapeCandidate& best() const { return candidates.front(); }
    friend bool operator==(const ReadShape&, const ReadShape&) = default;
};

}  // namespace fernleaf
