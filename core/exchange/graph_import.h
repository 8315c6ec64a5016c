// Graphs from files, as fair drawings: DOT (read by graphviz), GraphML, OPML.
//
//   if (looks_like_graph(bytes)) auto page = graph_page(bytes);
//
// Figures get the size their words need, places from drawing/arranging.h, and links that hold.
#pragma once

#include <string>

#include "base/cancel.h"
#include "store/library.h"

namespace fernleaf {

bool looks_like_graph(const std::string& bytes);

constexpr size_t kMostGraphNodes = 1000;

// A page with the graph on it, as large as it needs; its words are blocks of text that are not laid out yet. Fails with
// one sentence, also where there are more nodes than can be drawn, or graphviz is missing or takes too long.
Result<FilledPage> graph_page(const std::string& bytes, const CancelToken& cancel = {});

}  // namespace fernleaf
