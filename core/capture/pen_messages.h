// What computer and pen say to each other, as the bodies of frames (docs/pen-protocol.md).
//
//   const std::string body = encoded(PenState{.battery = 81});
//   if (const auto state = decoded<PenState>(frame.body)) ...
//
// Decoding takes nothing on trust: lengths, ranges and rests are checked, what does not fit is nothing.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>

#include "capture/captured_stroke.h"
#include "capture/pen_frame.h"

namespace fernleaf {

using Nonce = std::array<uint8_t, 16>;
using PasscodeProof = std::array<uint8_t, 32>;

struct PenHello {
    static constexpr FrameKind kKind = FrameKind::hello;
    std::string computer;  // its name, for the person
    Nonce nonce{};
};
struct PenGreeting {
    static constexpr FrameKind kKind = FrameKind::greeting;
    std::string serial;  // never changes
    std::string name;
    Nonce nonce{};           // of this attempt
    uint8_t tries_left = 0;  // to prove the passcode
};
struct PenProof {
    static constexpr FrameKind kKind = FrameKind::proof;
    PasscodeProof proof{};
};
struct PenAdmitted {
    static constexpr FrameKind kKind = FrameKind::admitted;
    PasscodeProof proof{};  // that it is the pen it was
};
enum class Refusal : uint8_t { passcode = 1, locked = 2, version = 3, busy = 4 };
struct PenRefused {
    static constexpr FrameKind kKind = FrameKind::refused;
    Refusal why{};
    uint8_t tries_left = 0;
    Nonce nonce{};  // for the next try
};
struct AskState {
    static constexpr FrameKind kKind = FrameKind::ask_state;
};
struct PenSettings {
    bool sound = true;
    uint8_t power_off_minutes = 20;  // 1 to 240
    uint8_t sensitivity = 3;         // 1 to 5
    friend bool operator==(const PenSettings&, const PenSettings&) = default;
};
struct PenState {
    static constexpr FrameKind kKind = FrameKind::state;
    uint8_t battery = 0;   // percent
    uint32_t used_kb = 0;  // of its memory
    uint32_t room_kb = 0;  // in all
    uint64_t first = 0;    // of the strokes in its memory; 0: none
    uint64_t last = 0;     // the number it gave last; 0: none yet
    int64_t clock_ms = 0;  // as it stands when this is sent
    PenSettings settings = {};
    uint64_t memory = 0;  // which memory its strokes are numbered in: another one once the pen was reset; never 0
};
struct SetClock {
    static constexpr FrameKind kKind = FrameKind::set_clock;
    int64_t clock_ms = 0;
};
struct ChangeSettings {
    static constexpr FrameKind kKind = FrameKind::change_settings;
    PenSettings settings = {};
};
struct SendAfter {
    static constexpr FrameKind kKind = FrameKind::send;
    uint64_t number = 0;
};
struct KeptUpTo {
    static constexpr FrameKind kKind = FrameKind::kept;
    uint64_t number = 0;
};
struct PenStroke {
    static constexpr FrameKind kKind = FrameKind::stroke;
    CapturedStroke stroke;
};
// Points of the stroke under the pen, from one on. Neither numbered nor kept: the whole stroke comes when the pen is
// lifted.
struct PenWriting {
    static constexpr FrameKind kKind = FrameKind::writing;
    PageAddress address;
    uint16_t begin = 0;  // which of the stroke's points is the first here
    std::vector<CapturedPoint> points;
};
struct PenBye {
    static constexpr FrameKind kKind = FrameKind::bye;
};

std::string encoded(const PenHello& message);
std::string encoded(const PenGreeting& message);
std::string encoded(const PenProof& message);
std::string encoded(const PenAdmitted& message);
std::string encoded(const PenRefused& message);
std::string encoded(const AskState& message);
std::string encoded(const PenState& message);
std::string encoded(const SetClock& message);
std::string encoded(const ChangeSettings& message);
std::string encoded(const SendAfter& message);
std::string encoded(const KeptUpTo& message);
std::string encoded(const PenStroke& message);
std::string encoded(const PenWriting& message);
std::string encoded(const PenBye& message);

// Nothing where the bytes are not what the message is.
template <typename Message>
std::optional<Message> decoded(std::string_view body);

}  // namespace fernleaf
