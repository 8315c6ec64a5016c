#include "capture/pen_link.h"

#include <algorithm>
#include <chrono>
#include <tuple>

#include "base/now.h"

namespace fernleaf {
namespace {

// ms
constexpr int64_t kAgainAfter = 500, kNoAnswerAfter = 5000;    // of greeting and passcode
constexpr int64_t kStateEvery = 2000, kGoneAfter = 8000;       // while it is linked
constexpr int64_t kAskAgainAfter = 300, kStalledAfter = 1000;  // for strokes that are missing
constexpr int64_t kTryDiskAgainAfter = 2000;
constexpr int64_t kClockOff = 1500;
constexpr int kHearMs = 20;

constexpr char kNoAnswer[] = "No pen answers there.";
constexpr char kGone[] = "The pen is out of reach. What it has not sent yet stays in its memory.";
constexpr char kOtherVersion[] = "This pen speaks another version of the pen link. Update Fernleaf or the pen.";
constexpr char kNotUnderstood[] =
    "The pen sent something that Fernleaf doesn't understand. What is in its memory stays there.";
constexpr char kOtherPen[] = "This is not the pen it says it is. Nothing was taken from it.";
constexpr char kLockedUp[] = "The pen is locked after too many wrong passcodes. Try again in a quarter of an hour.";
constexpr char kBusy[] = "The pen is linked with another computer.";

}  // namespace

bool operator==(const LinkStatus& a, const LinkStatus& b) {
    const auto parts = [](const LinkStatus& s) {
        return std::tuple(s.stage, s.pen.serial, s.pen.name, s.pen.kept, s.pen.state.battery, s.pen.state.used_kb,
                          s.pen.state.room_kb, s.pen.state.settings.sound, s.pen.state.settings.power_off_minutes,
                          s.pen.state.settings.sensitivity, s.tries_left, s.wrong_passcode, s.problem, s.drained,
                          s.to_come);
    };
    return parts(a) == parts(b);
}

PenLink::PenLink(CaptureKeeper& keeper, std::string computer, std::function<void(const LinkStatus&)> changed)
    : keeper_(keeper), computer_(std::move(computer)), changed_(std::move(changed)) {}

template <typename Message>
void PenLink::say(const Message& message) {
    outgoing_ += encoded(Frame{Message::kKind, said_++, encoded(message)});
}

std::string PenLink::take_outgoing() { return std::exchange(outgoing_, {}); }

void PenLink::tell() {
    if (status_ == told_) return;
    told_ = status_;
    if (changed_) changed_(status_);
}

void PenLink::end(const std::string& why) {
    if (status_.stage == LinkStage::ended) return;
    status_.stage = LinkStage::ended;
    status_.problem = why;
    tell();
}

void PenLink::leave() {
    if (status_.stage == LinkStage::ended) return;
    say(PenBye{});
    end({});
}

void PenLink::begin(Moment now) {
    own_nonce_ = fresh_nonce();
    stage_began_ = said_at_ = heard_at_ = now.steady_ms;
    say(PenHello{computer_, own_nonce_});
}

void PenLink::receive(std::string_view bytes, Moment now) {
    reader_.feed(bytes);
    while (status_.stage != LinkStage::ended) {
        const auto frame = reader_.next();
        if (!frame) break;
        handle(*frame, now);
    }
    const bool damaged = reader_.take_damaged();
    if (status_.stage == LinkStage::ended) return;
    keep_held(now);
    if (damaged && status_.stage == LinkStage::linked) ask_again(now);
    tell();
}

void PenLink::handle(const Frame& frame, Moment now) {
    if (frame.version != kPenProtocol) return end(kOtherVersion);
    // Strokes have numbers of their own; of all else what comes twice or late is void.
    if (frame.kind != FrameKind::stroke && heard_last_ && frame.number <= *heard_last_) return;
    heard_last_ = std::max(heard_last_.value_or(0), frame.number);
    heard_at_ = now.steady_ms;
    const auto as = [&]<typename Message>(auto use, std::type_identity<Message>) {
        const auto message = decoded<Message>(frame.body);
        message ? use(*message) : end(kNotUnderstood);
    };
    switch (frame.kind) {
        case FrameKind::greeting:
            return as([&](const PenGreeting& m) { greeted(m, now); }, std::type_identity<PenGreeting>{});
        case FrameKind::admitted:
            return as([&](const PenAdmitted& m) { admitted(m, now); }, std::type_identity<PenAdmitted>{});
        case FrameKind::refused:
            return as([&](const PenRefused& m) { refused(m); }, std::type_identity<PenRefused>{});
        case FrameKind::state:
            return as([&](const PenState& m) { heard_state(m, now); }, std::type_identity<PenState>{});
        case FrameKind::stroke:
            return as([&](const PenStroke& m) { heard_stroke(m.stroke, now); }, std::type_identity<PenStroke>{});
        case FrameKind::writing:
            return as([&](const PenWriting& m) { heard_writing(m); }, std::type_identity<PenWriting>{});
        case FrameKind::bye:
            return end(kGone);
        default:
            return end(kNotUnderstood);  // a computer's message, or none that there is
    }
}

void PenLink::greeted(const PenGreeting& greeting, Moment now) {
    if (status_.stage != LinkStage::greeting) return;
    auto known = keeper_.pen(greeting.serial);
    if (!known) return end(known.error().message);
    status_.answered = true;
    status_.pen = *std::move(known);
    status_.pen.name = greeting.name;
    status_.tries_left = greeting.tries_left;
    pen_nonce_ = greeting.nonce;
    stage_began_ = now.steady_ms;
    typed_ = false;
    if (status_.pen.key)
        prove(PenKey(*status_.pen.key), now);
    else
        status_.stage = LinkStage::locked;
}

void PenLink::give_passcode(const std::string& passcode, Moment now) {
    if (status_.stage != LinkStage::locked) return;
    typed_ = true;
    prove(key_of(passcode, status_.pen.serial), now);
    tell();
}

void PenLink::prove(const PenKey& key, Moment now) {
    tried_ = key;
    status_.stage = LinkStage::proving;
    status_.wrong_passcode = false;
    stage_began_ = said_at_ = now.steady_ms;
    say(PenProof{proof_of(key, ProofBy::computer, own_nonce_, pen_nonce_)});
}

void PenLink::admitted(const PenAdmitted& message, Moment now) {
    if (status_.stage != LinkStage::proving) return;
    if (!same_proof(message.proof, proof_of(*tried_, ProofBy::pen, own_nonce_, pen_nonce_))) return end(kOtherPen);
    status_.pen.key = tried_;
    status_.pen.seen_ms = now.wall_ms;
    if (const Status status = keeper_.remember(status_.pen); !status) return end(status.error().message);
    status_.stage = LinkStage::linked;
    stage_began_ = asked_state_ = asked_again_ = now.steady_ms;
    expected_ = status_.pen.kept + 1;
    say(AskState{});
    // Strokes are asked for when it is known how the pen's clock goes.
}

void PenLink::refused(const PenRefused& message) {
    if (message.why == Refusal::version) return end(kOtherVersion);
    if (message.why == Refusal::busy) return end(kBusy);
    if (message.why == Refusal::locked) return end(kLockedUp);
    if (status_.stage != LinkStage::proving) return;
    pen_nonce_ = message.nonce;
    status_.tries_left = message.tries_left;
    status_.wrong_passcode = typed_;  // else it was changed, and is asked for
    status_.stage = LinkStage::locked;
}

void PenLink::heard_state(const PenState& state, Moment now) {
    if (status_.stage != LinkStage::linked) return;
    const bool news = !clock_known_ || status_.pen.state.battery != state.battery;
    status_.pen.state = state;
    status_.pen.seen_ms = now.wall_ms;
    pens_last_ = state.last;
    if (news)
        static_cast<void>(keeper_.remember(status_.pen));  // for when it is away; what is missing then does no harm
    if (status_.pen.memory != state.memory) {
        // What was kept of a memory that is not known is taken to be of this one.
        if (status_.pen.memory != 0) {
            if (clock_known_) return end(kOtherPen);  // no pen is reset while it is linked
            if (const Status begun = keeper_.begin_anew(status_.pen.serial, state.memory); !begun)
                return end(begun.error().message);
            status_.pen.kept = 0;
            expected_ = 1;
        }
        status_.pen.memory = state.memory;
        if (const Status kept = keeper_.remember(status_.pen); !kept) return end(kept.error().message);
    }
    if (state.last < status_.pen.kept)
        return end("This pen's memory is damaged: strokes are missing from it. Reset the pen.");
    // The pen did not hear it the first time.
    if (state.first != 0 && state.first <= status_.pen.kept) say(KeptUpTo{status_.pen.kept});
    if (!clock_known_) {
        clock_known_ = true;
        clock_ = {status_.pen.clock_set_ms, now.wall_ms, state.clock_ms, 0};
        asked_again_ = now.steady_ms;
        say(SendAfter{status_.pen.kept});
    }
    if (wanted_ && state.settings == *wanted_) wanted_.reset();
    count_to_come();
    if (!status_.drained) return;
    const bool off = std::abs(state.clock_ms - now.wall_ms) > kClockOff;
    if (!off && clock_asked_) {
        clock_asked_ = false;
        status_.pen.clock_set_ms = clock_.reset_ms;
        static_cast<void>(keeper_.remember(status_.pen));  // else drift is told less well the next time
    } else if (off || (clock_.reset_ms == 0 && !clock_asked_)) {
        if (clock_.reset_ms == 0 || off) clock_.reset_ms = now.wall_ms;
        clock_asked_ = true;
        say(SetClock{now.wall_ms});
    }
}

void PenLink::heard_stroke(CapturedStroke stroke, Moment now) {
    if (status_.stage != LinkStage::linked || !clock_known_) return;
    pens_last_ = std::max(pens_last_, stroke.number);
    if (stroke.number < expected_) return;
    if (stroke.number > expected_) return ask_again(now);
    stroke.start_ms = true_time(clock_, stroke.start_ms, now.wall_ms);
    ++expected_;
    held_.push_back(std::move(stroke));
}

// Where a piece was lost, the stroke is seen up to there until the pen is lifted.
void PenLink::heard_writing(const PenWriting& writing) {
    if (status_.stage != LinkStage::linked || !status_.drained) return;
    if (writing.begin == 0) under_pen_ = {0, writing.address, 0, {}};
    if (writing.address != under_pen_.address || writing.begin != under_pen_.points.size()) return;
    under_pen_.points.insert(under_pen_.points.end(), writing.points.begin(), writing.points.end());
    keeper_.writing(under_pen_);
}

void PenLink::keep_held(Moment now) {
    if (!held_.empty() && (failed_at_ == 0 || now.steady_ms - failed_at_ >= kTryDiskAgainAfter)) {
        if (const Status status = keeper_.keep(status_.pen.serial, held_); !status) {
            failed_at_ = now.steady_ms;
            status_.problem = status.error().message;
            if (!status.error().passing) return end(status.error().message);
        } else {
            failed_at_ = 0;
            status_.problem.clear();
            status_.pen.kept = held_.back().number;
            held_.clear();
            asked_again_ = now.steady_ms;
            say(KeptUpTo{status_.pen.kept});
        }
    }
    count_to_come();
}

void PenLink::count_to_come() {
    status_.to_come = pens_last_ > status_.pen.kept ? pens_last_ - status_.pen.kept : 0;
    status_.drained = clock_known_ && status_.to_come == 0;
}

void PenLink::ask_again(Moment now) {
    if (!clock_known_ || now.steady_ms - asked_again_ < kAskAgainAfter) return;
    asked_again_ = now.steady_ms;
    say(SendAfter{expected_ - 1});
}

void PenLink::change_settings(const PenSettings& settings, Moment now) {
    if (status_.stage != LinkStage::linked) return;
    wanted_ = settings;
    asked_state_ = now.steady_ms;
    say(ChangeSettings{settings});
}

void PenLink::tick(Moment now) {
    const int64_t since_said = now.steady_ms - said_at_, in_stage = now.steady_ms - stage_began_;
    switch (status_.stage) {
        case LinkStage::greeting:
        case LinkStage::proving:
            if (in_stage > kNoAnswerAfter) return end(kNoAnswer);
            if (since_said < kAgainAfter) return;
            said_at_ = now.steady_ms;
            if (status_.stage == LinkStage::greeting)
                say(PenHello{computer_, own_nonce_});
            else
                say(PenProof{proof_of(*tried_, ProofBy::computer, own_nonce_, pen_nonce_)});
            return;
        case LinkStage::linked:
            if (now.steady_ms - heard_at_ > kGoneAfter) return end(kGone);
            keep_held(now);
            if (status_.stage != LinkStage::linked) return;
            if (now.steady_ms - asked_state_ > (clock_known_ && !wanted_ ? kStateEvery : kAgainAfter)) {
                asked_state_ = now.steady_ms;
                if (wanted_)
                    say(ChangeSettings{*wanted_});
                else
                    say(AskState{});
            }
            if (status_.to_come > 0 && held_.empty() && now.steady_ms - asked_again_ > kStalledAfter) ask_again(now);
            return tell();
        case LinkStage::locked:
        case LinkStage::ended:
            return;
    }
}

void PenRequests::give_passcode(std::string passcode) {
    const std::lock_guard lock(mutex_);
    passcode_ = std::move(passcode);
}

void PenRequests::change_settings(const PenSettings& settings) {
    const std::lock_guard lock(mutex_);
    settings_ = settings;
}

Status run_pen_link(PenLink& link, PenTransport& line, PenRequests& requests, const CancelToken& cancel,
                    const std::function<bool(const LinkStatus&)>& enough) {
    using namespace std::chrono;
    const auto moment = [] {
        return Moment{duration_cast<milliseconds>(steady_clock::now().time_since_epoch()).count(), now_ms()};
    };
    link.begin(moment());
    std::string heard;
    for (;;) {
        if (cancel.cancelled() || enough(link.status())) link.leave();
        if (const std::string out = link.take_outgoing(); !out.empty())
            if (!line.send(out) && link.status().stage != LinkStage::ended)
                return Error{link.status().answered ? kGone : kNoAnswer, true};
        if (link.status().stage == LinkStage::ended) break;
        heard.clear();
        const PenTransport::Heard how = line.hear(heard, kHearMs);
        if (how == PenTransport::Heard::end) return Error{link.status().answered ? kGone : kNoAnswer, true};
        if (!heard.empty()) link.receive(heard, moment());
        std::optional<std::string> passcode;
        std::optional<PenSettings> settings;
        {
            const std::lock_guard lock(requests.mutex_);
            if (link.status().stage == LinkStage::locked) passcode = std::exchange(requests.passcode_, std::nullopt);
            if (link.status().stage == LinkStage::linked) settings = std::exchange(requests.settings_, std::nullopt);
        }
        if (passcode) link.give_passcode(*passcode, moment());
        if (settings) link.change_settings(*settings, moment());
        link.tick(moment());
    }
    if (!link.status().problem.empty()) return Error{link.status().problem, true};
    return Done{};
}

}  // namespace fernleaf
