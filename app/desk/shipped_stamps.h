// The stamps that come with the application, drawn for it.
#pragma once

#include <QString>
#include <vector>

#include "document/stamp.h"

namespace fernleaf {

struct ShippedStamp {
    const char* name;     // to be translated, in the context "Stamps"
    const char* words;    // more by which it is found; likewise
    const char* drawing;  // ink/drawn_by_rule.h
};

const std::vector<ShippedStamp>& shipped_stamps();

}  // namespace fernleaf
