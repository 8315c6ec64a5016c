// The library's voice tracks: played, named, joined, shifted, brought in and taken away. UI thread only.
#pragma once

#include <QDialog>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QToolButton>

#include "desk/session.h"

namespace fernleaf {

class TracksDialog : public QDialog {
    Q_OBJECT

public:
    explicit TracksDialog(Session& session, QWidget* parent = nullptr);

    QListWidget* list() const { return list_; }
    QPushButton* play_button() const { return play_; }
    QPushButton* record_button() const { return record_; }

private:
    void refresh();
    void show_chosen();
    const VoiceTrack* chosen() const;
    void play();
    void record();
    void fill_more();
    void ask_shift();
    void ask_import();
    void fill_devices();

    Session& session_;
    QListWidget* list_;
    QLabel* empty_;
    QPushButton *play_, *record_, *more_, *import_, *device_;
};

}  // namespace fernleaf
