// Numbers and texts as bytes, little-endian, and back with every length checked.
//
//   ByteWriter out;
//   out.put(uint16_t{3}).text("Walks");
//   ByteReader in(out.bytes());
//   const auto pages = in.number<uint16_t>();
//   if (in.failed()) ...          // there was less than was asked for
#pragma once

#include <concepts>
#include <cstdint>
#include <string>
#include <string_view>
#include <type_traits>

namespace fernleaf {

class ByteWriter {
public:
    template <std::integral T>
    ByteWriter& put(T value) {
        const auto bits = static_cast<std::make_unsigned_t<T>>(value);
        for (size_t i = 0; i < sizeof(T); ++i) bytes_.push_back(static_cast<char>(bits >> (8 * i) & 0xFF));
        return *this;
    }
    ByteWriter& raw(std::string_view bytes) {
        bytes_.append(bytes);
        return *this;
    }
    // Its length before it; at most 65,535 bytes of it.
    ByteWriter& text(std::string_view text) {
        const auto length = static_cast<uint16_t>(text.size() < 0xFFFF ? text.size() : 0xFFFF);
        return put(length).raw(text.substr(0, length));
    }
    const std::string& bytes() const { return bytes_; }

private:
    std::string bytes_;
};

// What is not there reads as zeros and nothing; failed() tells.
class ByteReader {
public:
    explicit ByteReader(std::string_view bytes) : bytes_(bytes) {}

    template <std::integral T>
    T number() {
        std::make_unsigned_t<T> bits = 0;
        const std::string_view from = raw(sizeof(T));
        for (size_t i = 0; i < from.size(); ++i)
            bits = static_cast<std::make_unsigned_t<T>>(
                bits | static_cast<std::make_unsigned_t<T>>(
                           static_cast<std::make_unsigned_t<T>>(static_cast<unsigned char>(from[i])) << (8 * i)));
        return static_cast<T>(bits);
    }
    std::string_view raw(size_t count) {
        if (count > bytes_.size()) {
            failed_ = true;
            bytes_ = {};
            return {};
        }
        const std::string_view out = bytes_.substr(0, count);
        bytes_.remove_prefix(count);
        return out;
    }
    std::string text() { return std::string(raw(number<uint16_t>())); }

    bool failed() const { return failed_; }
    bool at_end() const { return bytes_.empty(); }

private:
    std::string_view bytes_;
    bool failed_ = false;
};

}  // namespace fernleaf
