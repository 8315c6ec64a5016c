#include "capture/addressed_paper.h"

#include <array>

namespace fernleaf {
namespace {

AddressedPaper paper(uint16_t kind, const char* name, double width, double height, Paper pattern, double spacing,
                     int pages) {
    AddressedPaper out{kind, name, {}, pages};
    out.sheet.width_mm = width, out.sheet.height_mm = height, out.sheet.paper = pattern;
    out.sheet.spacing_mm = spacing;
    out.sheet.errands = true;
    return out;
}

}  // namespace

std::span<const AddressedPaper> addressed_papers() {
    static const std::array papers{paper(1, "Pocket notebook", 105, 148, Paper::ruled, 7, 96),
                                   paper(2, "Field notebook", 148, 210, Paper::squared, 5, 120),
                                   paper(3, "Desk pad", 210, 297, Paper::ruled, 8, 60)};
    return papers;
}

const AddressedPaper* addressed_paper(uint16_t kind) {
    for (const AddressedPaper& p : addressed_papers())
        if (p.kind == kind) return &p;
    return nullptr;
}

}  // namespace fernleaf
