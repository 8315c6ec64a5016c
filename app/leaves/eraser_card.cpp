#include "leaves/eraser_card.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QLabel>
#include <QVBoxLayout>

namespace fernleaf {

EraserCard::EraserCard(QWidget* parent) : LeafCard(parent) {
    setObjectName(QStringLiteral("eraserCard"));
    setFixedWidth(336);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 12, 14, 12);
    column->setSpacing(8);
    // A row of words of which one holds.
    const auto choice = [&](const QString& name, std::vector<QToolButton*>& buttons,
                            std::initializer_list<std::pair<QString, QString>> words, auto chosen) {
        auto* row = new QHBoxLayout;
        row->setSpacing(3);
        auto* label = new QLabel(name);
        label->setFixedWidth(46);
        row->addWidget(label);
        auto* group = new QButtonGroup(this);
        for (const auto& [word, tip] : words) {
            auto* button = new QToolButton;
            button->setText(word);
            button->setToolTip(tip);
            button->setAccessibleName(name + ' ' + word);
            button->setCheckable(true);
            button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
            button->setFixedHeight(34);
            button->setStyleSheet(QStringLiteral("padding: 4px 2px;"));
            group->addButton(button);
            row->addWidget(button);
            const int index = static_cast<int>(buttons.size());
            buttons.push_back(button);
            connect(button, &QToolButton::clicked, this, [chosen, index] { chosen(index); });
        }
        column->addLayout(row);
    };
    choice(tr("Takes"), takes_,
           {{tr("parts"), tr("Cuts strokes where the eraser passes")},
            {tr("strokes"), tr("Removes every stroke it touches")},
            {tr("words"), tr("Removes the word it touches")}},
           [this](int i) {
               Eraser e = eraser_;
               e.takes = static_cast<EraserTakes>(i);
               change(e);
           });
    choice(tr("Size"), sizes_,
           {{tr("small"), tr("Small")},
            {tr("middle"), tr("Middle")},
            {tr("large"), tr("Large")},
            {tr("by pace"), tr("Grows with speed and pen pressure")}},
           [this](int i) {
               Eraser e = eraser_;
               e.size = static_cast<EraserSize>(i);
               change(e);
           });
    highlighter_only_ = new QCheckBox(tr("Highlighter only"));
    then_back_ = new QCheckBox(tr("Then return to the previous tool"));
    column->addWidget(highlighter_only_);
    scribbles_ = new QCheckBox(tr("Scribbling over ink with a pen erases it"));
    column->addWidget(then_back_);
    column->addWidget(scribbles_);
    connect(scribbles_, &QCheckBox::toggled, this, [this](bool on) {
        Eraser e = eraser_;
        e.scribbles = on;
        change(e);
    });
    connect(highlighter_only_, &QCheckBox::toggled, this, [this](bool on) {
        Eraser e = eraser_;
        e.highlighter_only = on;
        change(e);
    });
    connect(then_back_, &QCheckBox::toggled, this, [this](bool on) {
        Eraser e = eraser_;
        e.then_back = on;
        change(e);
    });
    clear_ = new QPushButton(tr("Clear the page of its ink"));
    clear_->setProperty("secondary", true);
    column->addWidget(clear_);
    connect(clear_, &QPushButton::clicked, this, &EraserCard::clearing_wanted);
    hide();
}

void EraserCard::show_eraser(const Eraser& eraser, bool page_has_ink) {
    eraser_ = eraser;
    clear_->setEnabled(page_has_ink);
    show_state();
    adjustSize();
    show();
    raise();
    takes_[static_cast<size_t>(eraser_.takes)]->setFocus(Qt::PopupFocusReason);
}

void EraserCard::show_state() {
    takes_[static_cast<size_t>(eraser_.takes)]->setChecked(true);
    sizes_[static_cast<size_t>(eraser_.size)]->setChecked(true);
    highlighter_only_->setChecked(eraser_.highlighter_only);
    then_back_->setChecked(eraser_.then_back);
    scribbles_->setChecked(eraser_.scribbles);
}

void EraserCard::change(const Eraser& eraser) {
    if (eraser == eraser_) return;
    eraser_ = eraser;
    show_state();
    emit eraser_changed(eraser_);
}

}  // namespace fernleaf
