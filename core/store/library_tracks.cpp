// Voice tracks: what they take of which sound files, and those files, in `sound/`.
#include <fcntl.h>
#include <sodium.h>

#include <algorithm>
#include <set>

#include "base/file.h"
#include "base/json.h"
#include "base/now.h"
#include "store/library.h"
#include "store/records.h"

namespace fernleaf {
namespace {

constexpr size_t kMostPieces = 100'000;
constexpr int64_t kLatestMs = 1'000'000'000'000'000, kLongestMs = 1'000'000'000'000;

Json pieces_json(const std::vector<TrackPiece>& pieces) {
    Json out = Json::array();
    for (const TrackPiece& p : pieces) out.push_back({p.sound, p.from_ms, p.length_ms, p.began_ms});
    return out;
}

Json bookmarks_json(const std::vector<Bookmark>& bookmarks) {
    Json out = Json::array();
    for (const Bookmark& b : bookmarks) out.push_back({b.at_ms, b.name});
    return out;
}

int64_t began(const VoiceTrack& track) { return track.pieces.empty() ? 0 : track.pieces.front().began_ms; }

constexpr char kNoTrack[] = "The voice track no longer exists.";

std::string fresh_sound_name(const std::string& ending) {
    unsigned char random[10];
    randombytes_buf(random, sizeof random);
    char hex[2 * sizeof random + 1];
    sodium_bin2hex(hex, sizeof hex, random, sizeof random);
    return hex + ending;
}

}  // namespace

bool is_sound_name(std::string_view name) {
    const size_t dot = name.find('.');
    const auto lower = [](char c) { return (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9'); };
    return dot != std::string_view::npos && dot > 0 && name.size() > dot + 1 && name.size() < 100 &&
           std::ranges::all_of(name.substr(0, dot), lower) && std::ranges::all_of(name.substr(dot + 1), lower);
}

std::optional<VoiceTrack> track_at(const Statement& row) {
    VoiceTrack out;
    out.id = row.integer(0);
    out.name = row.text(1);
    try {
        const Json pieces = Json::parse(row.text(2)), bookmarks = Json::parse(row.text(3));
        if (pieces.size() > kMostPieces || bookmarks.size() > kMostPieces) return {};
        for (const Json& p : pieces)
            out.pieces.push_back({whole(p.at(0), 0, INT64_MAX), whole(p.at(1), 0, kLongestMs),
                                  whole(p.at(2), 0, kLongestMs), whole(p.at(3), -kLatestMs, kLatestMs)});
        for (const Json& b : bookmarks)
            out.bookmarks.push_back({whole(b.at(0), -kLatestMs, kLatestMs), b.at(1).get<std::string>()});
    } catch (const Json::exception&) {
        return {};
    } catch (const std::out_of_range&) {
        return {};
    }
    return out;
}

std::vector<VoiceTrack> Library::tracks_locked() const {
    std::vector<VoiceTrack> out;
    Statement s = db_->prepare(std::string("SELECT ") + kTrackColumns +
                               " FROM track WHERE binned = 0 ORDER BY began DESC, id DESC");
    while (s.step())
        if (auto track = track_at(s)) out.push_back(*std::move(track));
    return out;
}

Result<std::vector<VoiceTrack>> Library::tracks() const {
    const Turn turn(mutex_, db_);
    std::vector<VoiceTrack> out = tracks_locked();
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<VoiceTrack> Library::track_locked(TrackId track) const {
    Statement s = db_->prepare(std::string("SELECT ") + kTrackColumns + " FROM track WHERE id = ?");
    if (s.bind(track).step())
        if (auto found = track_at(s)) return *std::move(found);
    return Error{kNoTrack};
}

Result<VoiceTrack> Library::track(TrackId track) const {
    const Turn turn(mutex_, db_);
    return track_locked(track);
}

void Library::write_track(const VoiceTrack& track) {
    db_->prepare("UPDATE track SET name = ?, pieces = ?, bookmarks = ?, began = ? WHERE id = ?")
        .bind(track.name)
        .bind(text_of(pieces_json(track.pieces)))
        .bind(text_of(bookmarks_json(track.bookmarks)))
        .bind(began(track))
        .bind(track.id)
        .run();
}

NewRecording Library::insert_sound(const std::string& name, const std::string& file) {
    NewRecording out;
    db_->prepare("INSERT INTO sound (file, levels) VALUES (?, x'')").bind(file).run();
    out.sound = db_->last_id();
    db_->prepare("INSERT INTO track (name, pieces, bookmarks, began) VALUES (?, '[]', '[]', ?)")
        .bind(name)
        .bind(now_ms())
        .run();
    out.track = db_->last_id();
    out.path = directory_ / "sound" / file;
    return out;
}

Result<NewRecording> Library::begin_recording(const std::string& name) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    std::error_code problem;
    std::filesystem::create_directories(directory_ / "sound", problem);
    if (problem) return Error{"Sound can't be saved in the library: " + problem.message() + ".", true};
    Transaction transaction(*db_);
    NewRecording out = insert_sound(name, fresh_sound_name(".opus"));
    if (Status status = transaction.commit(); !status) return status.error();
    return out;
}

Status Library::keep_recording(const NewRecording& recording, const std::vector<TrackPiece>& pieces,
                               const std::string& levels, bool ended) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("UPDATE sound SET levels = ? WHERE id = ?").bind_blob(levels).bind(recording.sound).run();
    if (auto track = track_locked(recording.track)) {  // named, and with bookmarks, meanwhile
        track->pieces = pieces;
        write_track(*track);
    }
    const bool nothing = ended && pieces.empty();
    if (nothing) {
        db_->prepare("DELETE FROM track WHERE id = ?").bind(recording.track).run();
        db_->prepare("DELETE FROM sound WHERE id = ?").bind(recording.sound).run();
    }
    if (Status status = transaction.commit(); !status) return status;
    std::error_code ignored;
    if (nothing) std::filesystem::remove(recording.path, ignored);
    if (ended) return keep_names(directory_ / "sound");
    return Done{};
}

Result<TrackId> Library::add_track(const std::string& name, const std::filesystem::path& sound,
                                   const std::string& levels, int64_t length_ms, int64_t began_ms) {
    if (const auto why = why_read_only()) return Error{*why, true};
    std::string ending = sound.extension().string();
    if (!is_sound_name("x" + ending)) ending = ".sound";
    const std::string file = fresh_sound_name(ending);
    const std::filesystem::path copy = directory_ / "sound" / file;
    // Copied, and on disk, before anybody waits for this turn.
    std::error_code problem, ignored;
    std::filesystem::create_directories(directory_ / "sound", problem);
    if (!problem) std::filesystem::copy_file(sound, copy, problem);
    if (problem) {
        std::filesystem::remove(copy, ignored);
        return Error{
            "“" + sound.filename().string() + "” could not be copied into the library: " + problem.message() + ".",
            true};
    }
    if (const int fd = ::open(copy.c_str(), O_RDONLY | O_CLOEXEC); fd >= 0) {
        ::fsync(fd);
        ::close(fd);
    }
    if (Status kept = keep_names(directory_ / "sound"); !kept) return kept.error();
    const Turn turn(mutex_, db_);
    Transaction transaction(*db_);
    const NewRecording made = insert_sound(name, file);
    db_->prepare("UPDATE sound SET levels = ? WHERE id = ?").bind_blob(levels).bind(made.sound).run();
    write_track({made.track, name, {{made.sound, 0, length_ms, began_ms}}, {}});
    if (Status status = transaction.commit(); !status) {
        std::filesystem::remove(copy, ignored);
        return status.error();
    }
    return made.track;
}

Result<TrackId> Library::add_track(VoiceTrack track, const std::vector<NewSound>& sounds) {
    if (const auto why = why_read_only()) return Error{*why, true};
    std::vector<std::filesystem::path> files;
    const auto give_up = [&](const Error& error) {
        std::error_code ignored;
        for (const auto& file : files) std::filesystem::remove(file, ignored);
        return error;
    };
    std::error_code problem;
    std::filesystem::create_directories(directory_ / "sound", problem);
    for (const NewSound& sound : sounds) {
        const std::string ending = is_sound_name("x" + sound.ending) ? sound.ending : ".sound";
        files.push_back(directory_ / "sound" / fresh_sound_name(ending));
        if (Status written = write_whole(files.back(), sound.bytes); !written) return give_up(written.error());
    }
    const Turn turn(mutex_, db_);
    Transaction transaction(*db_);
    std::vector<SoundId> ids;
    for (size_t i = 0; i < sounds.size(); ++i) {
        db_->prepare("INSERT INTO sound (file, levels) VALUES (?, ?)")
            .bind(files[i].filename().string())
            .bind_blob(sounds[i].levels)
            .run();
        ids.push_back(db_->last_id());
    }
    for (TrackPiece& piece : track.pieces) {
        if (piece.sound < 0 || static_cast<size_t>(piece.sound) >= ids.size())
            return give_up({"A piece of the voice track names no sound."});
        piece.sound = ids[static_cast<size_t>(piece.sound)];
    }
    db_->prepare("INSERT INTO track (name, pieces, bookmarks, began) VALUES (?, '[]', '[]', 0)").bind(track.name).run();
    track.id = db_->last_id();
    write_track(track);
    if (Status status = transaction.commit(); !status) return give_up(status.error());
    return track.id;
}

Status Library::change_track(const VoiceTrack& track) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    if (const auto there = track_locked(track.id); !there) return there.error();
    write_track(track);
    return transaction.commit();
}

Status Library::join_tracks(TrackId one, TrackId other) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (one == other) return Error{"A voice track can't be joined to itself."};
    Transaction transaction(*db_);
    const auto a = track_locked(one), b = track_locked(other);
    if (!a || !b) return Error{kNoTrack};
    VoiceTrack both = joined(*a, *b);
    both.id = one, both.name = a->name;
    write_track(both);
    db_->prepare("UPDATE track SET binned = ? WHERE id = ?").bind(now_ms()).bind(other).run();
    return transaction.commit();
}

