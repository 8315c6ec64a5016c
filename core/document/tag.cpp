#include "document/tag.h"

#include <algorithm>
#include <array>

#include "base/text.h"

namespace fernleaf {
namespace {

std::string tag_name(std::string_view typed) {
    std::string name;
    for (const char c : typed) {
        const bool blank = c == ' ' || (c >= '\t' && c <= '\r');
        if (!blank)
            name += c;
        else if (!name.empty() && name.back() != ' ')
            name += ' ';
    }
    while (!name.empty() && name.back() == ' ') name.pop_back();
    name.erase(0, std::min(name.find_first_not_of("# "), name.size()));
    if (fold_words(name).empty() || decode_utf8(name).size() > kLongestTagName || !valid_utf8(name)) return {};
    return name;
}

}  // namespace

std::span<const uint32_t> tag_colours() {
    static constexpr std::array<uint32_t, 6> kColours{0x2E6B4F, 0x8A3B6B, 0x2F5D8C, 0xB5672C, 0x8C7A1F, 0x5B5F6B};
    return kColours;
}

std::vector<std::string> tag_names(std::string_view typed) {
    std::vector<std::string> out;
    for (size_t from = 0; from <= typed.size();) {
        const size_t comma = std::min(typed.find(',', from), typed.size());
        std::string name = tag_name(typed.substr(from, comma - from));
        const auto same = [&](const std::string& other) { return fold(other) == fold(name); };
        if (!name.empty() && std::ranges::none_of(out, same)) out.push_back(std::move(name));
        from = comma + 1;
    }
    return out;
}

}  // namespace fernleaf
