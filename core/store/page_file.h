// A page as a file of its own, without loss: JSON that bundles hold.
//
//   auto page = decode_page(encode_page(*library.take_copy(id)));
//
// {"sheet": {…}, "created_ms", "title", "favourite", "tags": ["…"], "elements": [{"id", "z", "kind", "body"}], "ink":
// [as elements: what elements were made from], "corrections": [{"strokes": [ids], "box": […], "text", "kind"}]}. A body
// is what a library keeps of the element, in base64 where it is a stroke's.
#pragma once

#include <string>

#include "store/library.h"

namespace fernleaf {

std::string encode_page(const PageCopy& page);
// Bytes from anywhere give an error, never a page that makes no sense. Numbers and the notebook are not part of it.
Result<PageCopy> decode_page(const std::string& json);

}  // namespace fernleaf
