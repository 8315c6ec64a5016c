#include "pen_stand_in/stand_in_pen.h"

#include <algorithm>
#include <cmath>

namespace fernleaf {
namespace {

constexpr uint64_t kWindow = 256;        // strokes on their way at once
constexpr int64_t kResendAfterMs = 400;  // without any of them kept
constexpr int64_t kLockedMs = 900'000;   // after too many wrong passcodes
constexpr size_t kMostOutgoing = size_t{256} * 1024;

}  // namespace

StandInPen::StandInPen(PenSetup setup, PenMemory& memory, Moment now)
    : setup_(std::move(setup)), memory_(memory), clock_set_(now), clock_base_(setup_.clock_ms) {}

template <typename Message>
void StandInPen::say(const Message& message) {
    outgoing_ += encoded(Frame{Message::kKind, said_++, encoded(message)});
}

int64_t StandInPen::clock(Moment now) const {
    const auto passed = static_cast<double>(now.steady_ms - clock_set_.steady_ms);
    return clock_base_ + static_cast<int64_t>(std::llround(passed * (1 + setup_.drift)));
}

bool StandInPen::write(const PageAddress& address, std::vector<CapturedPoint> points, Moment now) {
    if (setup_.battery <= 0 || memory_.bytes() / 1024 >= setup_.room_kb || points.empty()) return false;
    setup_.battery = std::max(0.0, setup_.battery - setup_.battery_per_stroke);
    int64_t length = 0;
    for (const CapturedPoint& p : points) length += p.after_ms;
    if (!memory_.add({0, address, clock(now) - length, std::move(points)})) return false;
    if (linked_ && sending_) send_more();
    return true;
}

void StandInPen::move(const CapturedPoint& point) {
    if (under_.points.size() < kMostCapturedPoints) under_.points.push_back(point);
}

bool StandInPen::lift(Moment now) {
    const UnderPen written = std::exchange(under_, {});
    return write(written.address, written.points, now);
}

void StandInPen::connect() {
    connected_ = true;
    linked_ = sending_ = false;
    reader_ = {};
    outgoing_.clear();
    heard_last_.reset(), computer_.reset(), answered_.reset();
    own_ = fresh_nonce();
}

void StandInPen::receive(std::string_view bytes, Moment now) {
    if (!connected_ || setup_.battery <= 0) return;
    reader_.feed(bytes);
    while (const auto frame = reader_.next()) handle(*frame, now);
}

void StandInPen::handle(const Frame& frame, Moment now) {
    if (frame.version != kPenProtocol) return refuse(Refusal::version);
    if (heard_last_ && frame.number <= *heard_last_) return;
    heard_last_ = frame.number;
    if (frame.kind == FrameKind::hello) {
        if (const auto hello = decoded<PenHello>(frame.body)) greet(*hello);
        return;
    }
    if (frame.kind == FrameKind::bye) return disconnect();
    if (frame.kind == FrameKind::proof) {
        if (const auto proof = decoded<PenProof>(frame.body); proof && computer_) judge(*proof, now);
        return;
    }
    if (!linked_) return;
    if (frame.kind == FrameKind::ask_state) {
        tell_state(now);
    } else if (const auto clock = decoded<SetClock>(frame.body); frame.kind == FrameKind::set_clock && clock) {
        clock_set_ = now, clock_base_ = clock->clock_ms;
        tell_state(now);
    } else if (const auto setting = decoded<ChangeSettings>(frame.body);
               frame.kind == FrameKind::change_settings && setting) {
        setup_.settings = setting->settings;
        tell_state(now);
    } else if (const auto after = decoded<SendAfter>(frame.body); frame.kind == FrameKind::send && after) {
        sent_ = acknowledged_ = after->number;
        sending_ = true;
        progress_at_ = now.steady_ms;
        send_more();
    } else if (const auto kept = decoded<KeptUpTo>(frame.body); frame.kind == FrameKind::kept && kept) {
        memory_.forget(kept->number);
        acknowledged_ = std::max(acknowledged_, kept->number);
        sent_ = std::max(sent_, acknowledged_);
        progress_at_ = now.steady_ms;
        send_more();
    }
}

void StandInPen::greet(const PenHello& hello) {
    if (!computer_ || *computer_ != hello.nonce) {
        computer_ = hello.nonce;
        answered_.reset();
        linked_ = sending_ = false;
    }
    say(PenGreeting{setup_.serial, setup_.name, own_, static_cast<uint8_t>(tries_left_)});
}

void StandInPen::refuse(Refusal why) { say(PenRefused{why, static_cast<uint8_t>(tries_left_), own_}); }

void StandInPen::judge(const PenProof& proof, Moment now) {
    const PenKey key = key_of(setup_.passcode, setup_.serial);
    const auto admit = [&] { say(PenAdmitted{proof_of(key, ProofBy::pen, *computer_, own_)}); };
    // The answer may have been lost: the same proof counts once.
    if (answered_ && answered_->proof == proof.proof) {
        if (linked_) return admit();
        return refuse(tries_left_ > 0 ? Refusal::passcode : Refusal::locked);
    }
    if (locked_until_ > 0 && now.steady_ms >= locked_until_) tries_left_ = kTries, locked_until_ = 0;
    if (tries_left_ == 0) return refuse(Refusal::locked);
    answered_ = proof;
    if (same_proof(proof.proof, proof_of(key, ProofBy::computer, *computer_, own_))) {
        tries_left_ = kTries;
        linked_ = true;
        return admit();
    }
    if (--tries_left_ == 0) {
        locked_until_ = now.steady_ms + kLockedMs;
        return refuse(Refusal::locked);
    }
    own_ = fresh_nonce();
    refuse(Refusal::passcode);
}

void StandInPen::tell_state(Moment now) {
    PenState state;
    state.battery = static_cast<uint8_t>(std::clamp(setup_.battery, 0.0, 100.0));
    state.room_kb = setup_.room_kb;
    state.used_kb = std::min(setup_.room_kb, static_cast<uint32_t>((memory_.bytes() + 1023) / 1024));
    state.first = memory_.strokes().empty() ? 0 : memory_.strokes().front().number;
    state.last = memory_.last();
    state.clock_ms = clock(now);
    state.settings = setup_.settings;
    state.memory = memory_.number();
    say(state);
}

void StandInPen::send_more() {
    if (!sending_ || memory_.strokes().empty()) return;
    const uint64_t first = memory_.strokes().front().number;
    sent_ = std::max(sent_, first - 1);
    while (sent_ < memory_.last() && sent_ - std::min(sent_, acknowledged_) < kWindow &&
           outgoing_.size() < kMostOutgoing) {
        say(PenStroke{memory_.strokes()[sent_ + 1 - first]});
        ++sent_;
    }
}

void StandInPen::tick(Moment now) {
    if (!connected_ || !linked_ || !sending_ || setup_.battery <= 0) return;
    if (sent_ > acknowledged_ && now.steady_ms - progress_at_ > kResendAfterMs) {
        sent_ = acknowledged_;
        progress_at_ = now.steady_ms;
    }
    send_more();
    // What is under the pen is of use only to who has all that came before.
    if (sent_ < memory_.last() || under_.told == under_.points.size() || outgoing_.size() >= kMostOutgoing) return;
    const auto from = under_.points.begin() + static_cast<std::ptrdiff_t>(under_.told);
    say(PenWriting{under_.address, static_cast<uint16_t>(under_.told), {from, under_.points.end()}});
    under_.told = under_.points.size();
}

}  // namespace fernleaf
