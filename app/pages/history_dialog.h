// The history of the open page: a strip of time along which its earlier states are looked at, and brought back. UI
// thread only.
#pragma once

#include <QDialog>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSlider>

#include "desk/session.h"

namespace fernleaf {

class HistoryDialog : public QDialog {
    Q_OBJECT

public:
    explicit HistoryDialog(Session& session, QWidget* parent = nullptr);

    QSlider* strip() const { return strip_; }  // 0: before all edits; n: after the n-th
    QListWidget* sittings() const { return sittings_; }
    QLabel* picture() const { return picture_; }
    QPushButton* restore_button() const { return restore_; }
    QPushButton* copy_button() const { return copy_; }

private:
    void show_history(const std::vector<PageMoment>& moments);
    void show_state();
    int64_t chosen_edit() const;

    Session& session_;
    std::vector<PageMoment> moments_;
    QListWidget* sittings_;
    QSlider* strip_;
    QLabel *picture_, *says_;
    QPushButton *restore_, *copy_;
};

}  // namespace fernleaf
