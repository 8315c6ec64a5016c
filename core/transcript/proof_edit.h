// What a proof mark asks for, as an edit.
//
//   if (auto edit = edit_for_proof_mark(page, reading, proof, stroke, means)) ...   // one step of undo, the mark gone
//   with it
#pragma once

#include <functional>
#include <optional>

#include "document/edit.h"
#include "transcript/proof_mark.h"
#include "transcript/set_in_type.h"

namespace fernleaf {

// What editing needs besides the page: ids for what is new, and how type is set.
struct TypeMeans {
    std::function<int64_t()> new_id;
    std::function<void(TextBlock&)> lay_out;
    MeasureText measure;
};

// None when nothing can be done (no room in the line, a paragraph begins there already): then the stroke is ink like
// any other. The reading is the one the proof was found in.
std::optional<Edit> edit_for_proof_mark(const Page& page, const Reading& reading, const Proof& proof,
                                        const Stroke& mark, const TypeMeans& means);

}  // namespace fernleaf
