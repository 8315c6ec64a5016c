// A block of text being written on the page itself: the block's own document under a cursor, at its place, size and
// turn on the leaf. UI thread only.
#pragma once

#include <QGraphicsTextItem>
#include <QGraphicsView>
#include <QTimer>

#include "document/text/text_block.h"
#include "render/page_painter.h"
#include "tools/page_viewport.h"

namespace fernleaf {

class TextEditor : public QGraphicsView {
    Q_OBJECT

public:
    TextEditor(QWidget* leaf, PageViewport& view);

    void open(const TextBlock& block, const PageScheme& scheme);
    void put_cursor(QPointF leaf_px);
    bool is_open() const { return isVisibleTo(parentWidget()); }
    void close_text();  // says closed()
    void drop();        // closes and says nothing: the block is gone
    // As it stands now, laid out; its id is that of the block it was opened with.
    TextBlock block() const;
    // The block was kept under another id, perhaps in another width or place.
    void kept_as(const TextBlock& kept);
    // In a cell of a table Tab is not typed, nor does it leave the editor: stepped() tells.
    void set_in_cell(bool in_cell) { in_cell_ = in_cell; }

    // The style at the cursor, and what the bar changes: of what is selected, else of what is typed next.
    TextStyle style() const;
    void change_style(const std::function<void(TextStyle&)>& change);
    ListKind list() const;
    void set_list_kind(ListKind kind);
    void set_paragraph_heading(int level);
    Align align() const;
    void set_align(Align align);
    void set_fill(std::optional<uint32_t> fill);

signals:
    void moved();    // the frame is elsewhere or larger
    void touched();  // the cursor moved, or the style changed
    void paused();   // something was typed a moment ago, or the focus went elsewhere: it is to be kept
    void closed();
    void stepped(int by);  // to the next cell, or the one before

protected:
    bool event(QEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void drawBackground(QPainter* painter, const QRectF& rect) override;

private:
    void keep_soon();
    void place();

    PageViewport& view_;
    QGraphicsScene scene_;
    QGraphicsTextItem* item_ = nullptr;
    TextBlock block_;
    bool in_cell_ = false;
    PageScheme scheme_;
    QTimer pause_;
};

}  // namespace fernleaf
