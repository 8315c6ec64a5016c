// The page as it was written: draws it, and routes what pen, touch and mouse do to the tool in use. UI thread only.
#pragma once

#include <QTimer>
#include <QWidget>
#include <optional>

#include "desk/session.h"
#include "desk/tools.h"
#include "leaves/hand_rest.h"
#include "tools/choose_tool.h"
#include "tools/chosen_plot.h"
#include "tools/chosen_table.h"
#include "tools/eraser_tool.h"
#include "tools/lasso_tool.h"
#include "tools/pen_tool.h"
#include "tools/replay_painter.h"
#include "tools/room_tool.h"
#include "tools/selection_editing.h"
#include "tools/sound_signs.h"
#include "tools/text_editor.h"
#include "tools/text_tool.h"

namespace fernleaf {

enum class Tool { pen, eraser, lasso, choose, text, room };

class InkLeaf : public QWidget, private ToolSurface {
    Q_OBJECT

public:
    InkLeaf(Session& session, PageViewport& view, QWidget* parent = nullptr);

    void set_tool(Tool tool);
    Tool tool() const { return tool_; }
    bool pen_is_near() const { return pen_near_.isActive(); }  // then the hand that rests does nothing
    void set_pen(const Pen& pen) { pen_.set_pen(pen); }
    void set_eraser(const Eraser& eraser);
    void set_proof_marks(ProofMarks marks) { pen_.set_proof_marks(marks); }  // those that act
    void set_tablet(const Tablet& tablet) { tablet_ = tablet; }
    void fit_width();
    // This one shows a piece of the page magnified: it neither fits the width nor is held within the page's edges.
    void be_lens() { lens_ = true, fitted_ = false; }
    // Where the line lens writes, outlined; empty: nowhere.
    void set_lens_area(const Box& mm);
    void set_chosen(ReadPlace place);
    void set_hits(const std::vector<Box>& boxes);  // what was looked for, outlined
    void scroll_to(const Box& mm);
    void restyle();

    SelectionEditing& choosing() { return choosing_; }
    const Selection& selection() const { return choosing_.selection(); }
    ChosenTable& table() { return table_; }
    ChosenPlot& plot() { return plot_; }
    // Under the pointer, else in the middle of what is seen.
    Point place_for_new() override;
    Point page_place(QPointF px) const;  // on the sheet, of a place on the leaf

    HandRest* hand_rest() const { return hand_rest_; }
    const SoundSigns& sound_signs() const { return sound_signs_; }
    TextEditor* editor() const { return editor_; }

signals:
    void place_chosen(ReadPlace place);
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
    bool focusNextPrevChild(bool next) override;  // Tab goes through the cells of a table that is chosen

private:
    // For the tools.
    Session& session() override { return session_; }
    PageViewport& view() override { return view_; }
    TileStore& tiles() override { return tiles_; }
    QSize size_px() const override { return size(); }
    double device_ratio() const override { return devicePixelRatioF(); }
    void refresh_all() override { update(); }
    void refresh(const QRectF& px) override;
    void show_cursor(const QCursor& cursor) override { setCursor(cursor); }

    LeafTool& tool_of(Tool tool);
    void begin(Tool tool, const PenSample& sample);
    void end();
    void drop();
    bool press_sign(Tool tool, const PenSample& sample);  // whether there is a sound sign
    void go_on(const PenSample& sample);
    void tapped_at(QPointF px);
    void hear_stroke_at(QPointF px);
    void show_writing(const Stroke& so_far);
    void flash(const Box& mm);
    void paint_figure(QPainter& painter, const Shape& shape) const;
    void page_opened();
    void page_edited(const Edit& edit);
    void view_changed();

    Session& session_;
    PageViewport& view_;
    TileStore tiles_;
    SelectionEditing choosing_;
    ChosenTable table_;
    ChosenPlot plot_;
    TextEditor* editor_;
    PenTool pen_;
    EraserTool eraser_;
    LassoTool lasso_;
    RoomTool room_;
    TextTool text_;
    ChooseTool choose_;
    ReplayPainter replay_;
    SoundSigns sound_signs_;
    Tool tool_ = Tool::pen;
    LeafTool* active_ = nullptr;  // what the pen on the page is doing
    // The pen came down on a sound sign: lifted there it plays; moved on, it is what the tool makes of it.
    struct PressedSign {
        int64_t when_ms = 0;
        Tool tool = Tool::pen;
        PenSample sample;
    };
    std::optional<PressedSign> sign_;
    Tablet tablet_;
    HandRest* hand_rest_;
    bool lens_ = false;
    bool hint_shown_ = false;  // "Write here", on an empty page
    Box lens_area_;
    bool fitted_ = true;     // keeps fitting the width until the person zooms
    bool pen_felt_ = false;  // ever
    QTimer pen_near_;        // runs while the pen is felt, and a little longer

    ReadPlace chosen_;
    std::vector<Box> hits_;
    Stroke under_pen_;  // of a smart pen that writes on this page
    Box flashed_;       // where something was just done
    QTimer flash_timer_;
};

}  // namespace fernleaf
