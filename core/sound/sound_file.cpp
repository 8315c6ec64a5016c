#include "sound/sound_file.h"

#include <fcntl.h>
#include <samplerate.h>
#include <sndfile.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <vector>

#include "base/text.h"

namespace fernleaf {
namespace {

// Speech is clear at 45 kbit/s: libsndfile's quality from 0 (best) to 1.
constexpr double kOpusCompression = 0.85;
constexpr double kPageLatencyMs = 300;  // what a kill can cost
constexpr int kMostChannels = 64, kMostRate = 768'000;
constexpr size_t kFrames = 4096;  // read at a time

struct CloseSound {
    void operator()(SNDFILE* file) const { sf_close(file); }
};
using Sound = std::unique_ptr<SNDFILE, CloseSound>;

struct DeleteConverter {
    void operator()(SRC_STATE* state) const { src_delete(state); }
};

Error cant_write(const std::filesystem::path& path, SNDFILE* file) {
    return {"The sound could not be written to “" + path.filename().string() + "”: " + sf_strerror(file), true};
}

}  // namespace

std::optional<SoundFormat> sound_format(const std::filesystem::path& path) {
    const std::string ending = fold(path.extension().string());
    if (ending == ".opus" || ending == ".ogg") return SoundFormat::opus;
    if (ending == ".wav") return SoundFormat::wav;
    if (ending == ".flac") return SoundFormat::flac;
    return {};
}

struct SoundWriter::Handle {
    std::filesystem::path path;
    Sound file;
    int descriptor = -1;  // for getting what was written onto the disk
    ~Handle() {
        file.reset();
        if (descriptor >= 0) close(descriptor);
    }
};

SoundWriter::SoundWriter(std::unique_ptr<Handle> handle) : handle_(std::move(handle)) {}
SoundWriter::~SoundWriter() = default;

Result<std::unique_ptr<SoundWriter>> SoundWriter::create(const std::filesystem::path& path, SoundFormat format) {
    SF_INFO info{};
    info.samplerate = kSoundRate;
    info.channels = 1;
    switch (format) {
        case SoundFormat::opus:
            info.format = SF_FORMAT_OGG | SF_FORMAT_OPUS;
            break;
        case SoundFormat::wav:
            info.format = SF_FORMAT_WAV | SF_FORMAT_PCM_16;
            break;
        case SoundFormat::flac:
            info.format = SF_FORMAT_FLAC | SF_FORMAT_PCM_16;
            break;
    }
    auto handle = std::make_unique<Handle>();
    handle->path = path;
    handle->file.reset(sf_open(path.c_str(), SFM_WRITE, &info));
    if (!handle->file) return cant_write(path, nullptr);
    if (format == SoundFormat::opus) {
        double compression = kOpusCompression, latency = kPageLatencyMs;
        sf_command(handle->file.get(), SFC_SET_COMPRESSION_LEVEL, &compression, sizeof compression);
        sf_command(handle->file.get(), SFC_SET_OGG_PAGE_LATENCY_MS, &latency, sizeof latency);
    }
    sf_command(handle->file.get(), SFC_SET_CLIPPING, nullptr, SF_TRUE);
    handle->descriptor = open(path.c_str(), O_RDONLY | O_CLOEXEC);
    return std::unique_ptr<SoundWriter>(new SoundWriter(std::move(handle)));
}

Status SoundWriter::write(std::span<const float> samples) {
    const auto all = static_cast<sf_count_t>(samples.size());
    if (sf_writef_float(handle_->file.get(), samples.data(), all) != all || sf_error(handle_->file.get()) != 0)
        return cant_write(handle_->path, handle_->file.get());
    return Done{};
}

Status SoundWriter::sync() {
    sf_write_sync(handle_->file.get());
    if (sf_error(handle_->file.get()) != 0 || (handle_->descriptor >= 0 && fdatasync(handle_->descriptor) != 0))
        return cant_write(handle_->path, handle_->file.get());
    return Done{};
}

Status SoundWriter::finish() {
    const int failed = sf_close(handle_->file.release());
    if (failed != 0 || (handle_->descriptor >= 0 && fsync(handle_->descriptor) != 0))
        return cant_write(handle_->path, nullptr);
    return Done{};
}

struct SoundReader::Handle {
    SF_INFO info{};
    Sound file;
    std::unique_ptr<SRC_STATE, DeleteConverter> converter;  // none: at kSoundRate already
    std::vector<float> raw, mixed;                          // as read, and as one channel
    size_t used = 0;                                        // of mixed
    bool ended = false;