Status Library::bin_track(TrackId track) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("UPDATE track SET binned = ? WHERE id = ? AND binned = 0").bind(now_ms()).bind(track).run();
    return transaction.commit();
}

Status Library::restore_track(TrackId track) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("UPDATE track SET binned = 0 WHERE id = ?").bind(track).run();
    return transaction.commit();
}

Result<std::vector<WrittenMoment>> Library::written_between(int64_t from_ms, int64_t to_ms) const {
    const Turn turn(mutex_, db_);
    std::vector<WrittenMoment> out;
    Statement s = db_->prepare(
        "SELECT " + listed(kElementRow) +
        " FROM element WHERE kind = ? AND live = 1 AND page IN (SELECT w.page FROM written w JOIN page p ON p.id = "
        "w.page JOIN notebook n ON n.id = p.notebook WHERE w.first <= ? AND w.last >= ? AND p.binned = 0 AND n.binned "
        "= 0)");
    s.bind(static_cast<int>(ElementKind::stroke)).bind(to_ms).bind(from_ms);
    Elements one;
    while (s.step()) {
        one.strokes.clear();
        if (!element_at(s, one) || one.strokes.empty()) continue;
        const Stroke& stroke = one.strokes.front();
        if (stroke.start_ms >= from_ms && stroke.start_ms <= to_ms)
            out.push_back({stroke.start_ms, s.integer(1), stroke.id});
    }
    if (Status status = db_->take_status(); !status) return status.error();
    std::ranges::stable_sort(out, {}, &WrittenMoment::start_ms);
    return out;
}

