// Tags of pages and notebooks, and names that people type for them.
//
//   for (const std::string& name : tag_names("#frost, cold room")) ...   // "frost", "cold room"
#pragma once

#include <cstdint>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace fernleaf {

using TagId = int64_t;

struct Tag {
    TagId id = 0;
    std::string name;     // as tag_names() gives it
    uint32_t colour = 0;  // one of tag_colours()
    size_t pages = 0;     // that have it, themselves or with their notebook; without those in the bin
    friend bool operator==(const Tag&, const Tag&) = default;
};

// The colours a tag may have, 0xRRGGBB; a new one gets the next of them.
std::span<const uint32_t> tag_colours();

constexpr size_t kLongestTagName = 60;  // letters

// The names in a list with commas, each once: without blanks or # around them, single blanks within; what is too long
// or has no letter or digit is left out.
std::vector<std::string> tag_names(std::string_view typed);

}  // namespace fernleaf
