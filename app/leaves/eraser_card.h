// The card that opens above the eraser in the tray: what it takes, how large it is, and a clean page. UI thread only.
#pragma once

#include <QCheckBox>
#include <QPushButton>
#include <QToolButton>

#include "desk/tools.h"
#include "leaves/leaf_card.h"

namespace fernleaf {

class EraserCard : public LeafCard {
    Q_OBJECT

public:
    explicit EraserCard(QWidget* parent);
    void show_eraser(const Eraser& eraser, bool page_has_ink);

signals:
    void eraser_changed(const Eraser& eraser);
    void clearing_wanted();

private:
    void change(const Eraser& eraser);
    void show_state();

    Eraser eraser_;
    std::vector<QToolButton*> takes_, sizes_;
    QCheckBox *highlighter_only_, *then_back_, *scribbles_;
    QPushButton* clear_;
};

}  // namespace fernleaf
