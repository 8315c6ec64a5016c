// What goes over the pen link, cut into frames (docs/pen-protocol.md): numbered, bounded, with a checksum. Bytes that
// are no frame are skipped until one begins.
//
//   line.send(encoded({FrameKind::stroke, 7, body}));
//   FrameReader reader;
//   reader.feed(bytes);
//   while (const auto frame = reader.next()) ...
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

namespace fernleaf {

constexpr uint8_t kPenProtocol = 1;  // its version, in every frame
constexpr size_t kLargestFrameBody = 64 * 1024;

// As they stand in frames: numbers never change their meaning.
enum class FrameKind : uint8_t {
    hello = 1,            // computer: who asks
    greeting = 2,         // pen: who it is
    proof = 3,            // computer: that it knows the passcode
    admitted = 4,         // pen: and that it knows it, too
    refused = 5,          // pen
    ask_state = 6,        // computer
    state = 7,            // pen
    set_clock = 8,        // computer
    change_settings = 9,  // computer: settings
    send = 10,            // computer: strokes after a number
    stroke = 11,          // pen
    kept = 12,            // computer: strokes up to a number are on disk; the pen may forget them
    bye = 13,             // either
    writing = 14,         // pen: what is under it, so that it is seen before it is lifted
};

struct Frame {
    FrameKind kind{};
    uint32_t number = 0;  // counts the sender's frames
    std::string body;     // at most kLargestFrameBody
    uint8_t version = kPenProtocol;
};

std::string encoded(const Frame& frame);

class FrameReader {
public:
    void feed(std::string_view bytes) { held_.append(bytes); }
    // The next whole frame; nothing until more bytes come.
    std::optional<Frame> next();
    // Bytes that were none of a frame, and frames whose checksum was wrong, as often as asked since.
    bool take_damaged();

private:
    void skip(size_t bytes);

    std::string held_;
    bool damaged_ = false;
};

}  // namespace fernleaf
