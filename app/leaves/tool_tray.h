// The tray that lies on the ink leaf's lower edge: the pens one likes, eraser, lasso, type, room, undo and redo. A
// second click on the pen or eraser in hand, or a right click on any, opens its card. UI thread only.
#pragma once

#include <QButtonGroup>
#include <QToolButton>

#include "desk/tools.h"
#include "leaves/eraser_card.h"
#include "leaves/ink_leaf.h"
#include "leaves/leaf_card.h"
#include "leaves/pen_card.h"
#include "look/wrap_row.h"

namespace fernleaf {

class ToolTray : public LeafCard {
    Q_OBJECT

public:
    // Lies on the leaf, and so do its cards.
    ToolTray(Session& session, InkLeaf& leaf);
    void restyle();
    void select(Tool tool);
    void select_pen(int index);
    // The tool that was in hand before this one.
    void select_previous();
    // Opens the card of what is in hand, or closes it.
    void toggle_card();
    // Pens and eraser are in hand on this leaf, too.
    void serve(InkLeaf* other);
    void set_lens(bool open) { lens_->setChecked(open); }
    void close_cards();
    void place();  // at the leaf's lower edge

    Tool tool() const { return tool_; }
    int pen() const { return pen_; }
    const Tools& tools() const { return tools_; }
    void set_tools(const Tools& tools);  // kept, and in hand at once
    PenCard* pen_card() const { return pen_card_; }
    EraserCard* eraser_card() const { return eraser_card_; }

signals:
    void fit_wanted();
    void lens_toggled(bool open);

private:
    QToolButton* add(const QString& icon_name, const QString& tip, bool switchable);
    void fill_pens();
    void hand_over();
    void open_pen_card(int index);
    void open_eraser_card();
    void place_card(QWidget* card, const QWidget* above);
    void change_pens(std::vector<TrayPen> pens, int chosen);

    Session& session_;
    InkLeaf& leaf_;
    std::vector<InkLeaf*> others_;
    Tools tools_;
    Tool tool_ = Tool::pen;
    Tool before_ = Tool::choose;
    int pen_ = 0;
    void arrange();
    WrapRow* row_;
    QButtonGroup* group_;
    std::vector<QToolButton*> pens_;
    QToolButton* eraser_;
    QToolButton* lasso_;
    QToolButton* text_;
    QToolButton* room_;
    QToolButton* choose_;
    QToolButton* undo_;
    QToolButton* redo_;
    QToolButton* lens_;
    QToolButton* fit_;
    PenCard* pen_card_;
    EraserCard* eraser_card_;
};

}  // namespace fernleaf
