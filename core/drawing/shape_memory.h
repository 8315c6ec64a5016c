// What shapes strokes were read as before: fitting takes most of the time that reading a drawing does, and of one to
// which a stroke was added nearly all is as it was.
//
//   ShapeMemory memory;                                     // of one thread
//   drawn_ink(strokes, false, {}, &memory);                 // later ones fit only what is new
#pragma once

#include <cstdint>
#include <unordered_map>
#include <vector>

#include "drawing/shape_reading.h"

namespace fernleaf {

class ShapeMemory {
public:
    // As read_shape(). Valid until make_room().
    const ShapeReading& read(const std::vector<const Stroke*>& strokes);
    // To be called between drawings: forgets all when very much is known.
    void make_room();
    size_t size() const { return known_.size(); }

private:
    std::unordered_map<uint64_t, ShapeReading> known_;  // by where their points are
};

}  // namespace fernleaf
