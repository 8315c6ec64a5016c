// The computer's end of a pen link: greets, proves the passcode, takes the pen's strokes in order, and tells the pen
// to forget them once they are on disk. It moves no bytes and looks at no clock itself, so whatever a line or a pen may
// do wrong can be tried in tests; run_pen_link() drives one over a transport.
//
// Strokes are numbered by the pen. Only the next one is taken; those that came before are passed over, and where one is
// missing the pen is asked to go on from there (go-back-N: Tanenbaum and Wetherall, "Computer Networks", 3.4). What is
// kept is told by the highest number on disk. So none is lost and none is doubled, whenever line, pen or program end.
#pragma once

#include <functional>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <vector>

#include "base/cancel.h"
#include "capture/passcode.h"
#include "capture/pen_clock.h"
#include "capture/pen_frame.h"
#include "capture/pen_messages.h"
#include "capture/pen_record.h"
#include "capture/pen_transport.h"

namespace fernleaf {

// Where captures are kept. Called on the link's thread.
class CaptureKeeper {
public:
    virtual ~CaptureKeeper() = default;
    // Of a pen that was never seen: all but its serial empty.
    virtual Result<PenRecord> pen(const std::string& serial) = 0;
    virtual Status remember(const PenRecord& pen) = 0;  // all but what is kept
    // The pen was reset: its strokes are numbered from 1 again, in a memory of this number.
    virtual Status begin_anew(const std::string& serial, uint64_t memory) = 0;
    // On disk when it returns. Strokes follow what is kept without a gap; their times are the computer's.
    virtual Status keep(const std::string& serial, const std::vector<CapturedStroke>& strokes) = 0;
    // The stroke under the pen, as far as it is known; it is kept when the pen is lifted.
    virtual void writing(const CapturedStroke& so_far) { static_cast<void>(so_far); }
};

enum class LinkStage { greeting, locked, proving, linked, ended };

struct LinkStatus {
    LinkStage stage = LinkStage::greeting;
    PenRecord pen;
    int tries_left = 0;  // locked: to give the passcode
    bool wrong_passcode = false;
    std::string problem;    // what could not be kept and is tried again; ended: why, empty when it was left
    bool answered = false;  // whether a pen spoke at all
    bool drained = false;   // the pen has nothing that is not kept
    uint64_t to_come = 0;   // strokes
    friend bool operator==(const LinkStatus& a, const LinkStatus& b);
};

// Moments: steady_ms never leaps, wall_ms is since 1970.
struct Moment {
    int64_t steady_ms = 0;
    int64_t wall_ms = 0;
};

class PenLink {
public:
    // changed: the status is another now. Both outlive it.
    PenLink(CaptureKeeper& keeper, std::string computer, std::function<void(const LinkStatus&)> changed);

    void begin(Moment now);
    void receive(std::string_view bytes, Moment now);
    void tick(Moment now);  // at least ten times a second
    void give_passcode(const std::string& passcode, Moment now);
    void change_settings(const PenSettings& settings, Moment now);
    void leave();
    std::string take_outgoing();
    const LinkStatus& status() const { return status_; }

private:
    void greeted(const PenGreeting& greeting, Moment now);
    void prove(const PenKey& key, Moment now);
    void admitted(const PenAdmitted& message, Moment now);
    void refused(const PenRefused& message);
    void heard_state(const PenState& state, Moment now);
    void heard_stroke(CapturedStroke stroke, Moment now);
    void heard_writing(const PenWriting& writing);
    void handle(const Frame& frame, Moment now);
    void keep_held(Moment now);
    void ask_again(Moment now);
    void count_to_come();
    void end(const std::string& why);
    void tell();
    template <typename Message>
    void say(const Message& message);

    CaptureKeeper& keeper_;
    std::string computer_;
    std::function<void(const LinkStatus&)> changed_;
    FrameReader reader_;
    std::string outgoing_;
    uint32_t said_ = 0;                   // frames
    std::optional<uint32_t> heard_last_;  // the highest frame number
    LinkStatus status_, told_;
    Nonce own_nonce_{}, pen_nonce_{};
    std::optional<PenKey> tried_;  // the key that is being proved
    bool typed_ = false;           // it was not remembered
    PenClock clock_;
    bool clock_known_ = false;
    std::optional<PenSettings> wanted_;
    std::vector<CapturedStroke> held_;  // that are to be kept
    CapturedStroke under_pen_;
    uint64_t expected_ = 1;
    uint64_t pens_last_ = 0;
    int64_t stage_began_ = 0, said_at_ = 0, heard_at_ = 0, asked_state_ = 0, asked_again_ = 0, failed_at_ = 0;
    bool clock_asked_ = false;
};

// What others ask of a link that runs on its own thread.
class PenRequests {
public:
    void give_passcode(std::string passcode);
    void change_settings(const PenSettings& settings);

private:
    friend Status run_pen_link(PenLink&, PenTransport&, PenRequests&, const CancelToken&,
                               const std::function<bool(const LinkStatus&)>&);
    std::mutex mutex_;
    std::optional<std::string> passcode_;
    std::optional<PenSettings> settings_;
};

// Drives a link on this thread until it ends, is cancelled, or enough() says so of its status. An error when it ended
// by itself.
Status run_pen_link(PenLink& link, PenTransport& line, PenRequests& requests, const CancelToken& cancel,
                    const std::function<bool(const LinkStatus&)>& enough);

}  // namespace fernleaf
