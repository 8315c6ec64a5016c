#include "page/edit.h"

#include <algorithm>
#include <unordered_map>
#include <unordered_set>

namespace fernleaf {
namespace {

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

// What is added and removed when one exchange follows another: what came and went again is neither.
template <typename Element>
void follow(std::vector<Element>& added, std::vector<Element>& removed, const std::vector<Element>& then_added,
            const std::vector<Element>& then_removed) {
    for (const Element& e : then_removed)
        if (std::erase_if(added, [&](const Element& a) { return a.id == e.id; }) == 0) removed.push_back(e);
    added.insert(added.end(), then_added.begin(), then_added.end());
}

}  // namespace

Edit joined(Edit first, const Edit& second) {
    follow(first.added.strokes, first.removed.strokes, second.added.strokes, second.removed.strokes);
    follow(first.added.pictures, first.removed.pictures, second.added.pictures, second.removed.pictures);
    follow(first.added.texts, first.removed.texts, second.added.texts, second.removed.texts);
    const std::unordered_map<StrokeId, StrokeId> next(second.followed.begin(), second.followed.end());
    std::unordered_set<StrokeId> passed;
    for (auto& [before, after] : first.followed)
        if (const auto on = next.find(after); on != next.end()) {
            passed.insert(after);
            after = on->second;
        }
    for (const auto& pair : second.followed)
        if (!passed.contains(pair.first)) first.followed.push_back(pair);
    if (second.sheet)
        first.sheet = SheetChange{first.sheet ? first.sheet->before : second.sheet->before, second.sheet->after};
    if (second.flow) first.flow = second.flow;
    first.said.insert(first.said.end(), second.said.begin(), second.said.end());
    first.unsaid.insert(first.unsaid.end(), second.unsaid.begin(), second.unsaid.end());
    return first;
}

void apply(Page& page, const Edit& edit) {
    exchange(page.strokes, edit.added.strokes, edit.removed.strokes);
    exchange(page.pictures, edit.added.pictures, edit.removed.pictures);
    exchange(page.texts, edit.added.texts, edit.removed.texts);
    if (edit.sheet) {
        static_cast<Sheet&>(page.info) = edit.sheet->after;
        make_room_below(page);
    } else {
        make_room_below(page.info, edit.added);
    }
}

void renumber(Edit& edit, const std::unordered_map<int64_t, int64_t>& ids) {
    const auto renew = [&](int64_t& id) {
        if (const auto found = ids.find(id); found != ids.end()) id = found->second;
    };
    const auto renew_all = [&](Elements& elements) {
        for (Stroke& s : elements.strokes) renew(s.id);
        for (Picture& p : elements.pictures) renew(p.id);
        for (TextBlock& t : elements.texts) {
            renew(t.id);
            for (StrokeId& s : t.ink) renew(s);
        }
    };
    renew_all(edit.added);
    for (auto& [before, after] : edit.followed) renew(after);
    for (Correction& c : edit.said)
        for (StrokeId& s : c.strokes) renew(s);
    if (!edit.flow) return;
    renew_all(edit.flow->content);
    for (auto& [before, after] : edit.flow->followed) renew(after);
}

std::vector<Correction> followed_corrections(const std::vector<Correction>& corrections,
                                             const std::vector<std::pair<StrokeId, StrokeId>>& followed,
                                             const std::vector<Stroke>& strokes) {
    std::vector<Correction> out;
    if (followed.empty()) return out;
    const std::unordered_map<StrokeId, StrokeId> next(followed.begin(), followed.end());
    std::unordered_map<StrokeId, const Stroke*> added;
    for (const Stroke& s : strokes) added[s.id] = &s;
    for (const Correction& correction : corrections) {
        const auto follows = [&](StrokeId id) { return next.contains(id) && added.contains(next.at(id)); };
        if (correction.strokes.empty() || !std::ranges::all_of(correction.strokes, follows)) continue;
        Correction moved{{}, {}, correction.text, correction.kind};
        for (const StrokeId id : correction.strokes) {
            const Stroke& stroke = *added.at(next.at(id));
            moved.strokes.push_back(stroke.id);
            moved.box.include(stroke.box().grown(stroke.pen.width_mm / 2));
        }
        out.push_back(std::move(moved));
    }
    return out;
}

}  // namespace fernleaf
