// Asking for a voice track's name, wherever it is changed. UI thread only.
#pragma once

#include <QInputDialog>

#include "desk/tracks_desk.h"

namespace fernleaf {

inline void ask_track_name(QWidget* parent, TracksDesk& tracks, TrackId id) {
    const VoiceTrack* track = tracks.track(id);
    if (!track) return;
    bool yes = false;
    const QString name = QInputDialog::getText(parent, QObject::tr("Rename"), QObject::tr("Name of the voice track:"),
                                               QLineEdit::Normal, QString::fromStdString(track->name), &yes);
    if (yes) tracks.rename(id, name);
}

}  // namespace fernleaf
