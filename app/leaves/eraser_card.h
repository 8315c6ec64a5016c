// The card that opens above the eraser in the tray: what it takes, how large it is, and a clean page.
#pragma once

#include <QCheckBox>
#include <QFrame>
#include <QPushButton>
#include <QToolButton>

#include "desk/tools.h"

namespace fernleaf {

class EraserCard : public QFrame {
    Q_OBJECT

public:
    explicit EraserCard(QWidget* parent);
    void show_eraser(const Eraser& eraser, bool page_has_ink);
    void restyle();

signals:
    void eraser_changed(const Eraser& eraser);
    void clearing_wanted();
    void closed();

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    void change(const Eraser& eraser);
    void show_state();

    Eraser eraser_;
    std::vector<QToolButton*> takes_, sizes_;
    QCheckBox *highlighter_only_, *then_back_, *scribbles_;
    QPushButton* clear_;
};

}  // namespace fernleaf
