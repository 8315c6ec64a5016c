// Whatever a pen, or something that is none, may say: it must end in a status, and nothing but strokes in order may be
// kept.
#include <algorithm>
#include <cstdint>
#include <cstdlib>
#include <string>

#include "capture/pen_link.h"

using namespace fernleaf;

namespace {

class Keeper : public CaptureKeeper {
public:
    Result<PenRecord> pen(const std::string& serial) override {
        PenRecord out;
        out.serial = serial;
        out.key = PenKey{};
        return out;
    }
    Status remember(const PenRecord&) override { return Done{}; }
    Status begin_anew(const std::string&, uint64_t) override {
        kept_ = 0;
        return Done{};
    }
    Status keep(const std::string&, const std::vector<CapturedStroke>& strokes) override {
        for (const CapturedStroke& s : strokes)
            if (s.number != ++kept_ || s.points.empty() || s.start_ms < 0) std::abort();
        return Done{};
    }

private:
    uint64_t kept_ = 0;
};

constexpr uint32_t kGreeted = 2;  // frames that a pen has said when it is linked

template <typename Message>
std::string framed(uint32_t number, const Message& message) {
    return encoded(Frame{Message::kKind, number, encoded(message)});
}

// A pen that knows the passcode says what makes it linked; one in two stays before that.
void greet(PenLink& link, Moment now) {
    FrameReader said;
    said.feed(link.take_outgoing());
    const auto hello = decoded<PenHello>(said.next()->body);
    link.receive(framed(0, PenGreeting{"FL-1", "Walnut", Nonce{}, 3}), now);
    link.receive(framed(1, PenAdmitted{proof_of(PenKey{}, ProofBy::pen, hello->nonce, Nonce{})}), now);
    if (link.status().stage != LinkStage::linked) std::abort();
}

// Half of the inputs are bytes as they come, the others bodies of frames whose heads and checksums are right.
std::string as_frames(const uint8_t* data, size_t size) {
    std::string out;
    for (uint32_t number = kGreeted; size > 1; ++number) {
        const size_t length = std::min<size_t>(size - 1, data[0] % 80);
        out += encoded(Frame{static_cast<FrameKind>(1 + data[1] % 14), number,
                             std::string(reinterpret_cast<const char*>(data) + 1, length)});
        data += length + 1, size -= length + 1;
    }
    return out;
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const uint8_t* data, size_t size) {
    if (size == 0) return 0;
    const std::string bytes = data[0] % 2 == 0 ? std::string(reinterpret_cast<const char*>(data) + 1, size - 1)
                                               : as_frames(data + 1, size - 1);
    Keeper keeper;
    PenLink link(keeper, "fuzz", {});
    Moment now{1000, 1'790'000'000'000};
    link.begin(now);
    if (data[0] / 2 % 2 == 0) greet(link, now);
    for (size_t at = 0; at < bytes.size(); at += 37) {
        now.steady_ms += 50, now.wall_ms += 50;
        link.receive(std::string_view(bytes).substr(at, 37), now);
        link.tick(now);
        link.take_outgoing();
    }
    return 0;
}
