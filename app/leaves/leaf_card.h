// What lies on a leaf: trays and cards. Pens and mice that miss a button don't write through it on the leaf below.
// UI thread only.
#pragma once

#include <QFrame>

namespace fernleaf {

class LeafCard : public QFrame {
    Q_OBJECT

public:
    explicit LeafCard(QWidget* leaf);

signals:
    void closed();  // Escape or Enter was pressed

protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
};

}  // namespace fernleaf
