// The heading of a dialog, in the text face.
#pragma once

#include <QLabel>

#include "render/fonts.h"

namespace fernleaf {

inline QLabel* dialog_heading(const QString& text) {
    auto* heading = new QLabel(text);
    QFont font(kTextFace);
    font.setPixelSize(20);
    font.setWeight(QFont::DemiBold);
    heading->setFont(font);
    return heading;
}

}  // namespace fernleaf
