// How pictures come into the intake tray.
//
//   auto entry = lay_in_tray(library, sheet, "Scan 1");
//   auto sheets = find_sheets_of(library, *entry, sheet, upright);   // one entry for each sheet in it
#pragma once

#include <opencv2/core.hpp>
#include <string>
#include <vector>

#include "base/cancel.h"
#include "base/result.h"
#include "paper/picture_file.h"
#include "paper/upright.h"
#include "store/library.h"

namespace fernleaf {

// Lays a scanned sheet into a library's intake tray, to be looked at; gives its entry.
Result<IntakeEntry> lay_in_tray(Library& library, const ScannedSheet& sheet, const std::string& name);

// Finds the sheets in an entry's picture: the entry becomes the first, more entries the others after it, each set
// upright. None, and nothing is changed, when it was looked at before, is not in the tray any more, or this was
// cancelled.
Result<std::vector<IntakeEntry>> find_sheets_of(Library& library, const IntakeEntry& entry, const ScannedSheet& picture,
                                                const FindUpright& upright = {}, const CancelToken& cancel = {});

}  // namespace fernleaf
