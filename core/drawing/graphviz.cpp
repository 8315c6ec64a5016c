#include "drawing/graphviz.h"

namespace fernleaf {

Result<std::string> graphviz(const std::string& program, const std::string& format, const std::string& graph,
                             const ProcessLimits& limits, const CancelToken& cancel) {
    if (!is_installed(program)) return Error{"This needs graphviz. Install the package “graphviz” and try again."};
    return output_of(program, {"-T" + format}, graph, limits, cancel);
}

}  // namespace fernleaf
