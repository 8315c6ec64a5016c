#include "capture/passcode.h"

#include <sodium.h>

#include <cstdlib>

namespace fernleaf {
namespace {

const unsigned char* bytes(std::string_view text) { return reinterpret_cast<const unsigned char*>(text.data()); }

// Without its source of chance nothing here is safe.
void begin() {
    if (sodium_init() < 0) std::abort();
}

}  // namespace

PenKey key_of(std::string_view passcode, std::string_view serial) {
    begin();
    PenKey key{};
    crypto_generichash_state state;
    crypto_generichash_init(&state, nullptr, 0, key.size());
    const auto length = static_cast<unsigned char>(serial.size());  // so that it is told where one ends
    crypto_generichash_update(&state, &length, 1);
    crypto_generichash_update(&state, bytes(serial), serial.size());
    crypto_generichash_update(&state, bytes(passcode), passcode.size());
    crypto_generichash_final(&state, key.data(), key.size());
    return key;
}

PasscodeProof proof_of(const PenKey& key, ProofBy side, const Nonce& computer, const Nonce& pen) {
    begin();
    PasscodeProof out{};
    crypto_auth_hmacsha256_state state;
    crypto_auth_hmacsha256_init(&state, key.data(), key.size());
    const auto who = static_cast<unsigned char>(side);
    crypto_auth_hmacsha256_update(&state, &who, 1);
    crypto_auth_hmacsha256_update(&state, computer.data(), computer.size());
    crypto_auth_hmacsha256_update(&state, pen.data(), pen.size());
    crypto_auth_hmacsha256_final(&state, out.data());
    return out;
}

bool same_proof(const PasscodeProof& a, const PasscodeProof& b) {
    return sodium_memcmp(a.data(), b.data(), a.size()) == 0;
}

Nonce fresh_nonce() {
    begin();
    Nonce out{};
    randombytes_buf(out.data(), out.size());
    return out;
}

}  // namespace fernleaf
