#include "desk/listening_desk.h"

#include <algorithm>
#include <cmath>

#include "base/now.h"
#include "desk/text_of.h"
#include "exchange/track_file.h"

namespace fernleaf {
namespace {

constexpr int kTickMs = 16;
constexpr int kHeardOutMs = 150;  // what a speaker still holds when all was pulled
constexpr double kFastestInk = 64;
constexpr int64_t kLeastSilenceMs = 1500;

}  // namespace

ListeningDesk::ListeningDesk(const DeskParts& parts, TracksDesk& tracks, QObject* parent)
    : Desk(parts, parent), tracks_(tracks) {
    timer_.setInterval(kTickMs);
    timer_.setTimerType(Qt::PreciseTimer);
    connect(&timer_, &QTimer::timeout, this, &ListeningDesk::tick);
    connect(&document_, &PageDocument::opened, this, [this] {
        former_.clear();
        if (page_replay_) return close();  // it was of another page
        make_replay();
    });
    connect(&document_, &PageDocument::closed, this, &ListeningDesk::close);
    connect(&document_, &PageDocument::edited, this, [this] {
        if (open()) make_replay();
    });
    connect(&tracks_, &TracksDesk::changed, this, &ListeningDesk::tracks_changed);
}

ListeningDesk::~ListeningDesk() { stop_output(); }

const SoundDevices& ListeningDesk::devices() {
    if (!devices_) devices_ = usual_sound();
    return *devices_;
}

int64_t ListeningDesk::length_ms() const {
    if (track_) return fernleaf::length_ms(*track_);
    return replay_ ? replay_->length_ms : 0;
}

void ListeningDesk::play_track(TrackId id, int64_t position_ms) {
    const VoiceTrack* known = tracks_.track(id);
    if (!known || known->pieces.empty()) return;
    if (track_ && track_->id == id) end_matching(false);
    if (track_ && *track_ == *known) {
        seek(position_ms);
        return set_playing(true);
    }
    const bool skips = skips_;
    close();
    track_ = *known;
    opened_ms_ = now_ms();
    skips_ = skips;
    player_ = std::make_unique<PlayThread>(*track_, sounds_of(library_));
    player_->seek(position_ms);
    position_ms_ = position_ms;
    make_replay();
    emit opened();
    set_playing(true);
    struct Found {
        std::string levels;
        std::vector<Silence> silences;
    };
    disk_.ask(
        this,
        [this, track = *track_]() -> Result<Found> {
            const auto levels = [this](SoundId sound) { return library_.sound_levels(sound); };
            std::optional<Error> failed;
            const auto of_sound = [&](SoundId sound) {
                auto found = levels(sound);
                if (!found) failed = found.error();
                return found ? *std::move(found) : std::string();
            };
            Found out;
            out.levels = track_levels(track, of_sound);
            out.silences = silences(out.levels, kLeastSilenceMs);
            if (failed) return *failed;
            return out;
        },
        [this, id](Result<Found>& found) {
            if (!track_ || track_->id != id) return;
            if (!found) return messages_.tell_problem(found.error());
            levels_ = std::move(found->levels);
            silences_ = std::move(found->silences);
            if (skips_) player_->skip(silences_);
            emit changed();
        });
    find_written();
}

void ListeningDesk::find_written() {
    int64_t from = INT64_MAX, to = 0;
    for (const TrackPiece& p : track_->pieces) {
        from = std::min(from, p.began_ms - kTieSlackMs);
        to = std::max(to, p.began_ms + p.length_ms + kTieSlackMs);
    }
    disk_.ask(
        this, [this, from, to] { return library_.written_between(from, to); },
        [this, pieces = track_->pieces](const Result<std::vector<WrittenMoment>>& moments) {
            if (!track_ || track_->pieces != pieces) return;
            if (!moments) return messages_.tell_problem(moments.error());
            found_written(*moments);
        });
}

void ListeningDesk::found_written(const std::vector<WrittenMoment>& moments) {
    moments_.clear();
    written_at_.clear();
    for (const WrittenMoment& m : moments) {
        const auto position = position_of(*track_, m.start_ms);
        if (!position) continue;
        moments_.push_back(m);
        written_at_.push_back(*position);
    }
    std::ranges::sort(written_at_);
    emit changed();
    turn_to(when_at(*track_, position_ms_));
}

void ListeningDesk::play_from(int64_t when_ms) {
    if (matching_) {
        const auto position = position_of(*track_, when_ms);
        if (!position) return;
        seek(*position - kBeforeStrokeMs);
        return set_playing(true);
    }
    const VoiceTrack* track = tracks_.track_of(when_ms);
    if (!track) return;
    play_track(track->id, std::max<int64_t>(0, *position_of(*track, when_ms) - kBeforeStrokeMs));
}

void ListeningDesk::go_to(int64_t when_ms) {
    if (matching_) return try_shift(when_ms - when_at(*track_, position_ms_));
    if (track_) return play_from(when_ms);
    if (!replay_) return;
    const auto found = std::ranges::find_if(
        replay_->strokes, [&](const ReplayStroke& s) { return strokes_[s.index].start_ms == when_ms; });
    if (found == replay_->strokes.end()) return;
    seek(found->begin_ms);
    set_playing(true);
}

void ListeningDesk::replay_page() {
    bool any = document_.page() && !document_.page()->strokes.empty();
    if (document_.page())
        for_each_element(*document_.page(), [&]<typename E>(const E& e) {
            if constexpr (FromInk<E>) any = any || !e.ink.empty();
        });
    if (!any) return messages_.tell(tr("There is no ink on this page to replay."));
    close();
    page_replay_ = true;
    opened_ms_ = now_ms();
    make_replay();
    emit opened();
    set_playing(true);
}

void ListeningDesk::begin_matching() {
    if (!track_ || matching_ || !editing_.may_change()) return;
    matching_ = true;
    emit changed();
}

void ListeningDesk::try_shift(int64_t by_ms) {
    if (!matching_ || by_ms == 0) return;
    track_ = shifted(*std::move(track_), by_ms);
    tried_shift_ms_ += by_ms;
    make_replay();
    find_written();
    emit changed();
}

void ListeningDesk::end_matching(bool keep) {
    if (!std::exchange(matching_, false)) return;
    const int64_t by = std::exchange(tried_shift_ms_, 0);
    if (keep && by != 0) {
        tracks_.shift(track_->id, by);
    } else if (by != 0) {
        track_ = shifted(*std::move(track_), -by);
        make_replay();
        find_written();
    }
    emit changed();
}

void ListeningDesk::close() {
    if (!open()) return;
    end_matching(false);
    timer_.stop();
    stop_output();
    player_.reset();
    track_.reset();
    page_replay_ = false, playing_ = false;
    replay_.reset();
    strokes_.clear(), made_into_.clear(), made_.clear();
    levels_.clear(), silences_.clear(), moments_.clear(), written_at_.clear();
    position_ms_ = 0, speed_ = 1, turned_to_ = 0;
    emit opened();
}

// Of what stands on the page and was made from ink: that ink, where it would stand now.
void ListeningDesk::add_former_ink() {
    std::vector<StrokeId> unknown;
    for_each_element(*document_.page(), [&]<typename E>(const E& e) {
        if constexpr (FromInk<E>)
            for (const StrokeId id : e.ink) {
                const auto [known, fresh] = former_.try_emplace(id);
                if (fresh) unknown.push_back(id);
                if (!known->second) continue;
                strokes_.push_back(transformed(*known->second, e.transform_since_set));
                made_into_.push_back(e.id);
            }
    });
    if (unknown.empty()) return;
    tracks_.find_begun(unknown, [this, page = document_.page()->info.id](const std::vector<Stroke>& strokes) {
        if (!document_.is_open(page)) return;
        for (const Stroke& s : strokes) former_[s.id] = s;
        if (open() && !strokes.empty()) make_replay();
    });
}

void ListeningDesk::make_replay() {
    replay_.reset();
    strokes_.clear(), made_into_.clear(), made_.clear();
    if (!open() || !document_.page()) return;
    strokes_ = document_.page()->strokes;
    made_into_.resize(strokes_.size());
    add_former_ink();
    std::vector<const Stroke*> pointers;
    for (const Stroke& s : strokes_) pointers.push_back(&s);
    replay_ = track_ ? replay_of(pointers, *track_) : replay_of(pointers);
    // What is written while listening is seen at once.
    int64_t until = 0;
    for (ReplayStroke& s : replay_->strokes) {
        if (strokes_[s.index].start_ms >= opened_ms_) s.begin_ms = s.end_ms = kAlwaysThere;
        until = std::max(until, s.end_ms);
    }
    std::ranges::stable_sort(replay_->strokes, {}, &ReplayStroke::begin_ms);
    if (!track_) replay_->length_ms = until;
    for (const ReplayStroke& s : replay_->strokes) {
        const ElementId into = made_into(s);
        if (into == 0) continue;
        const auto known = std::ranges::find(made_, into, &Made::element);
        if (known == made_.end())
            made_.push_back({into, s.end_ms});
        else
            known->there_ms = std::max(known->there_ms, s.end_ms);
    }
    std::ranges::sort(made_, {}, &Made::there_ms);
    if (page_replay_) {
        written_at_.clear();
        for (const ReplayStroke& s : replay_->strokes) written_at_.push_back(s.begin_ms);
    }
    // A page that was not written on while a track was heard stays as it is.
    const auto comes = [&](const ReplayStroke& s) { return s.end_ms >= 0 && s.begin_ms <= replay_->length_ms; };
    if (track_ && std::ranges::none_of(replay_->strokes, comes)) replay_.reset();
    emit moved();
}

void ListeningDesk::start_output() {
    if (!player_ || output_) return;
    output_ = devices().output();
    connect(output_.get(), &SoundOutput::lost, this, [this] {
        messages_.tell_problem(tr("The speaker was disconnected. Connect it or choose another, then play again."));
        set_playing(false);
    });
    const auto pull = [player = player_.get()](std::span<float> out) { return player->pull(out); };
    if (!output_->start(pull)) {
        output_.reset();
        messages_.tell_problem(
            tr("The speaker can't be used; another program may be using it. Choose another speaker or try again."));
        playing_ = false;
        return;
    }
    if (!output_->audible() && !std::exchange(told_silent_, true))
        messages_.tell(tr("No speaker was found. The ink plays without sound."));
}

void ListeningDesk::stop_output() {
    if (!output_) return;
    output_->stop();
    output_->disconnect(this);
    output_.release()->deleteLater();  // it may be telling something right now
}

void ListeningDesk::set_playing(bool playing) {
    if (!open() || playing == playing_) return;
    playing_ = playing;
    if (playing && position_ms_ >= length_ms()) seek(0);
    if (playing) {
        start_output();
        began_at_ms_ = position_ms_;
        clock_.start();
        heard_out_.start();
        if (playing_) timer_.start();
    } else {
        timer_.stop();
        stop_output();
        // What was pulled and never heard comes again.
        if (player_) player_->seek(position_ms_);
    }
    emit changed();
}

void ListeningDesk::tick() {
    if (track_) {
        if (!output_ || !player_) return;
        // What was pulled last is still to be heard.
        if (!player_->ended()) heard_out_.restart();
        const bool over = heard_out_.hasExpired(kHeardOutMs);
        moved_to(over ? length_ms() : player_->position_ms(output_->waiting()));
        if (over) set_playing(false);
        return;
    }
    const auto passed = static_cast<int64_t>(static_cast<double>(clock_.elapsed()) * speed_);
    moved_to(std::min(began_at_ms_ + passed, length_ms()));
    if (position_ms_ >= length_ms()) set_playing(false);
}

void ListeningDesk::moved_to(int64_t position_ms) {
    if (position_ms == position_ms_) return;
    position_ms_ = position_ms;
    if (track_) turn_to(when_at(*track_, position_ms_));
    emit moved();
}

// To the page on which was written last; the person may turn elsewhere until something is written on another.
void ListeningDesk::turn_to(int64_t when_ms) {
    const auto later = std::ranges::upper_bound(moments_, when_ms, {}, &WrittenMoment::start_ms);
    // Before the first stroke: where that will be.
    const auto at = later == moments_.begin() ? later : std::prev(later);
    if (at == moments_.end() || at->page == turned_to_) return;
    turned_to_ = at->page;
    if (!document_.is_open(at->page)) emit page_wanted(at->page);
}

void ListeningDesk::seek(int64_t position_ms) {
    if (!open()) return;
    const int64_t to = std::clamp<int64_t>(position_ms, 0, length_ms());
    if (player_) player_->seek(to);
    began_at_ms_ = to;
    clock_.start();
    moved_to(to);
}

void ListeningDesk::set_speed(double speed) {
    speed_ = track_ ? std::clamp(speed, kSlowest, kFastest) : std::clamp(speed, kSlowest, kFastestInk);
    if (player_) player_->set_speed(speed_);
    began_at_ms_ = position_ms_;
    clock_.start();
    emit changed();
}

void ListeningDesk::set_skips_silence(bool skips) {
    skips_ = skips;
    if (player_) player_->skip(skips ? silences_ : std::vector<Silence>{});
    emit changed();
}

void ListeningDesk::tracks_changed() {
    if (!track_) return;
    const VoiceTrack* known = tracks_.track(track_->id);
    if (!known || known->pieces.empty()) return close();
    const VoiceTrack now = shifted(*known, tried_shift_ms_);
    if (now.pieces == track_->pieces) {
        track_ = now;  // another name, other bookmarks
        return emit changed();
    }
    end_matching(false);
    // Trimmed, joined, shifted or longer: what was heard last is heard next.
    const int64_t when = when_at(*track_, position_ms_);
    const bool played = playing_;
    const VoiceTrack fresh = *known;
    play_track(fresh.id, position_after(fresh, when));
    if (!played) set_playing(false);
}

}  // namespace fernleaf
