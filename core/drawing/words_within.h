// Type that stands in a figure or in a cell of a table belongs to it: it wraps there, and what it stands in grows when
// it doesn't fit.
//
//   fit_words(edit, page, lay_out, new_id);   // what an edit typed, or stretched, is made to fit
//   Elements wide = stretched(chosen, by);    // figures are stretched, words in them only go along
#pragma once

#include "drawing/table_editing.h"

namespace fernleaf {

// The room for words in a level figure that encloses something; empty where there is none (a star, one that is turned).
Box room_in(const Shape& figure);

// The smallest such figure of a page about a place; null: there is none.
const FairShape* figure_about(const Elements& page, Point p);

// What an edit of a page types, or changes about it. Type that is merely moved is not wrapped anew, nor is type in a
// figure that more stands in.
void fit_words(Edit& edit, const Elements& page, const LayOut& lay_out, const std::function<ElementId()>& new_id);

// The tables and type of a page to be, as from a file: laid out, and made to fit.
void lay_out_fresh(Elements& elements, const LayOut& lay_out);

// Elements elsewhere; what stands in a figure or a table that becomes wider or higher but not the other keeps its form.
Elements stretched(const Elements& chosen, const Affine& by);

}  // namespace fernleaf
