// Ticks the box before a line, wherever it stands: typed lists change, boxes in ink and on paper get a tick in ink.
//
//   auto edit = tick(page, todo.line, true, new_id);      // an edit of the page, undone as any other
#pragma once

#include <functional>

#include "document/edit.h"
#include "transcript/reading.h"

namespace fernleaf {

// done: ticked, or not any more. Errors: the line has no box; it is that way already; the box or its tick is not on the
// page any more; a tick on paper, which can't be taken out.
Result<Edit> tick(const Page& page, const ReadLine& line, bool done, const std::function<ElementId()>& new_id);

}  // namespace fernleaf
