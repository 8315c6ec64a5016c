// The card that opens above a pen in the tray: its kind, width and colour, and a swatch to try it on. UI thread only.
#pragma once

#include <QCheckBox>
#include <QGridLayout>
#include <QLabel>
#include <QSlider>
#include <QToolButton>

#include "desk/tools.h"
#include "leaves/leaf_card.h"
#include "leaves/swatch.h"

namespace fernleaf {

class PenCard : public LeafCard {
    Q_OBJECT

public:
    explicit PenCard(QWidget* parent);
    // index: the pen's place in the tray.
    void show_pen(const Tools& tools, int index);
    void restyle();
    int index() const { return index_; }

signals:
    void pen_changed(int index, const TrayPen& pen);
    void palette_changed(const std::vector<uint32_t>& palette);
    void copy_wanted(int index);
    void move_wanted(int index, int by);
    void removal_wanted(int index);

private:
    void show_state();
    void change(const TrayPen& pen);
    void fill_palette();
    void mix_colour();

    TrayPen pen_;
    std::vector<uint32_t> palette_;
    int index_ = 0;
    bool showing_ = false;  // controls follow the pen, not the other way round
    std::vector<QToolButton*> kinds_;
    QLabel *width_label_, *opacity_label_;
    QSlider *width_, *opacity_;
    QCheckBox *pressure_, *chisel_, *sets_;
    QGridLayout* colours_;
    Swatch* swatch_;
    QToolButton *copy_, *left_, *right_, *remove_;
};

}  // namespace fernleaf
