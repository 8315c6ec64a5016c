// Photographs and scans that wait to be straightened and filed.
#pragma once

#include <cstdint>
#include <optional>
#include <string>

#include "document/faults.h"
#include "document/page.h"

namespace fernleaf {

using IntakeId = int64_t;

// One sheet, or one page of a file.
struct IntakeEntry {
    IntakeId id = 0;
    std::string file;  // SHA-256 of its content
    std::string name;  // of the file it came in; the person may give another
    int frame = 0;
    Treatment treatment = {};
    bool looked_at = false;              // the sheet was looked for; until then the treatment is none
    double width_mm = 0, height_mm = 0;  // of the page it makes
    Faults faults = {};
    int64_t added_ms = 0;
    std::string failure = {};  // why it could not be looked at; it is not tried again by itself
    friend bool operator==(const IntakeEntry&, const IntakeEntry&) = default;
};

}  // namespace fernleaf
