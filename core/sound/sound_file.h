// Sound files, read and written through libsndfile. Everything inside Fernleaf is one channel at kSoundRate; what is
// read is brought to it (libsamplerate). Foreign and cut files give an error or as much as there is of them.
#pragma once

#include <filesystem>
#include <memory>
#include <optional>
#include <span>
#include <string>

#include "base/cancel.h"
#include "base/result.h"
#include "sound/loudness.h"

namespace fernleaf {

enum class SoundFormat { opus, wav, flac };
// By the name's ending: .opus, .ogg, .wav, .flac.
std::optional<SoundFormat> sound_format(const std::filesystem::path& path);

class SoundWriter {
public:
    static Result<std::unique_ptr<SoundWriter>> create(const std::filesystem::path& path, SoundFormat format);
    ~SoundWriter();
    SoundWriter(const SoundWriter&) = delete;
    SoundWriter& operator=(const SoundWriter&) = delete;

    Status write(std::span<const float> samples);
    // What was written so far is on disk, but for a third of a second that the coder holds back.
    Status sync();
    Status finish();

private:
    struct Handle;
    explicit SoundWriter(std::unique_ptr<Handle> handle);
    std::unique_ptr<Handle> handle_;
};

class SoundReader {
public:
    static Result<std::unique_ptr<SoundReader>> open(const std::filesystem::path& path);
    ~SoundReader();
    SoundReader(const SoundReader&) = delete;
    SoundReader& operator=(const SoundReader&) = delete;

    // Nothing where the file does not tell: it was cut.
    std::optional<int64_t> length_ms() const;
    void seek(int64_t position_ms);  // beyond the end: reads nothing
    // Fewer than asked for: the end.
    size_t read(std::span<float> samples);

private:
    struct Handle;
    explicit SoundReader(std::unique_ptr<Handle> handle);
    std::unique_ptr<Handle> handle_;
};

// A sound's length and loudness, found by reading all of it; nothing but an error when it holds no sound or was
// cancelled.
struct HeardSound {
    int64_t length_ms = 0;
    std::string levels;
};
Result<HeardSound> heard(const std::filesystem::path& path, const Progress& progress = {},
                         const CancelToken& cancel = {});

}  // namespace fernleaf
