// Fernleaf's colours, in a light and a dark scheme, and its icons.
#pragma once

#include <QColor>
#include <QIcon>
#include <QString>

#include "render/page_painter.h"

namespace fernleaf {

struct Theme {
    bool dark = false;
    QColor desk;        // behind the leaves
    QColor ground;      // of the notebooks and of dialogs
    QColor card;        // raised surfaces: cards, fields, menus
    QColor text;        // blue-black ink
    QColor quiet_text;  // second in rank; still readable
    QColor line;        // hairlines
    QColor act;         // moss: what acts
    QColor on_act;      // text upon it
    QColor unsure;      // plum: uncertainty and what needs a person
    QColor hit;         // straw: what was looked for
    QColor chosen;      // ground of what is chosen
    PageScheme page;

    static Theme light();
    static Theme night();
};

// The theme in force; changed by use_theme only, on the UI thread.
const Theme& theme();
void use_theme(const Theme& theme);

// An icon of assets/icons in the theme's colours: quiet when disabled, moss when switched on.
QIcon icon(const QString& name);

}  // namespace fernleaf
