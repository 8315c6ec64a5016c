// The strip below the leaves while something is played again: its sound, the way about in it, its speed. UI thread
// only.
#pragma once

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QWidget>

#include "desk/session.h"
#include "voice/sound_band.h"

namespace fernleaf {

class VoiceStrip : public QWidget {
    Q_OBJECT

public:
    explicit VoiceStrip(Session& session, QWidget* parent = nullptr);

    SoundBand* band() const { return band_; }
    QToolButton* play_button() const { return play_; }
    QToolButton* speed_button() const { return speed_; }
    QToolButton* skip_button() const { return skip_; }
    QToolButton* more_button() const { return more_; }
    QLabel* name() const { return name_; }
    // The row that is there while the sound is matched to the ink by ear.
    QWidget* match_row() const { return match_row_; }
    QLabel* shift() const { return shift_; }
    QPushButton* keep_button() const { return keep_; }
    QPushButton* cancel_button() const { return cancel_; }
    void restyle();

signals:
    void matching();  // ink is to be chosen on the page

private:
    QWidget* make_match_row();
    QToolButton* add_button(const QString& icon_name, const QString& tip);
    void show_all();
    void show_time();
    void fill_speeds();
    void fill_more();
    void ask_bookmark();
    QString ask_path(const QString& title, const QString& ending, const QString& kinds);
    void ask_export();
    void ask_page_export();

    Session& session_;
    QHBoxLayout* row_;
    QWidget* match_row_;
    QLabel *match_says_, *shift_;
    QPushButton *keep_, *cancel_;
    QLabel *name_, *time_;
    SoundBand* band_;
    QToolButton *play_, *back_, *forward_, *speed_, *skip_, *mark_, *more_, *close_;
};

}  // namespace fernleaf
