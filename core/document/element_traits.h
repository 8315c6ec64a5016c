// What every kind of element on a page can do, each in a folder of its own: ElementTraits<Kind>.
//
// Whatever is done to elements of any kind (moving, choosing, undo, copying, keeping, checking) is written once, over
// these; a kind that lacks one of them does not compile, and the compiler names it (docs/architecture.md).
#pragma once

#include <concepts>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/geometry.h"
#include "base/result.h"
#include "base/z_order.h"
#include "ink/selecting.h"

namespace fernleaf {

// As libraries keep them: numbers never change their meaning.
enum class ElementKind {
    stroke = 0,
    picture = 1,
    text = 2,
    divider = 3,
    shape = 4,
    table = 5,
    formula = 6,
    plot = 7,
    card = 8
};

// What is drawn first lies lowest: ink lies on everything, highlighters below what is set in type.
enum class PaintLayer { pictures, objects, ink };

template <typename E>
struct ElementTraits;

template <typename E>
concept Element = requires(E e, const E& c, const Affine& by, Point p, const std::vector<Point>& polygon,
                           std::string_view bytes) {
    { c.id } -> std::convertible_to<ElementId>;
    { c.z } -> std::convertible_to<int64_t>;
    { c.group } -> std::convertible_to<int64_t>;  // elements of one number are taken together; 0: by itself
    { c == c } -> std::convertible_to<bool>;
    { ElementTraits<E>::kKind } -> std::convertible_to<ElementKind>;
    { ElementTraits<E>::kLayer } -> std::convertible_to<PaintLayer>;
    // Where it is drawn, pen widths and fills included, mm.
    { ElementTraits<E>::bounds(c) } -> std::same_as<Box>;
    // Whether a place lies on it, no farther than so many mm for what is thin.
    { ElementTraits<E>::covers(c, p, 1.0) } -> std::same_as<bool>;
    // Whether a closed line encloses most of it.
    { ElementTraits<E>::mostly_inside(c, polygon) } -> std::same_as<bool>;
    // The same elsewhere, with its id.
    { ElementTraits<E>::transformed(e, by) } -> std::same_as<E>;
    // Not to be moved by accident.
    { ElementTraits<E>::locked(c) } -> std::same_as<bool>;
    // Its colour, 0xRRGGBB, where it has one of its own.
    { ElementTraits<E>::kHasColour } -> std::convertible_to<bool>;
    {ElementTraits<E>::set_colour(e, uint32_t{})};
    // Why it can't be kept: numbers that are no place on a page.
    { ElementTraits<E>::validation_error(c) } -> std::same_as<std::optional<std::string>>;
    // All of it but its id and its place, as libraries and the clipboard keep it; what a release has written is read by
    // every later one. Bytes from anywhere give an error, never a value that makes no sense.
    { ElementTraits<E>::encode(c) } -> std::same_as<std::string>;
    { ElementTraits<E>::decode(bytes) } -> std::same_as<Result<E>>;
    // As it will be after encoding and decoding, where that loses something.
    { ElementTraits<E>::as_kept(e) } -> std::same_as<E>;
    // The library's files it needs.
    { ElementTraits<E>::files(c) } -> std::same_as<std::vector<std::string>>;
    // The strokes it was made from and can be turned back into; null for kinds that aren't made from ink.
    { ElementTraits<E>::made_from(e) } -> std::same_as<std::vector<ElementId>*>;
    // What it says when it is copied as plain text.
    { ElementTraits<E>::plain_text(c) } -> std::same_as<std::string>;
};

// Those that remember the ink they were made from, and what has become of them since then.
template <typename E>
concept FromInk = Element<E> && requires(E e) {
    e.ink;
    e.transform_since_set;
};

}  // namespace fernleaf