Result<std::filesystem::path> Library::sound_file(SoundId sound) const {
    const Turn turn(mutex_, db_);
    std::string name;
    Statement s = db_->prepare("SELECT file FROM sound WHERE id = ?");
    if (s.bind(sound).step()) name = s.text(0);
    if (Status status = db_->take_status(); !status) return status.error();
    if (!is_sound_name(name)) return Error{"The sound is missing from the library."};
    return directory_ / "sound" / name;
}

Result<std::string> Library::sound_levels(SoundId sound) const {
    const Turn turn(mutex_, db_);
    std::string levels;
    Statement s = db_->prepare("SELECT levels FROM sound WHERE id = ?");
    if (s.bind(sound).step()) levels = s.blob(0);
    if (Status status = db_->take_status(); !status) return status.error();
    return levels;
}

std::vector<std::string> Library::forget_tracks(int64_t binned_before) {
    db_->prepare("DELETE FROM track WHERE binned <> 0 AND binned < ?").bind(binned_before).run();
    std::set<SoundId> needed;
    bool damaged = false;
    {
        Statement s = db_->prepare(std::string("SELECT ") + kTrackColumns + " FROM track");
        while (s.step()) {
            const auto track = track_at(s);
            damaged = damaged || !track;
            if (!track) continue;
            for (const TrackPiece& p : track->pieces) needed.insert(p.sound);
        }
    }
    if (damaged) return {};  // nobody knows what it needs
    std::vector<std::pair<SoundId, std::string>> sounds;
    {
        // One without levels is being recorded.
        Statement s = db_->prepare("SELECT id, file FROM sound WHERE levels <> x''");
        while (s.step())
            if (!needed.contains(s.integer(0))) sounds.emplace_back(s.integer(0), s.text(1));
    }
    std::vector<std::string> out;
    for (auto& [id, name] : sounds) {
        db_->prepare("DELETE FROM sound WHERE id = ?").bind(id).run();
        out.push_back(std::move(name));
    }
    return out;
}

}  // namespace fernleaf
