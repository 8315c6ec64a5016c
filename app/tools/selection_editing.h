// What is chosen on the ink leaf, and what can be done with it. Each change is one step of undo; what comes of it stays
// chosen.
#pragma once

#include <QKeyEvent>
#include <QObject>
#include <functional>

#include "drawing/aligning.h"
#include "exchange/table_import.h"
#include "tools/crop_frame.h"
#include "tools/leaf_tool.h"
#include "tools/selection.h"

namespace fernleaf {

// Whether what is moved is drawn to where it is in line with other things, or to the paper's grid; kept as settings.
// As what is chosen is copied: elements for other pages, text for other programs.
void copy_to_clipboard(const Elements& elements, const QString& text);

bool snap_to_guides();
bool snap_to_grid();
void set_snapping(bool guides, bool grid);

// UI thread only.
class SelectionEditing : public QObject {
    Q_OBJECT

public:
    explicit SelectionEditing(ToolSurface& surface) : surface_(surface) {}

    const Selection& selection() const { return selection_; }
    Selection& frame() { return selection_; }  // for the tool that pulls at it
    CropFrame& crop_frame() { return crop_; }  // and at this
    int taps() const { return taps_; }         // on what is chosen: word, line, paragraph
    void select(const std::vector<ElementId>& elements, int taps = 0);
    // Part of the uppermost picture that a closed line (mm) lies on, where there is one.
    void select_area(const std::vector<Point>& outline);
    void select_all();
    void clear();

    void remove(const char* label = "Delete");
    void move(const Affine& by, const char* label);
    void change_pens(const std::function<Pen(Pen)>& change, const char* label);
    void recolour(uint32_t colour);
    void change_dividers(const std::function<void(Divider&)>& change);
    void change_shapes(const std::function<void(FairShape&)>& change, const char* label);
    void reshape(const FairShape& shape);  // the one that is chosen
    void align(Alignment alignment);
    void distribute(bool across);
    bool may_link() const;  // two figures are chosen
    void link();
    void reorder(bool to_front);
    bool may_group() const;  // several things that are no group yet
    bool grouped() const;
    void group();  // they are taken together from now on
    void ungroup();
    void lock(bool locked);  // its pictures
    // Opens the crop frame on the one picture chosen, or closes it.
    void crop();
    bool may_crop() const;
    bool cropping() const { return crop_.open(); }
    void keep_crop();  // what the frame shows
    void close_crop();
    void set_in_type(TypePlace place, const std::string& language = {});
    void draw_fair();
    void back_to_ink();
    bool made_from_ink() const;  // some of it
    void copy();
    void cut();
    void copy_as_picture();
    void copy_as_svg();
    void paste();

    void begin_change() { emit changed(); }  // what stands beside what is chosen makes way
    bool key(QKeyEvent* event);              // whether it was one for what is chosen
    void paint(QPainter& painter) const;
    void repaint();

signals:
    void changed();

private:
    void replace(Elements elements, const char* label);
    bool crop_key(QKeyEvent* event);
    void paste_text(const QString& text, Point at);
    void paste_table(const TableRows& rows, Point at);

    ToolSurface& surface_;
    Selection selection_;
    CropFrame crop_;
    int taps_ = 0;
};

}  // namespace fernleaf
