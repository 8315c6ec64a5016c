#include "look/language_name.h"

#include <QCoreApplication>
#include <QLocale>

namespace fernleaf {

QString language_name(const std::string& code) {
    if (code == "no") return QCoreApplication::translate("Languages", "Norwegian");
    return QLocale::languageToString(QLocale(QString::fromStdString(code)).language());
}

}  // namespace fernleaf
