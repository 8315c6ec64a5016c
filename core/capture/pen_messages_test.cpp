#include "capture/pen_messages.h"

#include <gtest/gtest.h>

#include "base/bytes.h"
#include "capture/passcode.h"

namespace fernleaf {
namespace {

PenStroke a_stroke() {
    PenStroke out;
    out.stroke = {9, {2, 5, 17}, 1'790'000'000'123, {{100, -200, 255, 0, -90, 90}, {150, 300, 0, 12, 0, 0}}};
    return out;
}

TEST(PenMessages, ComeBackAsTheyWere) {
    EXPECT_EQ(decoded<PenStroke>(encoded(a_stroke()))->stroke, a_stroke().stroke);
    const PenState state{81, 12, 400, 3, 900, -5, {false, 15, 2}, 77};
    const auto back = decoded<PenState>(encoded(state));
    ASSERT_TRUE(back);
    EXPECT_EQ(back->settings, state.settings);
    EXPECT_EQ(back->clock_ms, -5);
    EXPECT_EQ(back->last, 900U);
    EXPECT_EQ(decoded<PenGreeting>(encoded(PenGreeting{"FL-1", "Walnut", {}, 3}))->name, "Walnut");
}

TEST(PenMessages, ThatAreCutOrTooLongAreNothing) {
    const std::string whole = encoded(a_stroke());
    for (size_t length = 0; length < whole.size(); ++length)
        EXPECT_FALSE(decoded<PenStroke>(whole.substr(0, length))) << length;
    EXPECT_FALSE(decoded<PenStroke>(whole + " "));
    EXPECT_FALSE(decoded<AskState>("x"));
}

TEST(PenMessages, ThatCannotBeMeantAreNothing) {
    PenStroke far = a_stroke();
    far.stroke.points[1].x = kFarthestCaptured + 1;
    EXPECT_FALSE(decoded<PenStroke>(encoded(far)));
    PenStroke none = a_stroke();
    none.stroke.points.clear();
    EXPECT_FALSE(decoded<PenStroke>(encoded(none)));
    EXPECT_FALSE(decoded<PenState>(encoded(PenState{.battery = 101, .memory = 1})));
    EXPECT_FALSE(decoded<PenState>(encoded(PenState{.battery = 81})));
    EXPECT_TRUE(decoded<PenState>(encoded(PenState{.battery = 81, .memory = 1})));
    EXPECT_FALSE(decoded<ChangeSettings>(encoded(ChangeSettings{{true, 0, 3}})));
    EXPECT_FALSE(decoded<PenGreeting>(encoded(PenGreeting{"FL\n1", "Walnut", {}, 3})));
    EXPECT_FALSE(decoded<PenGreeting>(encoded(PenGreeting{"FL-1", "\xFF", {}, 3})));
}

TEST(Passcode, IsProvedOnlyByTheSameOneForTheSamePenAndAttempt) {
    const Nonce a = fresh_nonce(), b = fresh_nonce();
    EXPECT_NE(a, b);
    const PasscodeProof proof = proof_of(key_of("4711", "FL-1"), ProofBy::computer, a, b);
    EXPECT_TRUE(same_proof(proof, proof_of(key_of("4711", "FL-1"), ProofBy::computer, a, b)));
    EXPECT_FALSE(same_proof(proof, proof_of(key_of("4712", "FL-1"), ProofBy::computer, a, b)));
    EXPECT_FALSE(same_proof(proof, proof_of(key_of("4711", "FL-2"), ProofBy::computer, a, b)));
    EXPECT_FALSE(same_proof(proof, proof_of(key_of("4711", "FL-1"), ProofBy::pen, a, b)));
    EXPECT_FALSE(same_proof(proof, proof_of(key_of("4711", "FL-1"), ProofBy::computer, b, a)));
}

TEST(PenMessages, WhatIsUnderThePenHasNoMorePointsThanAStroke) {
    PenWriting writing{{2, 5, 1}, 7, {{100, 200, 128, 8, 0, 0}}};
    const auto back = decoded<PenWriting>(encoded(writing));
    ASSERT_TRUE(back);
    EXPECT_EQ(back->begin, 7);
    EXPECT_EQ(back->points, writing.points);
    writing.begin = kMostCapturedPoints;
    EXPECT_FALSE(decoded<PenWriting>(encoded(writing)));
    EXPECT_FALSE(decoded<PenWriting>(encoded(PenWriting{{2, 5, 1}, 0, {}})));
}

}  // namespace
}  // namespace fernleaf
