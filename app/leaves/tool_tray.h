// The tray that lies on the ink leaf's lower edge: pens, eraser, choosing, undo and redo.
#pragma once

#include <QFrame>
#include <QToolButton>

#include "leaves/ink_leaf.h"

namespace fernleaf {

class ToolTray : public QFrame {
    Q_OBJECT

public:
    ToolTray(Session& session, QWidget* parent);
    void restyle();
    void select(Tool tool);
    void select_pen(int index);

signals:
    void tool_chosen(Tool tool);
    void pen_chosen(const Pen& pen);
    void fit_wanted();

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    QToolButton* add(const QString& icon_name, const QString& tip, bool switchable);

    std::vector<QToolButton*> pens_;
    QToolButton* eraser_;
    QToolButton* choose_;
    QToolButton* undo_;
    QToolButton* redo_;
    QToolButton* fit_;
    int pen_ = 0;
};

}  // namespace fernleaf
