// A tool of the ink leaf: what happens from the pen's coming down until it lifts. The leaf hands it what pen, mouse and
// touch do, and knows nothing of what comes of it.
#pragma once

#include <QCursor>
#include <QObject>
#include <QPainter>

#include "desk/session.h"
#include "tools/page_viewport.h"
#include "tools/tile_store.h"

namespace fernleaf {

// Where the pen is, and how it is held.
struct PenSample {
    QPointF at;  // leaf px
    float pressure = 0.5F;
    float tilt_x = 0;
    float tilt_y = 0;
};

// What a tool needs of the leaf it works on.
class ToolSurface {
public:
    virtual ~ToolSurface() = default;
    virtual Session& session() = 0;
    virtual PageViewport& view() = 0;
    virtual TileStore& tiles() = 0;
    virtual QSize size_px() const = 0;
    virtual double device_ratio() const = 0;
    virtual void refresh_all() = 0;
    virtual void refresh(const QRectF& px) = 0;
    virtual void show_cursor(const QCursor& cursor) = 0;
    // A place for what comes without one, mm.
    virtual Point place_for_new() = 0;

    ReadPlace word_at(QPointF px);   // or near it
    ReadPlace place_at(QPointF px);  // a word or a sign, else a figure of a drawing

    Point page_point(QPointF px) {
        const QPointF mm = view().to_page(px);
        return {mm.x(), mm.y()};
    }
    QRectF leaf_rect(const Box& mm, double grow_px = 0) {
        if (mm.empty()) return {};
        return QRectF(view().to_leaf({mm.left, mm.top}), view().to_leaf({mm.right, mm.bottom}))
            .adjusted(-grow_px, -grow_px, grow_px, grow_px);
    }
};

// UI thread only.
class LeafTool : public QObject {
    Q_OBJECT

public:
    explicit LeafTool(ToolSurface& surface) : surface_(surface) {}

    virtual bool changes_page() const { return true; }  // or only looks and chooses
    virtual void begin(const PenSample& sample) = 0;
    virtual void go_on(const PenSample& sample) = 0;
    virtual void end() = 0;
    virtual void cancel() = 0;  // what is under way comes to nothing
    virtual QCursor cursor() const = 0;
    virtual void paint(QPainter& painter) const = 0;  // what is under way, over the page; leaf px

protected:
    Session& session() const { return surface_.session(); }
    PageViewport& view() const { return surface_.view(); }
    TileStore& tiles() const { return surface_.tiles(); }
    const Page& page() const { return *session().page(); }

    ToolSurface& surface_;
};

}  // namespace fernleaf
