// Links that hold: their ends stay on the borders of the figures they lead to, whatever becomes of these.
//
//   hold_links(edit, page, reading, new_id);   // what an edit does to figures it does to their links as well
//
// Method: an end holds on to a figure's middle, and is then where the way there meets the border, or to a place of the
// figure's box, and is then where the border is nearest to it. Elbows leave and enter through the middles of sides; of
// the ways with one or two corners the shortest is taken that leaves outward and enters inward (the one-pair case of
// orthogonal connector routing, Wybrow, Marriott & Stuckey 2009). A curve is an arc of three tenths of its chord's
// length in height.
#pragma once

#include <functional>

#include "document/edit.h"
#include "transcript/reading.h"

namespace fernleaf {

// Where the way from a point to an end of a link meets a figure's border, nearest to that end; or the border's nearest
// place; or the end as it is, where no border is near it.
Point on_border(const Shape& figure, Point from, Point end);

// How an end at a place holds on to a figure: to its middle if the line, which comes from before, points there.
LinkEnd link_end(int64_t key, const Shape& figure, Point at, Point before);

// A link led anew between its figures; an end without one stays where it is.
FairShape led(FairShape link, const Shape* from, const Shape* to);

// A straight arrow from one figure to another. Both must have keys.
FairShape linked(const FairShape& from, const FairShape& to);

// Leads the links anew whose figures an edit of a page moves, changes or takes away (their ends are free then); what is
// written beside them, as the reading tells, goes along. Links that the edit itself moves hold on to the figure their
// ends come near to, or to none. The elements changed get new ids.
void hold_links(Edit& edit, const Page& page, const Reading& reading, const std::function<ElementId()>& new_id);

// The links of a page, not among those changed, that lead to figures that are: each as it would be. For what is shown
// while figures are being moved.
std::vector<FairShape> links_led(const Elements& page, const Elements& changed);

}  // namespace fernleaf
