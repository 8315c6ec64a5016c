#include "pen_stand_in/written_pages.h"

#include <algorithm>
#include <array>
#include <cstdint>
#include <sstream>

#include "base/file.h"
#include "exchange/inkml.h"

namespace fernleaf {
namespace {

constexpr int64_t kUsualPauseMs = 250, kLongestPauseMs = 60'000;
}  // namespace

Result<std::vector<WrittenStroke>> written_pages(const std::filesystem::path& inkml, PageAddress first) {
    const auto bytes = read_regular(inkml, kLargestInkmlBytes);
    if (!bytes) return Error{inkml.string() + ": can't be read."};
    auto sheets = read_inkml(*bytes);
    if (!sheets) return Error{inkml.string() + ": " + sheets.error().message};
    std::vector<WrittenStroke> out;
    for (const InkSheet& sheet : *sheets) {
        const PageAddress address = sheet.address.value_or(first);
        if (!sheet.address) ++first.page;
        int64_t ended = 0;
        for (const Stroke& stroke : sheet.strokes) {
            int64_t pause = stroke.start_ms > 0 && ended > 0 ? stroke.start_ms - ended : kUsualPauseMs;
            ended = stroke.start_ms > 0 ? stroke.start_ms + stroke.points.back().time_ms : 0;
            for (CapturedStroke& part : captured(stroke, address)) {
                out.push_back({address, std::move(part.points), std::clamp<int64_t>(pause, 0, kLongestPauseMs)});
                pause = 0;
            }
        }
    }
    return out;
}

Result<PageAddress> page_address(const std::string& text) {
    std::istringstream in(text);
    std::array<int, 3> numbers{};
    char first = 0, second = 0;
    if (in >> numbers[0] >> first >> numbers[1] >> second >> numbers[2] && first == '.' && second == '.' &&
        in.peek() == std::istringstream::traits_type::eof() &&
        std::ranges::all_of(numbers, [](int n) { return n >= 0 && n <= UINT16_MAX; }))
        return PageAddress{static_cast<uint16_t>(numbers[0]), static_cast<uint16_t>(numbers[1]),
                           static_cast<uint16_t>(numbers[2])};
    return Error{"\"" + text + "\" is not a page's address such as 2.5.17."};
}

}  // namespace fernleaf
