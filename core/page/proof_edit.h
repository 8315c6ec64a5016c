// What a proof mark asks for, as an edit.
//
//   if (auto edit = proofed(page, reading, proof, stroke, means)) ...   // one step of undo, the mark gone with it
#pragma once

#include <functional>
#include <optional>

#include "page/edit.h"
#include "page/proof_mark.h"
#include "page/set_in_type.h"

namespace fernleaf {

// What editing needs besides the page: ids for what is new, and how type is set.
struct TypeMeans {
    std::function<int64_t()> new_id;
    std::function<void(TextBlock&)> lay_out;
    MeasureText measure;
};

// None when nothing can be done (no room in the line, a paragraph begins there already): then the stroke is ink like
// any other. The reading is the one the proof was found in.
std::optional<Edit> proofed(const Page& page, const Reading& reading, const Proof& proof, const Stroke& mark,
                            const TypeMeans& means);

}  // namespace fernleaf
