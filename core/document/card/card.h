// A card on a page: a file that is kept with it, or another page that it leads to.
//
//   Card card{.box = Box::of(20, 30, 62, 14), .name = "Soil report.pdf", .file = hash, .bytes = 48'000};
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "document/element_traits.h"

namespace fernleaf {

using CardId = ElementId;

constexpr double kCardWidthMm = 62, kCardHeightMm = 13;
constexpr size_t kLongestCardName = 400;  // bytes

struct Card {
    CardId id = 0;
    int64_t z = 0;             // its place among the others (z_of); 0: by its id
    Box box;                   // mm
    std::string name;          // the file's, or what the page was called
    std::string file = {};     // of the library; empty: it leads to a page
    int64_t bytes = 0;         // the file's
    int64_t page = 0;          // that it leads to
    int64_t page_made_ms = 0;  // when that was made: the page of that number in another library is another
    int64_t group = 0;         // those of one number are taken together; 0: by itself
    friend bool operator==(const Card&, const Card&) = default;
};

template <>
struct ElementTraits<Card> {
    static constexpr ElementKind kKind = ElementKind::card;
    static constexpr PaintLayer kLayer = PaintLayer::objects;
    static Box bounds(const Card& card) { return card.box; }
    static bool covers(const Card& card, Point p, double reach_mm) { return card.box.grown(reach_mm).contains(p); }
    static bool mostly_inside(const Card& card, const std::vector<Point>& polygon);
    static Card transformed(Card card, const Affine& by);  // stays upright
    static bool locked(const Card&) { return false; }
    static constexpr bool kHasColour = false;
    static void set_colour(Card&, uint32_t) {}
    static std::optional<std::string> validation_error(const Card& card);
    static std::string encode(const Card& card);  // JSON
    static Result<Card> decode(std::string_view bytes);
    static Card as_kept(Card card) { return card; }
    static std::vector<std::string> files(const Card& card);
    static std::vector<ElementId>* made_from(Card&) { return nullptr; }
    static std::string plain_text(const Card& card) { return card.name; }
};

}  // namespace fernleaf
