// The library's voice tracks: which there are, and what is done with them but playing. Every change can be taken back.
#pragma once

#include <QObject>
#include <functional>
#include <vector>

#include "desk/desk.h"
#include "sound/heard_times.h"

namespace fernleaf {

// UI thread only.
class TracksDesk : public Desk {
    Q_OBJECT

public:
    explicit TracksDesk(const DeskParts& parts, QObject* parent = nullptr) : Desk(parts, parent) {}

    void refresh();                                                    // changed() answers
    const std::vector<VoiceTrack>& tracks() const { return tracks_; }  // the newest first
    const VoiceTrack* track(TrackId track) const;
    // The track in which that time is heard, if there is one.
    const VoiceTrack* track_of(int64_t when_ms) const;

    const HeardTimes& heard() const { return heard_; }  // of all of them
    // Strokes by their ids, on a page or not any more: what else was made from them keeps their time.
    void find_begun(const std::vector<StrokeId>& ink, std::function<void(const std::vector<Stroke>&)> then);

    void rename(TrackId track, const QString& name);
    void trim(TrackId track, int64_t from_ms, int64_t to_ms);
    void join(TrackId one, TrackId other);
    void shift(TrackId track, int64_t by_ms);
    void bin(TrackId track);
    void add_bookmark(TrackId track, int64_t position_ms, const QString& name);
    void remove_bookmark(TrackId track, const Bookmark& bookmark);
    void export_track(TrackId track, const QString& path);  // as its name's ending says
    // A page with the sound that belongs to it, as a web page that needs nothing else.
    void export_page(TrackId track, PageId page, const QString& path);
    // It is taken to have been heard until the file was written last; it can be shifted.
    void import_sound(const QString& path);

signals:
    void changed();

private:
    void write(const QString& path,
               const std::function<Status(const CancelToken& cancel, const Progress& progress)>& job);
    using Change = std::function<VoiceTrack(VoiceTrack)>;
    // Changes what the library holds by then; undoable with what it says, unless that is empty.
    void change(TrackId track, const Change& change, const QString& done = {});

    std::vector<VoiceTrack> tracks_;
    HeardTimes heard_;
};

// "1:02:03", "12:03".
QString clock_text(int64_t ms);

}  // namespace fernleaf
