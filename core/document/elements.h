// What lies on a page: a list for each kind of element, strokes close together among them, and everything that is done
// to elements whatever their kind.
//
//   Elements chosen = within(page, lasso);
//   Elements moved = transformed(chosen, Affine::shift({5, 0}));
//   for_each_list(moved, [&]<typename E>(std::vector<E>& list) { ... });
#pragma once

#include <algorithm>
#include <functional>
#include <string>
#include <tuple>
#include <utility>
#include <vector>

#include "document/card/card.h"
#include "document/divider/divider.h"
#include "document/element_traits.h"
#include "document/formula/set_formula.h"
#include "document/picture/picture.h"
#include "document/plot/plot.h"
#include "document/shape/fair_shape.h"
#include "document/stroke/stroke_traits.h"
#include "document/table/fair_table.h"
#include "document/text/text_block.h"

namespace fernleaf {

// Of each kind the lowest first (z_less): mostly the order in which they came.
struct Elements {
    std::vector<Stroke> strokes = {};
    std::vector<Picture> pictures = {};
    std::vector<TextBlock> texts = {};
    std::vector<Divider> dividers = {};
    std::vector<FairShape> shapes = {};
    std::vector<FairTable> tables = {};
    std::vector<SetFormula> formulas = {};
    std::vector<Plot> plots = {};
    std::vector<Card> cards = {};

    // Every kind there is: a new one has a list above and is named in these two.
    auto lists() { return std::tie(strokes, pictures, texts, dividers, shapes, tables, formulas, plots, cards); }
    auto lists() const { return std::tie(strokes, pictures, texts, dividers, shapes, tables, formulas, plots, cards); }
    template <Element E>
    std::vector<E>& of() {
        return std::get<std::vector<E>&>(lists());
    }
    template <Element E>
    const std::vector<E>& of() const {
        return std::get<const std::vector<E>&>(lists());
    }

    bool empty() const { return count() == 0; }
    size_t count() const;
    friend bool operator==(const Elements&, const Elements&) = default;
};

// Calls a template with the list of each kind, or with each element.
template <typename Lists, typename Each>
void for_each_list(Lists&& elements, Each each) {
    std::apply([&](auto&... list) { (each(list), ...); }, elements.lists());
}
template <typename Lists, typename Each>
void for_each_element(Lists&& elements, Each each) {
    for_each_list(elements, [&](auto& list) {
        for (auto& element : list) each(element);
    });
}

// Calls a template with each element of a layer, the lowest first, whatever its kind.
template <typename Each>
void for_each_in_layer(const Elements& elements, PaintLayer layer, Each each) {
    struct Placed {
        int64_t z = 0;
        ElementId id = 0;
        std::function<void()> call;
    };
    std::vector<Placed> placed;
    for_each_list(elements, [&]<typename E>(const std::vector<E>& list) {
        if (ElementTraits<E>::kLayer != layer) return;
        for (const E& e : list) placed.push_back({z_of(e), e.id, [&each, &e] { each(e); }});
    });
    std::ranges::sort(placed,
                      [](const Placed& a, const Placed& b) { return std::pair(a.z, a.id) < std::pair(b.z, b.id); });
    for (const Placed& p : placed) p.call();
}

template <Element E>
Box drawn_box(const E& element) {
    return ElementTraits<E>::bounds(element);
}
template <Element E>
bool covers(const E& element, Point p, double reach_mm = 0) {
    return ElementTraits<E>::covers(element, p, reach_mm);
}

// Where they are drawn, pens' widths and fills included, mm; empty when there are none.
Box drawn_box(const Elements& elements);

// Why they can't be kept: numbers that are no place on a page. Nothing: they can.
std::optional<std::string> validation_error(const Elements& elements);

bool any_locked(const Elements& elements);

// Elements elsewhere; they keep their ids.
Elements transformed(Elements elements, const Affine& by);

// Gives a colour (0xRRGGBB) to all that can have one.
void set_colour(Elements& elements, uint32_t colour);
bool has_colour(const Elements& elements);

// What of a page a closed line encloses: elements of which most lies inside; none that are locked.
Elements within(const Elements& all, const std::vector<Point>& polygon);

// What is grouped with one of these is taken with it: those ids, and of the groups they are in all others that are not
// locked.
std::vector<ElementId> with_groups(const Elements& all, const std::vector<ElementId>& ids);
// Makes a group of elements (a number that no other has), or takes them out of theirs (0).
void set_group(Elements& elements, int64_t group);
bool any_grouped(const Elements& elements);
// Copies are groups of their own.
void renew_groups(Elements& elements, const std::function<ElementId()>& new_id);

// Those with the ids given.
Elements picked(const Elements& all, const std::vector<ElementId>& ids);
std::vector<ElementId> ids_of(const Elements& elements);

// Puts elements among others where z_less says, or takes those with the same ids away.
void insert(Elements& into, const Elements& added);
void erase(Elements& from, const Elements& removed);

// The highest that lies at a place, no farther from it than so many mm; 0: nothing does. Ink lies above all else.
ElementId element_at(const Elements& elements, Point p, double reach_mm);

// Gives elements new ids, keeping their places among the others; tells which stroke replaces which (old id, new id).
std::vector<std::pair<StrokeId, StrokeId>> renew(Elements& elements, const std::function<ElementId()>& new_id);

// Elements but strokes, which travel as InkML, as they are copied from page to page: JSON. They come back without ids
// and places.
std::string encode_elements(const Elements& elements);
Result<Elements> decode_elements(const std::string& json);

// Decodes an element of a kind into the list it belongs to; an error when there is no such kind, or its bytes are
// damaged.
Status decode_into(Elements& elements, int64_t kind, ElementId id, int64_t z, std::string_view bytes);

}  // namespace fernleaf
