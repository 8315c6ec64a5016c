// Stamps: pieces kept to be placed again, the person's own and those that come with the application.
#pragma once

#include <QImage>
#include <QObject>
#include <vector>

#include "desk/desk.h"
#include "document/stamp.h"
#include "render/page_painter.h"

namespace fernleaf {

struct ShownStamp {
    Stamp stamp;    // id 0: it comes with the application
    QString words;  // more by which it is found
    QImage picture;
};

// UI thread only, but for what it posts to the disk's.
class StampsDesk : public Desk {
    Q_OBJECT

public:
    explicit StampsDesk(const DeskParts& parts, QObject* parent = nullptr) : Desk(parts, parent) {}

    // Looks for them anew, and draws their pictures in these colours; changed() tells.
    void refresh(const PageScheme& scheme);
    const std::vector<ShownStamp>& all() const { return stamps_; }  // own ones first, the newest before
    // Those of whose name or words each of what was typed begins one.
    std::vector<size_t> found(const QString& typed) const;

    void keep(Elements piece, const QString& name);
    // On the open page, its middle at a place in mm; it is told to be chosen.
    void place(size_t stamp, Point middle);
    void rename(size_t stamp, const QString& name);
    void remove(size_t stamp);

signals:
    void changed();

private:
    void add(const Stamp& stamp, const QString& told);

    std::vector<ShownStamp> stamps_;
    PageScheme scheme_;
};

}  // namespace fernleaf
