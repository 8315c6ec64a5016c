#include "sound/sound_file.h"

#include <gtest/gtest.h>

#include <fstream>
#include <random>

#include "sound/test_sound.h"

namespace fernleaf {
namespace {

TEST(SoundFile, ComesBackAsItWasWritten) {
    const SoundDirectory directory;
    for (const auto& [name, format] :
         {std::pair{"a.opus", SoundFormat::opus}, {"a.wav", SoundFormat::wav}, {"a.flac", SoundFormat::flac}}) {
        auto writer = SoundWriter::create(directory / name, format);
        ASSERT_TRUE(writer);
        ASSERT_TRUE((*writer)->write(test_tone(440, 3000)));
        ASSERT_TRUE((*writer)->finish());
        auto reader = SoundReader::open(directory / name);
        ASSERT_TRUE(reader) << name;
        EXPECT_NEAR(static_cast<double>((*reader)->length_ms().value_or(0)), 3000, 30);
        (*reader)->seek(1000);
        std::vector<float> samples(kSoundRate / 2);
        ASSERT_EQ((*reader)->read(samples), samples.size());
        EXPECT_NEAR(pitch_of(samples), 440, 5) << name;
        (*reader)->seek(2'999'000);
        EXPECT_EQ((*reader)->read(samples), 0U);
        EXPECT_EQ(sound_format(directory / name), format);
    }
    EXPECT_FALSE(sound_format("notes.txt"));
}

TEST(SoundFile, OtherRatesAndChannelsAreBroughtToOurs) {
    const SoundDirectory directory;
    // A second of two channels at 8 kHz, as WAV by its definition.
    std::string wav = "RIFF";
    const auto put = [&](uint32_t value, int bytes) {
        for (int i = 0; i < bytes; ++i) wav.push_back(static_cast<char>(value >> (8 * i) & 0xFF));
    };
    put(36 + 32'000, 4), wav += "WAVEfmt ", put(16, 4), put(1, 2), put(2, 2), put(8000, 4), put(32'000, 4), put(4, 2),
        put(16, 2);
    wav += "data", put(32'000, 4);
    for (int i = 0; i < 8000; ++i) {
        const auto sample = static_cast<int16_t>(12'000 * std::sin(2 * std::numbers::pi * 300 * i / 8000));
        put(static_cast<uint16_t>(sample), 2), put(static_cast<uint16_t>(sample), 2);
    }
    std::ofstream(directory / "old.wav", std::ios::binary) << wav;
    auto reader = SoundReader::open(directory / "old.wav");
    ASSERT_TRUE(reader);
    std::vector<float> samples(2 * kSoundRate);
    const size_t got = (*reader)->read(samples);
    EXPECT_NEAR(static_cast<double>(got), kSoundRate, 200);
    samples.resize(got);
    EXPECT_NEAR(pitch_of(samples), 300, 5);
}

TEST(SoundFile, ForeignAndCutFilesAreErrorsOrAsMuchAsThereIs) {
    const SoundDirectory directory;
    EXPECT_FALSE(heard(directory / "missing.opus"));
    std::ofstream(directory / "empty.opus");
    EXPECT_FALSE(heard(directory / "empty.opus"));
    std::ofstream(directory / "letter.wav") << "Dear Mirela,\nthe pump is broken.";
    EXPECT_FALSE(heard(directory / "letter.wav"));
    auto writer = SoundWriter::create(directory / "whole.opus", SoundFormat::opus);
    ASSERT_TRUE((*writer)->write(test_tone(440, 5000)));
    ASSERT_TRUE((*writer)->finish());
    std::ifstream in(directory / "whole.opus", std::ios::binary);
    const std::string whole{std::istreambuf_iterator<char>(in), {}};
    std::mt19937 random(5);
    for (int i = 0; i < 40; ++i) {
        std::string damaged = whole.substr(0, whole.size() * static_cast<size_t>(i + 1) / 41);
        for (int k = 0; k < i; ++k) damaged[random() % damaged.size()] = static_cast<char>(random());
        std::ofstream(directory / "damaged.opus", std::ios::binary) << damaged;
        const auto sound = heard(directory / "damaged.opus");
        EXPECT_LE(sound ? sound->length_ms : 0, 60'000'000);
    }
}

TEST(SoundFile, SilenceIsToldByWhatElseIsHeard) {
    LoudnessMeter meter;
    for (int i = 0; i < 4; ++i) {
        meter.add(test_tone(300, 2000, i % 2 == 0 ? 0.4 : 0.004));
    }
    const auto quiet = silences(meter.levels(), 1000);
    ASSERT_EQ(quiet.size(), 2U);
    EXPECT_EQ(quiet[0].begin_ms, 2000);
    EXPECT_EQ(quiet[0].end_ms, 4000);
    EXPECT_TRUE(silences(std::string(100, 'x'), 1000).empty()) << "all alike";
}

}  // namespace
}  // namespace fernleaf
