// Files kept with a page, and links from page to page: cards.
#pragma once

#include <QString>
#include <functional>
#include <vector>

#include "desk/desk.h"

namespace fernleaf {

// UI thread only.
class CardsDesk : public Desk {
    Q_OBJECT

public:
    explicit CardsDesk(const DeskParts& parts, QObject* parent = nullptr) : Desk(parts, parent) {}

    // Below what is on the open page; each file is copied into the library.
    void attach(const QStringList& paths);
    // A card that leads to the open page, to be put on others.
    Card link_here() const;
    // A file by the desktop's program for it, from a copy that can't be changed; a page in its place.
    void open(const Card& card);
    void save(const Card& card, const QString& path);
    void find_linked_from(PageId page, const std::function<void(const std::vector<PagePlace>&)>& then);

signals:
    void page_wanted(PageId page);
    void file_ready(const QString& path);  // to be opened
};

}  // namespace fernleaf
