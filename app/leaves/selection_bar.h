// The little tray that stands by what the lasso holds: what can be done with it.
#pragma once

#include <QFrame>
#include <QHBoxLayout>
#include <QToolButton>

#include "leaves/ink_leaf.h"

namespace fernleaf {

class ToolTray;

class SelectionBar : public QFrame {
    Q_OBJECT

public:
    SelectionBar(InkLeaf& leaf, const ToolTray& tray, const LeafView& view);
    void restyle();

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    QToolButton* add(const QString& icon_name, const QString& tip);
    void offer_colours();
    void place();

    InkLeaf& leaf_;
    const ToolTray& tray_;
    const LeafView& view_;
    QHBoxLayout* row_;
    QToolButton* colour_;
    std::vector<QToolButton*> buttons_;
};

}  // namespace fernleaf
