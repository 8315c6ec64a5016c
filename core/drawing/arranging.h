// Arranges a diagram that is drawn fair: its figures are put where their links are short and cross little.
//
//   auto edit = arranged(page, reading, {}, Arrangement::down, new_id);   // one step of undo
//
// The places are graphviz's (dot: layers after Gansner, Koutsofios, North & Vo 1993, "A technique for drawing directed
// graphs"; twopi: rings after Wills 1999), which runs as a process beside us, under limits; links are led by us
// (links.h).
#pragma once

#include <functional>
#include <set>

#include "base/cancel.h"
#include "document/edit.h"
#include "transcript/reading.h"

namespace fernleaf {

enum class Arrangement { down, across, radial };

// Where the middles of nodes go, mm, about any origin. links: from one node to another, by their places in the list.
// Any thread; takes as long as graphviz does, 5 s at most.
Result<std::vector<Point>> arranged_middles(const std::vector<Box>& nodes,
                                            const std::vector<std::pair<size_t, size_t>>& links,
                                            Arrangement arrangement, const CancelToken& cancel = {});

// chosen: the diagram is made of what of it is among these; empty: all that is fair on the page. Figures take what is
// written in them along; words without a frame that links lead to are nodes as well; nothing else on the page moves. An
// error where there is no diagram of fair figures.
Result<Edit> arranged(const Page& page, const Reading& reading, const std::set<ElementId>& chosen,
                      Arrangement arrangement, const std::function<ElementId()>& new_id,
                      const CancelToken& cancel = {});

}  // namespace fernleaf
