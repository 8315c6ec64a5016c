// Graphviz' programs, which work in processes beside us, under limits.
//
//   auto plain = graphviz("dot", "plain", "digraph { a -> b }");
#pragma once

#include "base/helper_process.h"

namespace fernleaf {

// What a program makes of a graph in DOT. Any thread. An error says what to do where graphviz is not installed.
Result<std::string> graphviz(const std::string& program, const std::string& format, const std::string& graph,
                             const ProcessLimits& limits = {}, const CancelToken& cancel = {});

}  // namespace fernleaf
