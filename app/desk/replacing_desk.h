// Replacing in typed text, on the open page or in its whole notebook.
#pragma once

#include <QObject>
#include <QString>

#include "desk/desk.h"

namespace fernleaf {

// UI thread only.
class ReplacingDesk : public Desk {
    Q_OBJECT

public:
    explicit ReplacingDesk(const DeskParts& parts, QObject* parent = nullptr) : Desk(parts, parent) {}

    // A step of undo a page; what was found is told.
    void replace_on_page(const QString& find, const QString& by);
    void replace_in_notebook(const QString& find, const QString& by);

signals:
    void page_wanted(PageId page);
};

}  // namespace fernleaf
