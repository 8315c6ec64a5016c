// Smart pens: which are near and how they are linked, pairing one, its settings. UI thread only.
#pragma once

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QProgressBar>
#include <QPushButton>
#include <QSlider>
#include <QStackedWidget>

#include "desk/pen_desk.h"

namespace fernleaf {

// How a pen stands, in a few words: "Linked, all taken". Used wherever pens are named.
QString standing_of(const ShownPen& pen);

class PensDialog : public QDialog {
    Q_OBJECT

public:
    explicit PensDialog(PenDesk& pens, bool read_only, QWidget* parent = nullptr);

    QListWidget* list() const { return list_; }
    QLineEdit* passcode() const { return passcode_; }
    QPushButton* pair_button() const { return pair_; }
    QPushButton* forget_button() const { return forget_; }
    QCheckBox* sound() const { return sound_; }
    // Which of what there is to say of the chosen pen is shown.
    enum class Shown { none, pairing, pen };
    Shown shown() const { return static_cast<Shown>(stack_->currentIndex()); }

private:
    void refresh();
    void show_pen();
    const ShownPen* chosen() const;
    void change_settings();
    void ask_to_forget();
    QWidget* make_nothing();
    QWidget* make_pairing();
    QWidget* make_pen();

    PenDesk& pens_;
    QListWidget* list_;
    QStackedWidget* stack_;
    QLabel *pairing_name_, *pairing_problem_;
    QLineEdit* passcode_;
    QPushButton* pair_;
    QLabel *name_, *standing_, *problem_, *battery_text_, *memory_text_, *seen_;
    QProgressBar *battery_, *memory_;
    QWidget* settings_;
    QCheckBox* sound_;
    QComboBox* power_off_;
    QSlider* sensitivity_;
    QLabel* settings_when_;
    QPushButton* forget_;
    QCheckBox* follow_;
    bool filling_ = false;
};

}  // namespace fernleaf
