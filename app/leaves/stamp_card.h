// The card of stamps: found by words, placed with a click. UI thread only.
#pragma once

#include <QLabel>
#include <QLineEdit>
#include <QListWidget>

#include "desk/stamps_desk.h"
#include "leaves/leaf_card.h"

namespace fernleaf {

class StampCard : public LeafCard {
    Q_OBJECT

public:
    StampCard(StampsDesk& stamps, QWidget* leaf);
    void open();
    void restyle();

signals:
    void wanted(size_t stamp);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void fill();
    void take(const QListWidgetItem* item);
    void offer(const QPoint& at);

    StampsDesk& stamps_;
    QLineEdit* search_;
    QListWidget* list_;
    QLabel* none_;
};

}  // namespace fernleaf
