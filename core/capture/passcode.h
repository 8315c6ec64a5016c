// A pen's passcode: proved by answering a challenge, never sent.
//
//   const PenKey key = key_of("4711", greeting.serial);
//   const PasscodeProof proof = proof_of(key, ProofBy::computer, hello.nonce, greeting.nonce);
//
// HMAC-SHA-256 (RFC 2104) over both sides' nonces, with a key made of passcode and serial number by BLAKE2b (RFC 7693).
// Whoever records a link can try passcodes in peace: it keeps strangers' computers from a pen, not eavesdroppers.
#pragma once

#include <string_view>

#include "capture/pen_messages.h"

namespace fernleaf {

using PenKey = std::array<uint8_t, 32>;
enum class ProofBy : uint8_t { computer = 1, pen = 2 };

PenKey key_of(std::string_view passcode, std::string_view serial);
PasscodeProof proof_of(const PenKey& key, ProofBy side, const Nonce& computer, const Nonce& pen);
// In a time that does not tell where they differ.
bool same_proof(const PasscodeProof& a, const PasscodeProof& b);
Nonce fresh_nonce();

}  // namespace fernleaf
