#include "look/texts.h"

#include <QCoreApplication>
#include <QTranslator>

namespace fernleaf {

void load_texts() {
    auto* english = new QTranslator(qApp);
    if (english->load(QStringLiteral(":/language/fernleaf_en.qm"))) QCoreApplication::installTranslator(english);
}

}  // namespace fernleaf
