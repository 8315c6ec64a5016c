// Templates: pages to begin others with.
#pragma once

#include <QImage>
#include <QString>
#include <functional>
#include <vector>

#include "desk/desk.h"

namespace fernleaf {

// UI thread only.
class TemplatesDesk : public Desk {
    Q_OBJECT

public:
    explicit TemplatesDesk(const DeskParts& parts, QObject* parent = nullptr) : Desk(parts, parent) {}

    void find(const std::function<void(const std::vector<PageTemplate>&)>& then);
    // What pages begun with it look like, twice as fine as so many px at most.
    void draw(TemplateId id, QSize most, const std::function<void(const QImage&)>& then);
    void keep_page(const QString& name);  // the open one
    void rename(TemplateId id, const QString& name);
    void remove(TemplateId id);
    void add_page(TemplateId id);  // begun with it, after the open one

signals:
    void changed();
    void page_wanted(PageId page);
    void page_added(PageId page);

private:
    template <typename Job>
    void change(Job job, const QString& done);
};

}  // namespace fernleaf
