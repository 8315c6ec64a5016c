#include "capture/pen_frame.h"

#include <zlib.h>

#include <algorithm>
#include <utility>

#include "base/bytes.h"

namespace fernleaf {
namespace {

constexpr std::string_view kBegins = "FLPN";
constexpr size_t kHead = 14, kTail = 4;  // bytes before and after a body

uint32_t checksum(std::string_view bytes) {
    return static_cast<uint32_t>(
        crc32(0, reinterpret_cast<const Bytef*>(bytes.data()), static_cast<uInt>(bytes.size())));
}

}  // namespace

std::string encoded(const Frame& frame) {
    ByteWriter out;
    out.raw(kBegins).put(frame.version).put(static_cast<uint8_t>(frame.kind)).put(frame.number);
    out.put(static_cast<uint32_t>(frame.body.size())).raw(frame.body);
    return out.put(checksum(out.bytes())).bytes();
}

void FrameReader::skip(size_t bytes) {
    held_.erase(0, bytes);
    damaged_ = damaged_ || bytes > 0;
}

std::optional<Frame> FrameReader::next() {
    for (;;) {
        const size_t begin = held_.find(kBegins);
        if (begin == std::string::npos) {
            // A beginning may be cut in two.
            size_t kept = std::min(held_.size(), kBegins.size() - 1);
            while (kept > 0 && !kBegins.starts_with(std::string_view(held_).substr(held_.size() - kept))) --kept;
            skip(held_.size() - kept);
            return std::nullopt;
        }
        skip(begin);
        if (held_.size() < kHead) return std::nullopt;
        ByteReader head(std::string_view(held_).substr(kBegins.size()));
        Frame frame;
        frame.version = head.number<uint8_t>();
        frame.kind = static_cast<FrameKind>(head.number<uint8_t>());
        frame.number = head.number<uint32_t>();
        const size_t length = head.number<uint32_t>();
        if (length > kLargestFrameBody) {
            skip(1);
            continue;
        }
        if (held_.size() < kHead + length + kTail) return std::nullopt;
        const std::string_view whole = std::string_view(held_).substr(0, kHead + length);
        if (ByteReader(std::string_view(held_).substr(kHead + length)).number<uint32_t>() != checksum(whole)) {
            skip(1);
            continue;
        }
        frame.body = whole.substr(kHead);
        held_.erase(0, kHead + length + kTail);
        return frame;
    }
}

bool FrameReader::take_damaged() { return std::exchange(damaged_, false); }

}  // namespace fernleaf
