// Both leaves side by side, like the facing pages of an edition: what was written, and what it says. UI thread only.
#pragma once

#include <QLabel>
#include <QSplitter>
#include <QToolButton>

#include "leaves/ink_leaf.h"
#include "leaves/line_lens.h"
#include "leaves/selection_bar.h"
#include "leaves/stamp_card.h"
#include "leaves/text_bar.h"
#include "leaves/text_leaf.h"
#include "leaves/tool_tray.h"

namespace fernleaf {

enum class Shown { ink, spread, text };

class Spread : public QWidget {
    Q_OBJECT

public:
    explicit Spread(Session& session, QWidget* parent = nullptr);

    void show_leaves(Shown shown);
    void show_lens(bool open);
    LineLens* lens() const { return lens_; }
    Shown shown() const { return shown_; }
    InkLeaf* ink() const { return ink_; }
    TextLeaf* text() const { return text_; }
    ToolTray* tray() const { return tray_; }
    SelectionBar* selection_bar() const { return selection_bar_; }
    TextBar* text_bar() const { return text_bar_; }
    StampCard* stamp_card() const { return stamp_card_; }
    void toggle_stamps();
    QSplitter* splitter() const { return splitter_; }
    void restyle();

protected:
    bool eventFilter(QObject* object, QEvent* event) override;

private:
    QWidget* leaf_with_head(QWidget* leaf, const QString& name, const QString& says, QHBoxLayout** head);
    void choose(ReadPlace place);
    void count_unsure();
    void close_stamps();

    Session& session_;
    PageViewport view_;
    QSplitter* splitter_;
    InkLeaf* ink_;
    TextLeaf* text_;
    ToolTray* tray_;
    SelectionBar* selection_bar_;
    TextBar* text_bar_;
    StampCard* stamp_card_;
    LineLens* lens_;
    QWidget* ink_side_;
    QWidget* text_side_;
    std::vector<QLabel*> names_, sayings_;
    QToolButton *unsure_, *stamps_;
    Shown shown_ = Shown::spread;
};

}  // namespace fernleaf
