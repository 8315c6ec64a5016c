// What only a passphrase opens: bytes sealed with a key of their own, which the passphrase unlocks.
//
//   auto sealed = seal(bytes, passphrase);
//   auto bytes = unseal(*sealed, passphrase);      // an error where the passphrase is another, or a bit was changed
//
// The key is derived by Argon2id (RFC 9106) and the bytes are sealed by XChaCha20-Poly1305 in pieces of 64 KiB, each
// bound to its place (libsodium's secretstream). A sealed file: "fernleaf sealed 1\n", 16 bytes of salt, Argon2id's
// passes and memory in KiB (4 bytes each, little endian), the stream's header, the pieces.
#pragma once

#include <string>
#include <string_view>

#include "base/result.h"

namespace fernleaf {

constexpr size_t kLongestPassphrase = 4096;  // bytes

bool looks_sealed(std::string_view bytes);
// Takes about half a second and 64 MB, by intent. Errors: an empty or too long passphrase; no memory.
Result<std::string> seal(std::string_view bytes, std::string_view passphrase);
Result<std::string> unseal(std::string_view sealed, std::string_view passphrase);

}  // namespace fernleaf
