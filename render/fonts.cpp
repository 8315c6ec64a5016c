#include "render/fonts.h"

#include <QDirIterator>
#include <QFontDatabase>

// Resources of a static library are left out by the linker unless something names them. Not inside a namespace: the
// macro declares a global function.
static void init_resources() { Q_INIT_RESOURCE(fonts); }

namespace fernleaf {

void load_fonts() {
    init_resources();
    for (QDirIterator it(QStringLiteral(":/fonts")); it.hasNext();) QFontDatabase::addApplicationFont(it.next());
}

}  // namespace fernleaf
