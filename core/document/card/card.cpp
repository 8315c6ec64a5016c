#include "document/card/card.h"

#include "base/json.h"
#include "document/turned_box.h"

namespace fernleaf {

bool ElementTraits<Card>::mostly_inside(const Card& card, const std::vector<Point>& polygon) {
    return fernleaf::mostly_inside(card.box, 0, polygon);
}

Card ElementTraits<Card>::transformed(Card card, const Affine& by) {
    Box box;
    for (const Point corner : {Point{card.box.left, card.box.top}, Point{card.box.right, card.box.top},
                               Point{card.box.left, card.box.bottom}, Point{card.box.right, card.box.bottom}})
        box.include(by(corner));
    card.box = box;
    return card;
}

std::optional<std::string> ElementTraits<Card>::validation_error(const Card& card) {
    const bool sound = is_place(card.box) && !card.box.empty() && card.name.size() <= kLongestCardName &&
                       card.bytes >= 0 && (card.file.empty() ? card.page != 0 : card.page == 0);
    if (sound) return {};
    return "A card holds what can't be on one.";
}

std::string ElementTraits<Card>::encode(const Card& card) {
    Json j{{"box", json_of(card.box)}, {"name", card.name}};
    if (!card.file.empty()) j["file"] = card.file, j["bytes"] = card.bytes;
    if (card.page != 0) j["page"] = card.page, j["made"] = card.page_made_ms;
    if (card.group != 0) j["group"] = card.group;
    return text_of(j);
}

Result<Card> ElementTraits<Card>::decode(std::string_view bytes) {
    const Error damaged{"A card in the library is damaged."};
    try {
        const Json j = Json::parse(bytes);
        Card card;
        card.box = box_from(j.at("box"));
        card.name = j.at("name").get<std::string>();
        card.file = j.value("file", std::string());
        if (!card.file.empty()) card.bytes = whole(j.at("bytes"), 0, INT64_MAX);
        if (const auto page = j.find("page"); page != j.end()) {
            card.page = whole(*page, INT64_MIN, INT64_MAX);
            card.page_made_ms = whole(j.at("made"), INT64_MIN, INT64_MAX);
        }
        card.group = group_in(j);
        if (validation_error(card)) return damaged;
        return card;
    } catch (const std::exception&) {
        return damaged;
    }
}

std::vector<std::string> ElementTraits<Card>::files(const Card& card) {
    return card.file.empty() ? std::vector<std::string>() : std::vector{card.file};
}

}  // namespace fernleaf
