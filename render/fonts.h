// The typefaces Fernleaf ships: cuts of Inter for the interface and of Source Serif for what was read, under names of
// their own as the SIL Open Font License asks of changed faces.
#pragma once

#include <QString>

namespace fernleaf {

// Makes the shipped faces known to Qt; once, after the QGuiApplication.
void load_fonts();

inline const QString kInterfaceFace = QStringLiteral("Fernleaf Sans");
inline const QString kTextFace = QStringLiteral("Fernleaf Serif");

}  // namespace fernleaf
