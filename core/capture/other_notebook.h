// Whether what was just written on an addressed page still belongs to the same notebook. Two notebooks of one printing
// have the same addresses; a pen can't tell them apart, but ink that lies across earlier ink can.
//
//   switch (other_notebook(earlier, later)) ...
//
// What people add to a page stands between what is there, seldom over it; a second notebook's lines run straight across
// the first one's. Told by the share of cells of a millimetre under the later ink that the earlier one covers, too.
#pragma once

#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

enum class OtherNotebook { no, perhaps, yes };

// earlier, later: on one page, in mm; later: all of one sitting. begins_anew: the page is among the first of the
// notebook, and its last ones were written on.
OtherNotebook other_notebook(const std::vector<Stroke>& earlier, const std::vector<Stroke>& later, bool begins_anew);

}  // namespace fernleaf
