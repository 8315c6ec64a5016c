#include "exchange/track_file.h"

#include <sys/stat.h>

#include <algorithm>

#include "base/file.h"
#include "base/now.h"
#include "store/library.h"

namespace fernleaf {
namespace {

// The last change of a file, ms since 1970; now where that is not known.
int64_t changed_ms(const std::filesystem::path& path) {
    struct stat about {};
    if (::stat(path.c_str(), &about) != 0) return now_ms();
    return static_cast<int64_t>(about.st_mtim.tv_sec) * 1000 + about.st_mtim.tv_nsec / 1'000'000;
}

}  // namespace

TrackPlayer::Opener sounds_of(const Library& library) {
    return [&library](SoundId sound) -> std::unique_ptr<SoundReader> {
        const auto file = library.sound_file(sound);
        if (!file) return nullptr;
        auto reader = SoundReader::open(*file);
        return reader ? *std::move(reader) : nullptr;
    };
}

Status export_sound(const Library& library, const VoiceTrack& track, const std::filesystem::path& path,
                    const Progress& progress, const CancelToken& cancel) {
    const auto format = sound_format(path);
    if (!format)
        return Error{"“" + path.filename().string() +
                     "” is not the name of a sound file. End it with .opus, .wav or .flac."};
    std::filesystem::path partial = path;
    partial.replace_extension(".part" + path.extension().string());
    std::error_code ignored;
    auto writer = SoundWriter::create(partial, *format);
    if (!writer) return writer.error();
    const auto failed = [&](Error error) {
        *writer = nullptr;
        std::filesystem::remove(partial, ignored);
        return error;
    };
    TrackPlayer player(track, sounds_of(library));
    player.seek(0);
    std::vector<float> samples(kSoundRate);
    const auto all = static_cast<double>(std::max<int64_t>(1, length_ms(track)));
    for (int64_t seconds = 1; const size_t got = player.read(samples); ++seconds) {
        if (cancel.cancelled()) return failed({"Cancelled."});
        if (Status written = (*writer)->write({samples.data(), got}); !written) return failed(written.error());
        if (progress) progress(std::min(1.0, static_cast<double>(seconds) * 1000 / all));
    }
    if (Status finished = (*writer)->finish(); !finished) return failed(finished.error());
    std::error_code problem;
    std::filesystem::rename(partial, path, problem);
    if (problem) return failed({"“" + path.filename().string() + "” could not be written: " + problem.message() + "."});
    return keep_names(path.has_parent_path() ? path.parent_path() : ".");
}

Result<TrackId> import_sound(Library& library, const std::filesystem::path& path, const Progress& progress,
                             const CancelToken& cancel) {
    const auto sound = heard(path, progress, cancel);
    if (!sound) return sound.error();
    return library.add_track(path.stem().string(), path, sound->levels, sound->length_ms,
                             changed_ms(path) - sound->length_ms);
}

}  // namespace fernleaf
