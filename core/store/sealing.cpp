#include "store/sealing.h"

#include <sodium.h>

#include <algorithm>
#include <array>
#include <cstdlib>
#include <optional>

namespace fernleaf {
namespace {

constexpr std::string_view kHead = "fernleaf sealed 1\n";
constexpr size_t kPiece = size_t{64} * 1024, kSalt = crypto_pwhash_SALTBYTES;
constexpr size_t kBeforePieces = kHead.size() + kSalt + 8 + crypto_secretstream_xchacha20poly1305_HEADERBYTES;
constexpr uint32_t kMostPasses = 16, kMostKiB = 1U << 20;  // what a foreign file may ask for

using Key = std::array<unsigned char, crypto_secretstream_xchacha20poly1305_KEYBYTES>;

// A key that is wiped when it is no longer wanted.
class PassKey {
public:
    static std::optional<PassKey> of(std::string_view passphrase, const unsigned char* salt, uint32_t passes,
                                     uint32_t kib) {
        PassKey out;
        if (crypto_pwhash(out.key_.data(), out.key_.size(), passphrase.data(), passphrase.size(), salt, passes,
                          size_t{kib} * 1024, crypto_pwhash_ALG_ARGON2ID13) != 0)
            return {};
        return out;
    }
    PassKey(const PassKey&) = default;
    PassKey& operator=(const PassKey&) = default;
    ~PassKey() { sodium_memzero(key_.data(), key_.size()); }
    const unsigned char* data() const { return key_.data(); }

private:
    PassKey() = default;
    Key key_{};
};

void begin_sealing() {
    if (sodium_init() < 0) std::abort();  // without its source of chance nothing here is safe
}

void put_number(std::string& out, uint32_t value) {
    for (int i = 0; i < 4; ++i) out.push_back(static_cast<char>(value >> 8 * i));
}
uint32_t number_at(std::string_view bytes, size_t at) {
    uint32_t out = 0;
    for (size_t i = 0; i < 4; ++i) out |= uint32_t{static_cast<unsigned char>(bytes[at + i])} << 8 * i;
    return out;
}

const unsigned char* raw(std::string_view bytes) { return reinterpret_cast<const unsigned char*>(bytes.data()); }
unsigned char* raw(std::string& bytes) { return reinterpret_cast<unsigned char*>(bytes.data()); }

std::optional<Error> refused(std::string_view passphrase) {
    if (passphrase.empty()) return Error{"A passphrase is needed."};
    if (passphrase.size() > kLongestPassphrase)
        return Error{"A passphrase can have " + std::to_string(kLongestPassphrase) + " bytes at most."};
    return {};
}

}  // namespace

bool looks_sealed(std::string_view bytes) { return bytes.starts_with(kHead); }

Result<std::string> seal(std::string_view bytes, std::string_view passphrase) {
    if (const auto why = refused(passphrase)) return *why;
    begin_sealing();
    std::string out(kHead);
    std::array<unsigned char, kSalt> salt{};
    randombytes_buf(salt.data(), salt.size());
    out.append(reinterpret_cast<const char*>(salt.data()), salt.size());
    const uint32_t passes = crypto_pwhash_OPSLIMIT_MODERATE, kib = crypto_pwhash_MEMLIMIT_INTERACTIVE / 1024;
    put_number(out, passes);
    put_number(out, kib);
    const auto key = PassKey::of(passphrase, salt.data(), passes, kib);
    if (!key) return Error{"There is not enough memory to work out the key."};
    crypto_secretstream_xchacha20poly1305_state state;
    std::array<unsigned char, crypto_secretstream_xchacha20poly1305_HEADERBYTES> header{};
    crypto_secretstream_xchacha20poly1305_init_push(&state, header.data(), key->data());
    out.append(reinterpret_cast<const char*>(header.data()), header.size());
    size_t at = 0;
    do {
        const std::string_view piece = bytes.substr(at, kPiece);
        at += piece.size();
        std::string sealed(piece.size() + crypto_secretstream_xchacha20poly1305_ABYTES, '\0');
        crypto_secretstream_xchacha20poly1305_push(
            &state, raw(sealed), nullptr, raw(piece), piece.size(), nullptr, 0,
            at == bytes.size() ? crypto_secretstream_xchacha20poly1305_TAG_FINAL : 0);
        out += sealed;
    } while (at < bytes.size());
    sodium_memzero(&state, sizeof state);
    return out;
}

Result<std::string> unseal(std::string_view sealed, std::string_view passphrase) {
    if (const auto why = refused(passphrase)) return *why;
    if (!looks_sealed(sealed) || sealed.size() < kBeforePieces) return Error{"It is not sealed, or damaged."};
    begin_sealing();
    const std::string_view salt = sealed.substr(kHead.size(), kSalt);
    const uint32_t passes = number_at(sealed, kHead.size() + kSalt), kib = number_at(sealed, kHead.size() + kSalt + 4);
    if (passes < crypto_pwhash_OPSLIMIT_MIN || passes > kMostPasses || kib > kMostKiB ||
        kib < crypto_pwhash_MEMLIMIT_MIN / 1024)
        return Error{"It is damaged: it asks for more work than any passphrase needs."};
    const auto key = PassKey::of(passphrase, raw(salt), passes, kib);
    if (!key) return Error{"There is not enough memory to work out the key."};
    crypto_secretstream_xchacha20poly1305_state state;
    const std::string_view header =
        sealed.substr(kHead.size() + kSalt + 8, crypto_secretstream_xchacha20poly1305_HEADERBYTES);
    if (crypto_secretstream_xchacha20poly1305_init_pull(&state, raw(header), key->data()) != 0)
        return Error{"It is damaged."};
    std::string out;
    size_t at = kBeforePieces;
    unsigned char tag = 0;
    constexpr size_t kSealedPiece = kPiece + crypto_secretstream_xchacha20poly1305_ABYTES;
    while (at < sealed.size()) {
        const std::string_view piece = sealed.substr(at, kSealedPiece);
        at += piece.size();
        if (piece.size() < crypto_secretstream_xchacha20poly1305_ABYTES) return Error{"It is cut off."};
        const size_t before = out.size();
        out.resize(before + piece.size() - crypto_secretstream_xchacha20poly1305_ABYTES);
        if (crypto_secretstream_xchacha20poly1305_pull(&state, raw(out) + before, nullptr, &tag, raw(piece),
                                                       piece.size(), nullptr, 0) != 0)
            return before == 0 ? Error{"The passphrase is not the right one, or the file was changed."}
                               : Error{"It was changed or is damaged; nothing of it is used."};
        if (tag == crypto_secretstream_xchacha20poly1305_TAG_FINAL) break;
    }
    sodium_memzero(&state, sizeof state);
    if (tag != crypto_secretstream_xchacha20poly1305_TAG_FINAL || at != sealed.size())
        return Error{"It is cut off, or something was added; nothing of it is used."};
    return out;
}

}  // namespace fernleaf
