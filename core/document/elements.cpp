#include "document/elements.h"

#include <algorithm>
#include <unordered_map>
#include <unordered_set>

#include "base/json.h"

namespace fernleaf {

size_t Elements::count() const {
    size_t count = 0;
    for_each_list(*this, [&](const auto& list) { count += list.size(); });
    return count;
}

Box drawn_box(const Elements& elements) {
    Box box;
    for_each_element(elements, [&](const auto& e) { box.include(drawn_box(e)); });
    return box;
}

std::optional<std::string> validation_error(const Elements& elements) {
    std::optional<std::string> why;
    for_each_element(elements, [&]<typename E>(const E& e) {
        if (!why) why = ElementTraits<E>::validation_error(e);
    });
    return why;
}

Elements transformed(Elements elements, const Affine& by) {
    for_each_element(elements, [&]<typename E>(E& e) { e = ElementTraits<E>::transformed(std::move(e), by); });
    return elements;
}

bool any_locked(const Elements& elements) {
    bool locked = false;
    for_each_element(elements, [&]<typename E>(const E& e) { locked = locked || ElementTraits<E>::locked(e); });
    return locked;
}

void set_colour(Elements& elements, uint32_t colour) {
    for_each_element(elements, [&]<typename E>(E& e) { ElementTraits<E>::set_colour(e, colour); });
}

bool has_colour(const Elements& elements) {
    bool any = false;
    for_each_list(elements, [&]<typename E>(const std::vector<E>& list) {
        any = any || (ElementTraits<E>::kHasColour && !list.empty());
    });
    return any;
}

Elements within(const Elements& all, const std::vector<Point>& polygon) {
    Box area;
    for (const Point p : polygon) area.include(p);
    Elements chosen;
    for_each_element(all, [&]<typename E>(const E& e) {
        using Traits = ElementTraits<E>;
        if (!Traits::locked(e) && Traits::bounds(e).meets(area) && Traits::mostly_inside(e, polygon))
            chosen.of<E>().push_back(e);
    });
    return chosen;
}

std::vector<ElementId> with_groups(const Elements& all, const std::vector<ElementId>& ids) {
    std::unordered_set<ElementId> wanted(ids.begin(), ids.end());
    std::unordered_set<int64_t> groups;
    for_each_element(all, [&](const auto& e) {
        if (e.group != 0 && wanted.contains(e.id)) groups.insert(e.group);
    });
    std::vector<ElementId> out = ids;
    if (groups.empty()) return out;
    for_each_element(all, [&]<typename E>(const E& e) {
        if (groups.contains(e.group) && !ElementTraits<E>::locked(e) && wanted.insert(e.id).second) out.push_back(e.id);
    });
    return out;
}

void set_group(Elements& elements, int64_t group) {
    for_each_element(elements, [&](auto& e) { e.group = group; });
}

bool any_grouped(const Elements& elements) {
    bool any = false;
    for_each_element(elements, [&](const auto& e) { any = any || e.group != 0; });
    return any;
}

void renew_groups(Elements& elements, const std::function<ElementId()>& new_id) {
    std::unordered_map<int64_t, int64_t> groups;
    for_each_element(elements, [&](auto& e) {
        if (e.group == 0) return;
        int64_t& group = groups[e.group];
        if (group == 0) group = new_id();
        e.group = group;
    });
}

Elements picked(const Elements& all, const std::vector<ElementId>& ids) {
    const std::unordered_set<ElementId> wanted(ids.begin(), ids.end());
    Elements chosen;
    for_each_element(all, [&]<typename E>(const E& e) {
        if (wanted.contains(e.id)) chosen.of<E>().push_back(e);
    });
    return chosen;
}

std::vector<ElementId> ids_of(const Elements& elements) {
    std::vector<ElementId> ids;
    for_each_element(elements, [&](const auto& e) { ids.push_back(e.id); });
    return ids;
}

void insert(Elements& into, const Elements& added) {
    for_each_element(added, [&]<typename E>(const E& e) {
        std::vector<E>& list = into.of<E>();
        list.insert(std::ranges::upper_bound(list, e, z_less<E, E>), e);
    });
}

void erase(Elements& from, const Elements& removed) {
    for_each_list(removed, [&]<typename E>(const std::vector<E>& gone) {
        if (gone.empty()) return;
        std::unordered_set<ElementId> ids;
        for (const E& e : gone) ids.insert(e.id);
        std::erase_if(from.of<E>(), [&](const E& e) { return ids.contains(e.id); });
    });
}

ElementId element_at(const Elements& elements, Point p, double reach_mm) {
    ElementId found = 0;
    std::tuple<PaintLayer, int64_t, ElementId> highest{};
    for_each_element(elements, [&]<typename E>(const E& e) {
        const std::tuple place(ElementTraits<E>::kLayer, z_of(e), e.id);
        if ((found == 0 || place > highest) && covers(e, p, reach_mm)) found = e.id, highest = place;
    });
    return found;
}

std::vector<std::pair<StrokeId, StrokeId>> renew(Elements& elements, const std::function<ElementId()>& new_id) {
    std::vector<std::pair<StrokeId, StrokeId>> replacements;
    for_each_element(elements, [&]<typename E>(E& e) {
        const ElementId before = e.id;
        e.z = z_of(e);
        e.id = new_id();
        if constexpr (std::is_same_v<E, Stroke>) replacements.emplace_back(before, e.id);
    });
    return replacements;
}

std::string encode_elements(const Elements& elements) {
    auto list = Json::array();
    for_each_element(elements, [&]<typename E>(const E& e) {
        if constexpr (!std::is_same_v<E, Stroke>)
            list.push_back(
                {{"kind", static_cast<int>(ElementTraits<E>::kKind)}, {"body", ElementTraits<E>::encode(e)}});
    });
    return text_of(list);
}

Result<Elements> decode_elements(const std::string& json) {
    const Error damaged{"What was copied is damaged."};
    try {
        Elements out;
        const Json list = Json::parse(json);
        if (!list.is_array()) return damaged;
        for (const Json& j : list)
            if (!decode_into(out, whole(j.at("kind"), 0, INT32_MAX), 0, 0, j.at("body").get<std::string>()))
                return damaged;
        for (Picture& p : out.pictures) p.locked = false;
        return out;
    } catch (const std::exception&) {
        return damaged;
    }
}

Status decode_into(Elements& elements, int64_t kind, ElementId id, int64_t z, std::string_view bytes) {
    Status status = Error{"It is of no kind that is known."};
    for_each_list(elements, [&]<typename E>(std::vector<E>& list) {
        if (kind != static_cast<int64_t>(ElementTraits<E>::kKind)) return;
        Result<E> element = ElementTraits<E>::decode(bytes);
        if (!element) {
            status = element.error();
            return;
        }
        element->id = id;
        element->z = z;
        list.push_back(*std::move(element));
        status = Done{};
    });
    return status;
}

}  // namespace fernleaf
