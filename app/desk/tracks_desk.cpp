#include "desk/tracks_desk.h"

#include <QDateTime>
#include <QFileInfo>
#include <algorithm>

#include "desk/text_of.h"
#include "exchange/track_file.h"
#include "render/page_with_sound.h"
#include "sound/sound_file.h"

namespace fernleaf {

QString clock_text(int64_t ms) {
    const qint64 seconds = std::max<int64_t>(0, ms) / 1000;
    const QString rest = QStringLiteral("%1:%2");
    const auto two = [](qint64 n) { return QStringLiteral("%1").arg(n, 2, 10, QLatin1Char('0')); };
    if (seconds < 3600) return rest.arg(seconds / 60).arg(two(seconds % 60));
    return rest.arg(seconds / 3600).arg(two(seconds / 60 % 60)) + ":" + two(seconds % 60);
}

void TracksDesk::refresh() {
    disk_.ask(
        this, [this] { return library_.tracks(); },
        [this](Result<std::vector<VoiceTrack>>& tracks) {
            if (!tracks) return messages_.tell_problem(tracks.error());
            tracks_ = *std::move(tracks);
            heard_ = HeardTimes(tracks_);
            emit changed();
        });
}

const VoiceTrack* TracksDesk::track(TrackId track) const {
    const auto found = std::ranges::find(tracks_, track, &VoiceTrack::id);
    return found == tracks_.end() ? nullptr : &*found;
}

const VoiceTrack* TracksDesk::track_of(int64_t when_ms) const {
    if (when_ms <= 0) return nullptr;
    const auto found =
        std::ranges::find_if(tracks_, [&](const VoiceTrack& t) { return position_of(t, when_ms).has_value(); });
    return found == tracks_.end() ? nullptr : &*found;
}

void TracksDesk::find_begun(const std::vector<StrokeId>& ink, std::function<void(const std::vector<Stroke>&)> then) {
    disk_.ask(
        this, [this, ink] { return library_.strokes(ink); },
        [this, then = std::move(then)](const Result<std::vector<Stroke>>& strokes) {
            if (!strokes) return messages_.tell_problem(strokes.error());
            then(*strokes);
        });
}

void TracksDesk::change(TrackId track, const Change& change, const QString& done) {
    if (!editing_.may_change()) return;
    disk_.ask(
        this,
        [this, track, change]() -> Result<VoiceTrack> {
            auto before = library_.track(track);
            if (!before) return before.error();
            if (Status changed = library_.change_track(change(*before)); !changed) return changed.error();
            return before;
        },
        [this, done](const Result<VoiceTrack>& before) {
            refresh();
            if (!before) return messages_.tell_problem(before.error());
            if (done.isEmpty()) return;
            messages_.tell_undoable(done, [this, before = *before] {
                this->change(before.id, [before](const VoiceTrack&) { return before; });
            });
        });
}

void TracksDesk::rename(TrackId track, const QString& name) {
    if (name.trimmed().isEmpty()) return;
    change(track, [name = name.trimmed().toStdString()](VoiceTrack t) {
        t.name = name;
        return t;
    });
}

void TracksDesk::trim(TrackId track, int64_t from_ms, int64_t to_ms) {
    change(
        track,
        [from_ms, to_ms](const VoiceTrack& t) {
            VoiceTrack part = trimmed(t, from_ms, to_ms);
            return part.pieces.empty() ? t : part;
        },
        tr("The voice track was trimmed."));
}

void TracksDesk::join(TrackId one, TrackId other) {
    const VoiceTrack* known = track(one);
    if (!known || !editing_.may_change()) return;
    disk_.ask(
        this, [this, one, other] { return library_.join_tracks(one, other); },
        [this, before = *known, other](const Status& joined) {
            refresh();
            if (!joined) return messages_.tell_problem(joined.error());
            messages_.tell_undoable(tr("The voice tracks were joined."), [this, before, other] {
                disk_.ask(
                    this,
                    [this, before, other]() -> Status {
                        if (Status back = library_.restore_track(other); !back) return back;
                        return library_.change_track(before);
                    },
                    [this](const Status& back) {
                        if (!back) messages_.tell_problem(back.error());
                        refresh();
                    });
            });
        });
}

void TracksDesk::shift(TrackId track, int64_t by_ms) {
    change(
        track, [by_ms](VoiceTrack t) { return shifted(std::move(t), by_ms); }, tr("The voice track was shifted."));
}

void TracksDesk::bin(TrackId track) {
    if (!editing_.may_change()) return;
    disk_.ask(
        this, [this, track] { return library_.bin_track(track); },
        [this, track](const Status& binned) {
            refresh();
            if (!binned) return messages_.tell_problem(binned.error());
            messages_.tell_undoable(tr("The voice track is in the bin."), [this, track] {
                disk_.ask(
                    this, [this, track] { return library_.restore_track(track); },
                    [this](const Status& back) {
                        if (!back) messages_.tell_problem(back.error());
                        refresh();
                    });
            });
        });
}

void TracksDesk::add_bookmark(TrackId track, int64_t position_ms, const QString& name) {
    change(track, [position_ms, name = name.trimmed().toStdString()](VoiceTrack t) {
        t.bookmarks.push_back({when_at(t, position_ms), name});
        std::ranges::stable_sort(t.bookmarks, {}, &Bookmark::at_ms);
        return t;
    });
}

void TracksDesk::remove_bookmark(TrackId track, const Bookmark& bookmark) {
    change(
        track,
        [bookmark](VoiceTrack t) {
            std::erase(t.bookmarks, bookmark);
            return t;
        },
        tr("The bookmark was removed."));
}

void TracksDesk::write(const QString& path,
                       const std::function<Status(const CancelToken& cancel, const Progress& progress)>& job) {
    tasks_.run(tr("Exporting %1").arg(QFileInfo(path).fileName()),
               [this, path, job](const CancelToken& cancel, const Progress& progress) {
                   const Status written = job(cancel, progress);
                   if (cancel.cancelled()) return;
                   QMetaObject::invokeMethod(this, [this, written, path] {
                       if (!written) return messages_.tell_problem(written.error());
                       messages_.tell(tr("Exported to %1.").arg(path));
                   });
               });
}

void TracksDesk::export_track(TrackId track, const QString& path) {
    const VoiceTrack* known = this->track(track);
    if (!known) return;
    write(path, [this, track = *known, path](const CancelToken& cancel, const Progress& progress) {
        return export_sound(library_, track, path.toStdString(), progress, cancel);
    });
}

void TracksDesk::export_page(TrackId track, PageId page, const QString& path) {
    const VoiceTrack* known = this->track(track);
    if (!known) return;
    write(path, [this, track = *known, page, path](const CancelToken& cancel, const Progress& progress) {
        return export_page_with_sound(library_, page, track, path.toStdString(), progress, cancel);
    });
}

void TracksDesk::import_sound(const QString& path) {
    if (!editing_.may_change()) return;
    tasks_.run(tr("Importing %1").arg(QFileInfo(path).fileName()),
               [this, path](const CancelToken& cancel, const Progress& progress) {
                   const Result<TrackId> made = fernleaf::import_sound(library_, path.toStdString(), progress, cancel);
                   if (cancel.cancelled()) return;
                   QMetaObject::invokeMethod(this, [this, made] {
                       if (!made) return messages_.tell_problem(made.error());
                       refresh();
                       messages_.tell_undoable(tr("The sound was imported as a voice track."),
                                               [this, track = *made] { bin(track); });
                   });
               });
}

}  // namespace fernleaf
