// The page as it was written: draws it, and turns pen, touch and mouse into strokes.
#pragma once

#include <QElapsedTimer>
#include <QImage>
#include <QWidget>
#include <functional>
#include <map>
#include <optional>

#include "desk/session.h"
#include "desk/tools.h"
#include "leaves/leaf_view.h"
#include "leaves/selection.h"
#include "leaves/tile_store.h"

namespace fernleaf {

enum class Tool { pen, eraser, lasso, choose };

class InkLeaf : public QWidget {
    Q_OBJECT

public:
    InkLeaf(Session& session, LeafView& view, QWidget* parent = nullptr);

    void set_tool(Tool tool);
    Tool tool() const { return tool_; }
    void set_pen(const Pen& pen) { pen_ = pen; }
    void set_eraser(const Eraser& eraser);
    void fit_width();
    void set_chosen(WordPlace place);
    void set_hits(const std::vector<Box>& boxes);  // what was looked for, outlined
    void scroll_to(const Box& mm);
    void restyle();

    const Selection& selection() const { return selection_; }
    void select(const std::vector<StrokeId>& strokes);
    void select_all();
    void clear_selection();
    // Changes of what is chosen; each is one step of undo. What comes of it stays chosen.
    void delete_selection(const char* label = "Delete");
    void move_selection(const Affine& by, const char* label);
    void change_pens(const std::function<Pen(Pen)>& change, const char* label);
    void reorder_selection(bool to_front);
    void copy_selection();
    void cut_selection();
    void copy_as_picture();
    void paste();

signals:
    void selection_changed();
    void word_chosen(WordPlace place);
    void pen_touched();  // writing began
    void touched();      // the pen, or whatever takes its place, came down on the leaf
    void erased();       // the eraser was lifted after taking something

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void tabletEvent(QTabletEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool event(QEvent* event) override;

private:
    struct Sample {
        QPointF at;  // leaf px
        float pressure = 0.5F;
        float tilt_x = 0;
        float tilt_y = 0;
    };
    void begin(Tool tool, const Sample& sample);
    void go_on(const Sample& sample);
    void end();
    void write_to(const Sample& sample);
    void erase_to(const Sample& sample);
    void scribble_out(StrokeId newest);
    void take_from(const std::shared_ptr<const DrawnStroke>& shape, Point from, Point to, double radius, Edit& edit);
    void begin_lasso(const Sample& sample, bool rectangle);
    void lasso_to(const Sample& sample);
    void end_lasso();
    void tap(QPointF px);
    void replace_selection(std::vector<Stroke> strokes, const char* label);
    void update_selection();
    bool selection_key(QKeyEvent* event);
    void page_opened();
    void view_changed();
    WordPlace word_at(QPointF px) const;
    QRectF leaf_rect(const Box& mm, double grow_px = 0) const;
    void update_cursor();
    double eraser_radius_px(const Sample& sample);

    Session& session_;
    LeafView& view_;
    TileStore tiles_;
    Tool tool_ = Tool::pen;
    Pen pen_;
    Eraser eraser_;
    bool fitted_ = true;  // keeps fitting the width until the person zooms

    std::optional<Tool> active_;  // what the pen on the page is doing
    Stroke live_;
    QElapsedTimer live_clock_;
    QImage overlay_;                     // the stroke under the pen, drawn as it grows
    std::vector<Stroke> erased_;         // taken from the page since the eraser came down
    std::map<StrokeId, Stroke> pieces_;  // what is left of them
    QElapsedTimer eraser_clock_;
    double eraser_speed_ = 0;  // px/ms
    Selection selection_;
    std::vector<Point> lasso_;  // mm
    bool lasso_rectangle_ = false;
    int taps_ = 0;  // on what is chosen: word, line, paragraph
    QPointF last_px_;
    bool panning_ = false, moved_ = false;

    WordPlace chosen_;
    std::vector<Box> hits_;
};

}  // namespace fernleaf
