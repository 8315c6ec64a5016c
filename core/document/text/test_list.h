// For tests: a block of text with a list in it.
#pragma once

#include "document/text/text_block.h"

namespace fernleaf {

inline TextBlock test_list() {
    TextBlock block;
    block.paragraphs = {{{{"Tools", {}}}},
                        {{{"saw", {}}}, Align::left, ListKind::number},
                        {{{"wax", {}}}, Align::left, ListKind::number},
                        {{{"tape ", {}}, {"and string", {.bold = true}}}, Align::left, ListKind::check}};
    return block;
}

}  // namespace fernleaf
