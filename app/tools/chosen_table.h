// The one table that is chosen on the ink leaf, with what stands in its cells: rows and columns come, go, move and are
// sorted. The cell that was tapped last tells which. Each change is one step of undo; the table stays chosen.
#pragma once

#include <QKeyEvent>
#include <QObject>

#include "drawing/table_editing.h"
#include "tools/selection_editing.h"

namespace fernleaf {

// UI thread only.
class ChosenTable : public QObject {
    Q_OBJECT

public:
    ChosenTable(ToolSurface& surface, SelectionEditing& choosing) : surface_(surface), choosing_(choosing) {}

    const FairTable* table() const { return choosing_.selection().table(); }  // null: none is chosen, or several are
    TableCell cell() const { return choosing_.selection().cell().value_or(TableCell{}); }

    // Chooses the table that is at a place, and the cell there; false where there is none, or that cell is chosen.
    bool choose_at(Point at);
    void step(int by);  // to the next cell, or the one before

    void insert(Lines which, bool after);
    bool may_remove(Lines which) const;
    void remove(Lines which);
    bool may_move(Lines which, int by) const;
    void move(Lines which, int by);
    void resize(Lines which, int number, double mm);
    void make_even(Lines which);
    void sort(bool descending);
    void align(Align align);
    void change(const std::function<void(FairTable&)>& change);  // how it looks
    // Words into its cells from the one that is meant on, in place of the type there; it grows as it must.
    void paste(const TableRows& rows);

    bool key(QKeyEvent* event);  // whether it was one for a table

signals:
    void typing_wanted(Point at);  // in the cell that is meant, mm

private:
    // Makes a change that gives back the table's id, and chooses that table and a cell.
    void edit(const char* label, TableCell cell,
              const std::function<FairTableId(EditBuilder&, const FairTable&)>& make);
    void choose(FairTableId id, TableCell cell);
    void tell_too_large();

    ToolSurface& surface_;
    SelectionEditing& choosing_;
};

}  // namespace fernleaf
