// "1 word", "3 words": numbers with their noun.
#pragma once

#include <QString>

namespace fernleaf {

inline QString counted(qsizetype number, const QString& one, const QString& many) {
    return QStringLiteral("%1 %2").arg(number).arg(number == 1 ? one : many);
}

}  // namespace fernleaf
