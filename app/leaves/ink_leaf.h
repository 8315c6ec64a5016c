// The page as it was written: draws it, and turns pen, touch and mouse into strokes.
#pragma once

#include <QElapsedTimer>
#include <QImage>
#include <QTimer>
#include <QWidget>
#include <functional>
#include <map>
#include <optional>

#include "desk/session.h"
#include "desk/tools.h"
#include "leaves/crop_frame.h"
#include "leaves/hand_rest.h"
#include "leaves/page_viewport.h"
#include "leaves/selection.h"
#include "leaves/text_editor.h"
#include "leaves/tile_store.h"
#include "transcript/inserted_space.h"

namespace fernleaf {

enum class Tool { pen, eraser, lasso, choose, text, room };

class InkLeaf : public QWidget {
    Q_OBJECT

public:
    InkLeaf(Session& session, PageViewport& view, QWidget* parent = nullptr);

    void set_tool(Tool tool);
    Tool tool() const { return tool_; }
    bool pen_is_near() const { return pen_near_.isActive(); }  // then the hand that rests does nothing
    void set_pen(const Pen& pen) { pen_ = pen; }
    void set_eraser(const Eraser& eraser);
    void set_proof_marks(ProofMarks marks) { proof_marks_ = marks; }  // those that act
    void set_tablet(const Tablet& tablet) { tablet_ = tablet; }
    void fit_width();
    // This one shows a piece of the page magnified: it neither fits the width nor is held within the page's edges.
    void be_lens() { lens_ = true, fitted_ = false; }
    // Where the line lens writes, outlined; empty: nowhere.
    void set_lens_area(const Box& mm);
    void set_chosen(WordPlace place);
    void set_hits(const std::vector<Box>& boxes);  // what was looked for, outlined
    void scroll_to(const Box& mm);
    void restyle();

    const Selection& selection() const { return selection_; }
    void select(const std::vector<int64_t>& elements);
    void select_all();
    void clear_selection();
    // Changes of what is chosen; each is one step of undo. What comes of it stays chosen.
    void delete_selection(const char* label = "Delete");
    void move_selection(const Affine& by, const char* label);
    void change_pens(const std::function<Pen(Pen)>& change, const char* label);
    void recolour_selection(uint32_t colour);
    void change_dividers(const std::function<void(Divider&)>& change);
    void reorder_selection(bool to_front);
    void lock_selection(bool locked);  // its pictures
    // Opens the crop frame on the one picture chosen, or closes it.
    void crop_selection();
    bool may_crop() const;
    bool cropping() const { return crop_.open(); }
    void set_selection_in_type(TypePlace place, const std::string& language = {});
    void copy_selection();
    void cut_selection();
    void copy_as_picture();
    void paste();
    // A place for what comes without one: under the pointer, else in the middle of what is seen.
    Point place_for_new() const;
    Point page_place(QPointF px) const;  // on the sheet, of a place on the leaf

    HandRest* hand_rest() const { return hand_rest_; }
    TextEditor* editor() const { return editor_; }

signals:
    void selection_changed();
    void word_chosen(WordPlace place);
    void pen_touched();          // writing began
    void pen_lifted();           // a stroke was written
    void lens_wanted(Point mm);  // the page was clicked where the lens is to go
    void touched();              // the pen, or whatever takes its place, came down on the leaf
    void erased();               // the eraser was lifted after taking something

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
    void drop();
    void write_to(const Sample& sample);
    void erase_to(const Sample& sample);
    bool scribble_out(StrokeId newest);
    void follow_proof_mark(StrokeId newest);
    void flash(const Box& mm);
    void take_from(const std::shared_ptr<const DrawnStroke>& shape, Point from, Point to, double radius, Edit& edit);
    void begin_lasso(const Sample& sample, bool rectangle);
    void lasso_to(const Sample& sample);
    void end_lasso();
    void tap(QPointF px);
    void keep_crop();
    void close_crop();
    bool crop_key(QKeyEvent* event);
    void replace_selection(Elements elements, const char* label);
    void paste_text(const QString& text, Point at);
    void write_text(QPointF px);
    void keep_text();
    void begin_room(QPointF px);
    void room_to(QPointF px);
    void end_room();
    void paint_room(QPainter& painter) const;
    void update_selection();
    bool selection_key(QKeyEvent* event);
    void page_opened();
    void view_changed();
    WordPlace word_at(QPointF px) const;
    QRectF leaf_rect(const Box& mm, double grow_px = 0) const;
    void update_cursor();
    double eraser_radius_px(const Sample& sample);

    Session& session_;
    PageViewport& view_;
    TileStore tiles_;
    Tool tool_ = Tool::pen;
    Pen pen_;
    Eraser eraser_;
    Tablet tablet_;
    ProofMarks proof_marks_;
    bool lens_ = false;
    bool hint_shown_ = false;  // "Write here", on an empty page
    Box lens_area_;
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
    CropFrame crop_;
    std::vector<Point> lasso_;  // mm
    bool lasso_rectangle_ = false;
    int taps_ = 0;  // on what is chosen: word, line, paragraph
    TextEditor* editor_;
    HandRest* hand_rest_;
    TextBlock edited_;                   // what is being written, as it is on the page
    bool keeping_ = false;               // what is typed becomes part of the page just now
    bool edited_kept_ = false;           // whether it is on the page
    std::optional<InsertedSpace> room_;  // being made
    QPointF room_from_, room_to_;
    QPointF last_px_;
    bool pen_felt_ = false;  // ever
    QTimer pen_near_;        // runs while the pen is felt, and a little longer
    bool panning_ = false, moved_ = false;

    WordPlace chosen_;
    std::vector<Box> hits_;
    Box flashed_;  // where something was just done
    QTimer flash_timer_;
};

}  // namespace fernleaf
