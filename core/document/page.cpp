#include "document/page.h"

#include <algorithm>
#include <cmath>

namespace fernleaf {
namespace {

constexpr double kEndlessRoomMm = 80;  // below what is on an endless page
constexpr double kEndlessStepMm = 40;

}  // namespace

SheetForPicture sheet_for_picture(double width_mm, double height_mm) {
    const double fit = std::min(1.0, kMostSheetMm / std::max({width_mm, height_mm, kLeastSheetMm}));
    const double w = fit * width_mm, h = fit * height_mm;
    return {std::max(w, kLeastSheetMm), std::max(h, kLeastSheetMm), Box::of(0, 0, w, h)};
}

void make_room_below(Page& page) { make_room_below(page.info, page); }

void make_room_below(PageInfo& sheet, const Elements& added) {
    if (!sheet.endless) return;
    const double bottom = added.empty() ? 0 : std::max(0.0, drawn_box(added).bottom);
    const double wanted = std::ceil((bottom + kEndlessRoomMm) / kEndlessStepMm) * kEndlessStepMm;
    sheet.height_mm = std::max(sheet.height_mm, wanted);
}

std::vector<std::string> language_codes(const std::string& list) {
    std::vector<std::string> codes(1);
    for (const char c : list) {
        if (c != ',' && c != ' ' && c != '+')
            codes.back().push_back(c);
        else if (!codes.back().empty())
            codes.emplace_back();
    }
    if (codes.back().empty()) codes.pop_back();
    return codes;
}

std::string language_list(const std::vector<std::string>& codes) {
    std::string list;
    for (const std::string& code : codes) list += (list.empty() ? "" : ",") + code;
    return list;
}

}  // namespace fernleaf
