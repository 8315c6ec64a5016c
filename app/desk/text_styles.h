// Styles of type a person keeps: those everyone begins with, and their own.
// UI thread only. What the settings hold in another shape is left out.
#pragma once

#include <QString>
#include <vector>

#include "document/text/text_block.h"

namespace fernleaf {

struct KeptStyle {
    QString name;
    TextStyle style;
    int heading = 0;
    bool own = false;  // can be forgotten
};

std::vector<KeptStyle> kept_styles();
// Under a name; one of the same name gives way. The name must hold more than blanks.
void keep_style(const KeptStyle& style);
void forget_style(const QString& name);

constexpr double kPointsPerMm = 72.0 / 25.4;

}  // namespace fernleaf
