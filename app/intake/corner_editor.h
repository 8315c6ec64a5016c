// A photograph with the border of the sheet in it: corners and sides are dragged under a magnifier, snapping
// to strong edges unless Shift is held, or chosen with Tab and nudged with the arrows (Shift: by ten). UI thread only.
#pragma once

#include <QImage>
#include <QPixmap>
#include <QWidget>
#include <optional>
#include <vector>

#include "document/sheet_outline.h"
#include "paper/edge_line.h"

namespace fernleaf {

class CornerEditor : public QWidget {
    Q_OBJECT

public:
    explicit CornerEditor(QWidget* parent = nullptr);

    // scale: px of the image in one of the file's picture, in which the outline is. No outline: the whole picture.
    void set_picture(const QImage& image, double scale);
    // Strong edges of the photograph, to which corners and sides snap while they are dragged without Shift. px of the
    // file's picture.
    void set_edges(std::vector<EdgeLine> edges) { edges_ = std::move(edges); }
    void set_outline(const std::optional<SheetOutline>& outline);
    const std::optional<SheetOutline>& outline() const { return outline_; }
    QPointF place_of(Point picture_px) const;  // widget px
    int chosen() const { return chosen_; }     // the corner the arrows move; -1 for none

signals:
    void outline_changed(const SheetOutline& outline);  // when it was let go

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool focusNextPrevChild(bool next) override;
    void focusOutEvent(QFocusEvent* event) override;

private:
    QRectF picture_rect() const;
    Point picture_px(QPointF widget) const;
    SheetOutline whole() const;
    void move(Point by, bool snap);  // what is held
    double snap_reach() const;
    Point snapped(Point px) const;
    void paint_magnifier(QPainter& painter, QPointF at);
    bool hold(QPointF at);

    QImage image_;
    std::vector<EdgeLine> edges_;
    QPixmap fitted_;  // to the widget
    double scale_ = 1;
    std::optional<SheetOutline> outline_;
    std::optional<SheetOutline> before_;  // while something is dragged
    int corner_ = -1, side_ = -1;         // held
    int chosen_ = -1;
    Point from_;
};

}  // namespace fernleaf
