// Typing on the page: the editor opens on a block, or begins one, and what is typed is kept while it is typed.
// UI thread only.
#pragma once

#include "tools/leaf_tool.h"
#include "tools/text_editor.h"

namespace fernleaf {

class TextTool : public LeafTool {
    Q_OBJECT

public:
    TextTool(ToolSurface& surface, TextEditor& editor);

    void begin(const PenSample& sample) override { type_at(sample.at); }
    void go_on(const PenSample&) override {}
    void end() override {}
    void cancel() override {}
    QCursor cursor() const override { return Qt::IBeamCursor; }
    void paint(QPainter&) const override {}

    // On a block: goes on writing it; elsewhere: begins one there, as wide as the page allows.
    void type_at(QPointF px);
    // Undo may take what is being written off the page.
    void page_edited(const Edit& edit);

private:
    void keep();
    // The block that is to be written at a place of the page: in a cell or a figure as wide as that, else as wide as
    // the page allows.
    TextBlock block_for(Point at) const;
    void step(int by);  // to a cell beside; after the last one comes a new row

    TextEditor& editor_;
    TextBlock edited_;          // what is being written, as it is on the page
    bool edited_kept_ = false;  // whether it is on the page
    bool keeping_ = false;      // what is typed becomes part of the page just now
};

}  // namespace fernleaf
