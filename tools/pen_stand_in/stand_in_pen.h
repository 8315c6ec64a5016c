// A smart pen, but for its nib: the pen's end of the link (docs/pen-protocol.md). It moves no bytes and looks at no
// clock itself, as PenLink.
//
//   StandInPen pen({.serial = "FL-0001", .name = "Walnut", .passcode = "4711"}, *memory);
//   pen.connect(now);
//   pen.receive(bytes, now);
//   line.send(pen.take_outgoing());
#pragma once

#include <optional>
#include <string>
#include <utility>

#include "capture/passcode.h"
#include "capture/pen_frame.h"
#include "capture/pen_link.h"
#include "capture/pen_messages.h"
#include "pen_stand_in/pen_memory.h"

namespace fernleaf {

struct PenSetup {
    std::string serial = "FL-0001", name = "Walnut", passcode = "0000";
    uint32_t room_kb = 16'384;
    double battery = 90;            // percent
    double battery_per_stroke = 0;  // that a stroke takes
    double drift = 0;               // of its clock: seconds a second
    int64_t clock_ms = 0;           // as it begins, since 1970
    PenSettings settings = {};
};

class StandInPen {
public:
    static constexpr int kTries = 10;

    // The memory outlives it.
    StandInPen(PenSetup setup, PenMemory& memory, Moment now);

    // What is written: false when it can't be captured, for its memory is full or its battery empty.
    bool write(const PageAddress& address, std::vector<CapturedPoint> points, Moment now);

    // A stroke while it is written: what is under the pen so far is told to who is linked, and captured when it is
    // lifted. Gives what write() does.
    void touch(const PageAddress& address) { under_ = {address, {}, 0}; }
    void move(const CapturedPoint& point);
    bool lift(Moment now);

    void connect();
    void disconnect() { connected_ = false; }
    bool connected() const { return connected_; }
    bool linked() const { return linked_; }
    void receive(std::string_view bytes, Moment now);
    void tick(Moment now);
    std::string take_outgoing() { return std::exchange(outgoing_, {}); }

    int64_t clock(Moment now) const;
    const PenSettings& settings() const { return setup_.settings; }
    double battery() const { return setup_.battery; }

private:
    template <typename Message>
    void say(const Message& message);
    void greet(const PenHello& hello);
    void judge(const PenProof& proof, Moment now);
    void refuse(Refusal why);
    void tell_state(Moment now);
    void send_more();
    void handle(const Frame& frame, Moment now);

    PenSetup setup_;
    PenMemory& memory_;
    Moment clock_set_;
    int64_t clock_base_;
    bool connected_ = false, linked_ = false;
    FrameReader reader_;
    std::string outgoing_;
    uint32_t said_ = 0;
    std::optional<uint32_t> heard_last_;
    std::optional<Nonce> computer_;
    Nonce own_{};
    int tries_left_ = kTries;
    int64_t locked_until_ = 0;
    std::optional<PenProof> answered_;  // the proof that was judged last
    struct UnderPen {
        PageAddress address;
        std::vector<CapturedPoint> points;
        size_t told = 0;
    };
    UnderPen under_;
    uint64_t sent_ = 0, acknowledged_ = 0;
    int64_t progress_at_ = 0;
    bool sending_ = false;
};

}  // namespace fernleaf
