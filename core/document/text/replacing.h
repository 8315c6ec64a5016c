// Finding and replacing in typed text.
//
//   if (replace_text(block, "gate", "lower gate") > 0) lay_out(block);
#pragma once

#include <string>

#include "document/text/text_block.h"

namespace fernleaf {

// How often it stood there. What takes its place has the style of the first letter it replaces. An empty text is found
// nowhere; matches don't overlap, and none goes from paragraph to paragraph. What the layout knows is not touched.
size_t replace_text(TextBlock& block, const std::string& find, const std::string& by);

}  // namespace fernleaf
