// The card beside a chosen plot: its formulas, and what of the numbers is seen. UI thread only.
#pragma once

#include <QCheckBox>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <array>
#include <vector>

#include "leaves/leaf_card.h"
#include "tools/chosen_plot.h"

namespace fernleaf {

class PlotCard : public LeafCard {
    Q_OBJECT

public:
    PlotCard(ChosenPlot& plot, QWidget* leaf);
    void show_plot(bool read_only);

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    struct Row {
        QWidget* all;
        QLabel* colour;
        QLineEdit* formula;
    };
    void add_row();
    void take_formula(size_t row);
    void take_range();
    void complain(const QString& what);

    ChosenPlot& plot_;
    QVBoxLayout* rows_;
    std::vector<Row> shown_;
    QLineEdit* another_;
    QLabel* wrong_;
    std::array<QLineEdit*, 4> range_;  // left, right, bottom, top
    QPushButton* fit_;
    QCheckBox* marks_;
    QLabel* hint_;
};

}  // namespace fernleaf
