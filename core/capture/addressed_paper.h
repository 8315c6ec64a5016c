// Paper whose pages a pen can tell apart: what sheets of each kind look like, and the boxes printed on them.
//
//   const AddressedPaper* paper = addressed_paper(address.paper);
//   if (!paper) ...                 // a kind that is not known: a plain sheet
#pragma once

#include <span>
#include <string>
#include <vector>

#include "base/geometry.h"
#include "document/sheet.h"

namespace fernleaf {

// What a printed box has done with its page.
enum class Errand : uint8_t { send, important, to_do, tag_a, tag_b, tag_c };

struct ErrandBox {
    Errand errand{};
    Box box;  // mm
};

struct AddressedPaper {
    uint16_t kind = 0;
    std::string name;  // "Field notebook"
    Sheet sheet;
    int pages = 0;                   // of one notebook
    std::vector<ErrandBox> errands;  // on every page
};

std::span<const AddressedPaper> addressed_papers();
const AddressedPaper* addressed_paper(uint16_t kind);  // null: not known

}  // namespace fernleaf
