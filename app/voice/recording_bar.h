// Says that sound is being recorded, so that it can't be overlooked, for how long and how loud, and ends it. UI thread
// only.
#pragma once

#include <QLabel>
#include <QPushButton>
#include <QWidget>

#include "desk/recording_desk.h"

namespace fernleaf {

class RecordingBar : public QWidget {
    Q_OBJECT

public:
    explicit RecordingBar(RecordingDesk& recording, QWidget* parent = nullptr);

    QPushButton* pause_button() const { return pause_; }
    QPushButton* end_button() const { return end_; }
    QLabel* time() const { return time_; }
    void restyle();

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    void show_state();

    RecordingDesk& recording_;
    QLabel *says_, *time_;
    QPushButton *pause_, *end_;
};

}  // namespace fernleaf
