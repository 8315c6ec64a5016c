#include "exchange/tray.h"

#include "paper/raster_file.h"
#include "paper/straightening.h"

namespace fernleaf {

Result<IntakeEntry> lay_in_tray(Library& library, const ScannedSheet& sheet, const std::string& name) {
    const std::string png = encode_png(sheet.pixels);
    if (png.empty()) return Error{"The scanned sheet is empty."};
    const auto hash = library.add_file(with_scan_dpi(png, sheet.dpi));
    if (!hash) return hash.error();
    std::vector<IntakeEntry> entries(1);
    entries[0].file = *hash;
    entries[0].name = name;
    const SheetMm size = sheet_mm(static_cast<double>(sheet.pixels.cols) / sheet.pixels.rows);
    entries[0].width_mm = size.width, entries[0].height_mm = size.height;
    if (Status status = library.add_to_intake(entries); !status) return status.error();
    return entries[0];
}

Result<std::vector<IntakeEntry>> find_sheets_of(Library& library, const IntakeEntry& entry, const ScannedSheet& picture,
                                                const FindUpright& upright, const CancelToken& cancel) {
    std::vector<IntakeEntry> out;
    for (const Suggestion& sheet : suggested(picture.pixels, picture.dpi)) {
        if (cancel.cancelled()) return std::vector<IntakeEntry>();
        out.push_back(with_suggestion(entry, set_upright(picture.pixels, sheet, upright)));
    }
    const auto waits = library.suggest_intake(out.front());
    if (!waits) return waits.error();
    if (!*waits) return std::vector<IntakeEntry>();
    std::vector<IntakeEntry> more(out.begin() + 1, out.end());
    if (Status added = library.add_to_intake(more, entry.id); !added) return added.error();
    std::ranges::copy(more, out.begin() + 1);  // with their ids
    return out;
}

}  // namespace fernleaf