    bool read_more() {
        raw.resize(kFrames * static_cast<size_t>(info.channels));
        const sf_count_t got = sf_readf_float(file.get(), raw.data(), static_cast<sf_count_t>(kFrames));
        mixed.resize(static_cast<size_t>(std::max<sf_count_t>(0, got)));
        used = 0;
        for (size_t i = 0; i < mixed.size(); ++i) {
            float sum = 0;
            for (int c = 0; c < info.channels; ++c)
                sum += raw[i * static_cast<size_t>(info.channels) + static_cast<size_t>(c)];
            sum /= static_cast<float>(info.channels);
            mixed[i] = sum >= -8 && sum <= 8 ? sum : 0;  // files may hold what is no number
        }
        return !mixed.empty();
    }
};

SoundReader::SoundReader(std::unique_ptr<Handle> handle) : handle_(std::move(handle)) {}
SoundReader::~SoundReader() = default;

Result<std::unique_ptr<SoundReader>> SoundReader::open(const std::filesystem::path& path) {
    auto handle = std::make_unique<Handle>();
    handle->file.reset(sf_open(path.c_str(), SFM_READ, &handle->info));
    if (!handle->file)
        return Error{"“" + path.filename().string() + "” can't be read as sound: " + sf_strerror(nullptr)};
    const SF_INFO& info = handle->info;
    if (info.channels < 1 || info.channels > kMostChannels || info.samplerate < 1000 || info.samplerate > kMostRate)
        return Error{"“" + path.filename().string() + "” can't be read as sound."};
    if (info.samplerate != kSoundRate) {
        int problem = 0;
        handle->converter.reset(src_new(SRC_SINC_FASTEST, 1, &problem));
        if (!handle->converter) return Error{src_strerror(problem)};
    }
    return std::unique_ptr<SoundReader>(new SoundReader(std::move(handle)));
}

std::optional<int64_t> SoundReader::length_ms() const {
    const auto& [frames, rate, channels, format, sections, seekable] = handle_->info;
    constexpr sf_count_t kMostSeconds = 1'000'000;
    if (frames < 0 || frames > kMostSeconds * rate) return {};
    return frames * 1000 / rate;
}

void SoundReader::seek(int64_t position_ms) {
    Handle& h = *handle_;
    h.mixed.clear();
    h.used = 0;
    if (h.converter) src_reset(h.converter.get());
    h.ended = sf_seek(h.file.get(), std::max<int64_t>(0, position_ms) * h.info.samplerate / 1000, SEEK_SET) < 0;
}

size_t SoundReader::read(std::span<float> samples) {
    Handle& h = *handle_;
    size_t done = 0;
    while (done < samples.size() && !h.ended) {
        if (h.used == h.mixed.size() && !h.read_more()) {
            h.ended = true;
            if (!h.converter) break;
        }
        if (!h.converter) {
            const size_t some = std::min(samples.size() - done, h.mixed.size() - h.used);
            std::copy_n(h.mixed.begin() + static_cast<std::ptrdiff_t>(h.used), some,
                        samples.begin() + static_cast<std::ptrdiff_t>(done));
            h.used += some, done += some;
            continue;
        }
        SRC_DATA data{};
        data.data_in = h.mixed.data() + h.used;
        data.input_frames = static_cast<long>(h.mixed.size() - h.used);
        data.data_out = samples.data() + done;
        data.output_frames = static_cast<long>(samples.size() - done);
        data.src_ratio = static_cast<double>(kSoundRate) / h.info.samplerate;
        data.end_of_input = h.ended ? 1 : 0;
        if (src_process(h.converter.get(), &data) != 0) break;
        h.used += static_cast<size_t>(data.input_frames_used);
        done += static_cast<size_t>(data.output_frames_gen);
        if (h.ended && data.output_frames_gen > 0) h.ended = false;  // the converter may hold more
    }
    return done;
}

Result<HeardSound> heard(const std::filesystem::path& path, const Progress& progress, const CancelToken& cancel) {
    auto reader = SoundReader::open(path);
    if (!reader) return reader.error();
    const auto whole = (*reader)->length_ms();
    LoudnessMeter meter;
    std::vector<float> samples(kSoundRate);
    uint64_t frames = 0;
    while (const size_t got = (*reader)->read(samples)) {
        if (cancel.cancelled()) return Error{"Cancelled."};
        meter.add({samples.data(), got});
        frames += got;
        if (progress && whole && *whole > 0)
            progress(std::min(1.0, static_cast<double>(frames) * 1000 / kSoundRate / static_cast<double>(*whole)));
    }
    if (frames == 0) return Error{"“" + path.filename().string() + "” holds no sound."};
    return HeardSound{static_cast<int64_t>(frames * 1000 / kSoundRate), meter.levels()};
}

}  // namespace fernleaf
