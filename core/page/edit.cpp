#include "page/edit.h"

#include <algorithm>
#include <unordered_set>

namespace fernleaf {
namespace {

bool lies_below(const Picture& a, const Picture& b) { return a.id < b.id; }

template <typename Element>
void exchange(std::vector<Element>& elements, const std::vector<Element>& added, const std::vector<Element>& removed) {
    if (!removed.empty()) {
        std::unordered_set<int64_t> gone;
        for (const Element& e : removed) gone.insert(e.id);
        std::erase_if(elements, [&](const Element& e) { return gone.contains(e.id); });
    }
    const auto below = [](const Element& a, const Element& b) { return lies_below(a, b); };
    for (const Element& e : added) elements.insert(std::ranges::upper_bound(elements, e, below), e);
}

}  // namespace

void apply(Page& page, const Edit& edit) {
    exchange(page.strokes, edit.added, edit.removed);
    exchange(page.pictures, edit.pictures_added, edit.pictures_removed);
}

}  // namespace fernleaf
