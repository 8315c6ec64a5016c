// Voice tracks as sound files, and back.
#pragma once

#include <filesystem>

#include "base/cancel.h"
#include "base/result.h"
#include "sound/track_player.h"

namespace fernleaf {

class Library;

// Opens a library's sounds; they may be gone. The library outlives it.
TrackPlayer::Opener sounds_of(const Library& library);

// A track's sound as one file: Opus, WAV or FLAC by its name's ending. Written whole or not at all; cancelled, it is an
// error.
Status export_sound(const Library& library, const VoiceTrack& track, const std::filesystem::path& path,
                    const Progress& progress = {}, const CancelToken& cancel = {});

// A sound file as a track of its name that was heard until the file was changed last.
Result<TrackId> import_sound(Library& library, const std::filesystem::path& path, const Progress& progress = {},
                             const CancelToken& cancel = {});

}  // namespace fernleaf
