// Ink Markup Language (W3C Recommendation of 20 September 2011), in and out.
//
//   auto document = read_inkml(bytes);
//   std::string bytes = write_inkml({page});
//
// Read: channels X, Y, F (force), T (time), OTx and OTy (tilt), other channels skipped; explicit values, first and
// second differences; units of length and time, device units with an inkSource's resolution; contexts, brushes,
// canvases and trace groups; of a canvas the annotation "page address", kind of paper, notebook and page: "2 5 17".
// Refused with the reason: mappings and transforms other than identity, traces continued
// elsewhere, references out of the file, entity declarations, values that are no numbers.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "document/page.h"
#include "exchange/ink_sheet.h"

namespace fernleaf {

constexpr size_t kLargestInkmlBytes = 256'000'000;

bool looks_like_inkml(std::string_view bytes);

// One sheet a canvas, in the order the canvases are first written upon; at least one sheet with at least one stroke.
// Where the file gives no unit of length, the usual unit is taken that makes the writing nearest to hand size.
Result<std::vector<InkSheet>> read_inkml(std::string_view bytes);

// Every page is a canvas of its own and a trace group on it.
std::string write_inkml(const std::vector<Page>& pages);

}  // namespace fernleaf
