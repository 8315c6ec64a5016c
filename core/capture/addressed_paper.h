// Paper whose pages a pen can tell apart: what sheets of each kind look like.
//
//   const AddressedPaper* paper = addressed_paper(address.paper);
//   if (!paper) ...                 // a kind that is not known: a plain sheet
#pragma once

#include <span>
#include <string>

#include "document/sheet.h"

namespace fernleaf {

struct AddressedPaper {
    uint16_t kind = 0;
    std::string name;  // "Field notebook"
    Sheet sheet;
    int pages = 0;  // of one notebook
};

std::span<const AddressedPaper> addressed_papers();
const AddressedPaper* addressed_paper(uint16_t kind);  // null: not known

}  // namespace fernleaf
