// Moving, turning and scaling what lies on a page, and choosing it with a lasso.
#pragma once

#include <functional>

#include "ink/selecting.h"
#include "page/page.h"

namespace fernleaf {

// Elements elsewhere; they keep their ids. Type grows with its block when both sides do, and is set anew in another
// width when only one does. Where words stand is known only after a mere shift; else the caller lays the type out.
Elements transformed(Elements elements, const Affine& by);

// A picture of which another part is shown, in parts of the whole; what is shown of both stays where it was. Parts
// beyond the picture and parts smaller than a hundredth of it are mended.
Picture cropped(Picture picture, Box part);

// Where the whole of a picture would lie, before it is turned about the middle of what is shown.
Box whole_box(const Picture& picture);

// What of a page a closed line encloses: strokes, blocks of text and pictures of which most lies inside; no locked
// pictures.
Elements within(const Elements& all, const std::vector<Point>& polygon);

// Those with the ids given.
Elements picked(const Elements& all, const std::vector<int64_t>& ids);
std::vector<int64_t> ids_of(const Elements& elements);

// Gives elements new ids, keeping their places among the others; tells which stroke follows which (old id, new id).
std::vector<std::pair<StrokeId, StrokeId>> renew(Elements& elements, const std::function<int64_t()>& new_id);

// Where they are drawn, pens' widths and fills included, mm.
Box drawn_box(const Picture& picture);
Box drawn_box(const TextBlock& text);
Box drawn_box(const Elements& elements);

// Whether a place lies on the element, turned as it is.
bool covers(const Picture& picture, Point p);
bool covers(const TextBlock& text, Point p);

}  // namespace fernleaf
