// Writing played again: a voice track with the ink that was written meanwhile, or a page's strokes in their order
// without any sound. What is written at each moment is told; the page on which it was is opened by itself.
#pragma once

#include <QElapsedTimer>
#include <QObject>
#include <QTimer>
#include <memory>
#include <optional>
#include <unordered_map>

#include "desk/desk.h"
#include "desk/play_thread.h"
#include "desk/sound_devices.h"
#include "desk/tracks_desk.h"
#include "sound/replay.h"

namespace fernleaf {

constexpr int64_t kBeforeStrokeMs = 2000;  // what was said just before something was written is part of it
constexpr int64_t kStepMs = 10'000;

// UI thread only.
class ListeningDesk : public Desk {
    Q_OBJECT

public:
    ListeningDesk(const DeskParts& parts, TracksDesk& tracks, QObject* parent = nullptr);
    ~ListeningDesk() override;
    void set_devices(std::shared_ptr<const SoundDevices> devices) { devices_ = std::move(devices); }

    // Opens a track and plays it from a position.
    void play_track(TrackId track, int64_t position_ms);
    // From a little before that time; does nothing where there is no sound to it.
    void play_from(int64_t when_ms);
    // While something is open: to what was written then, and on from there; another track where it was heard in that.
    void go_to(int64_t when_ms);
    // The open page without sound, from its first stroke on.
    void replay_page();
    void close();

    // Moving the open track against what was written, by ear: what is tried is heard and seen at once, and the track
    // is changed only when it is kept. While matching, going to what was written says that this is heard now.
    bool matching() const { return matching_; }
    void begin_matching();
    void try_shift(int64_t by_ms);  // more
    int64_t tried_shift_ms() const { return tried_shift_ms_; }
    void end_matching(bool keep);

    bool open() const { return track_ || page_replay_; }
    const VoiceTrack* track() const { return track_ ? &*track_ : nullptr; }
    bool playing() const { return playing_; }
    void set_playing(bool playing);
    int64_t position_ms() const { return position_ms_; }
    int64_t length_ms() const;
    void seek(int64_t position_ms);
    void step(int64_t by_ms) { seek(position_ms_ + by_ms); }
    double speed() const { return speed_; }
    void set_speed(double speed);  // of sound within 0.5 and 2, of ink alone within 1 and 64
    bool skips_silence() const { return skips_; }
    void set_skips_silence(bool skips);
    const std::string& levels() const { return levels_; }                   // of the track, sound/loudness.h
    const std::vector<int64_t>& written_at() const { return written_at_; }  // positions, in order

    // How the open page's strokes stand on the clock; null when nothing is open, or none of them is of this page.
    const Replay* replay() const { return replay_ ? &*replay_ : nullptr; }
    const Stroke& replayed(const ReplayStroke& stroke) const { return strokes_[stroke.index]; }
    // What was set in type or drawn fair is played as the ink it was made from, and is there itself once that is
    // written. In the order in which they come; others are always there.
    struct Made {
        ElementId element = 0;
        int64_t there_ms = 0;
    };
    const std::vector<Made>& made() const { return made_; }
    // What a stroke was made into; 0: it stands on the page itself.
    ElementId made_into(const ReplayStroke& stroke) const { return made_into_[stroke.index]; }

signals:
    void opened();   // or closed
    void changed();  // playing, speed, track
    void moved();
    void page_wanted(PageId page);

private:
    void tick();
    void start_output();
    void stop_output();
    void moved_to(int64_t position_ms);
    void turn_to(int64_t when_ms);
    void make_replay();
    void add_former_ink();
    void find_written();
    void found_written(const std::vector<WrittenMoment>& moments);
    void tracks_changed();
    const SoundDevices& devices();

    TracksDesk& tracks_;
    std::shared_ptr<const SoundDevices> devices_;
    std::optional<VoiceTrack> track_;
    bool page_replay_ = false;
    std::string levels_;
    std::vector<Silence> silences_;
    std::vector<WrittenMoment> moments_;  // while the open track was heard
    std::vector<int64_t> written_at_;
    PageId turned_to_ = 0;         // by itself
    std::vector<Stroke> strokes_;  // of the open page, and the ink that what stands there was made from
    std::vector<ElementId> made_into_;
    std::vector<Made> made_;
    std::unordered_map<StrokeId, std::optional<Stroke>> former_;  // of the open page; nothing: asked for
    std::optional<Replay> replay_;
    std::unique_ptr<PlayThread> player_;
    std::unique_ptr<SoundOutput> output_;
    QTimer timer_;
    QElapsedTimer clock_;      // of ink alone
    QElapsedTimer heard_out_;  // since all was pulled
    int64_t began_at_ms_ = 0, opened_ms_ = 0;
    bool playing_ = false, skips_ = false, told_silent_ = false;
    bool matching_ = false;
    int64_t tried_shift_ms_ = 0;  // of the open track against the one that is kept
    double speed_ = 1;
    int64_t position_ms_ = 0;
};

}  // namespace fernleaf
