#include "document/edit.h"

#include <algorithm>
#include <unordered_set>

#include "document/sheet_json.h"

namespace fernleaf {
namespace {

// What is added and removed when one exchange follows another: what came and went again is neither.
void follow(Elements& added, Elements& removed, const Elements& then_added, const Elements& then_removed) {
    for_each_element(then_removed, [&]<typename E>(const E& e) {
        if (std::erase_if(added.of<E>(), [&](const E& a) { return a.id == e.id; }) == 0) removed.of<E>().push_back(e);
    });
    for_each_element(then_added, [&]<typename E>(const E& e) { added.of<E>().push_back(e); });
}

}  // namespace

std::string encode_sheet_change(const SheetChange& change) {
    return text_of({{"before", json_of(change.before)}, {"after", json_of(change.after)}});
}

Result<SheetChange> decode_sheet_change(const std::string& json) {
    try {
        const Json j = Json::parse(json);
        return SheetChange{sheet_from(j.at("before")), sheet_from(j.at("after"))};
    } catch (const std::exception&) {
        return Error{"A change of paper in the library is damaged."};
    }
}

Edit joined(Edit first, const Edit& second) {
    follow(first.added, first.removed, second.added, second.removed);
    const std::unordered_map<StrokeId, StrokeId> next(second.replacements.begin(), second.replacements.end());
    std::unordered_set<StrokeId> passed;
    for (auto& [before, after] : first.replacements)
        if (const auto on = next.find(after); on != next.end()) {
            passed.insert(after);
            after = on->second;
        }
    for (const auto& pair : second.replacements)
        if (!passed.contains(pair.first)) first.replacements.push_back(pair);
    if (second.sheet)
        first.sheet = SheetChange{first.sheet ? first.sheet->before : second.sheet->before, second.sheet->after};
    if (second.overflow) first.overflow = second.overflow;
    const auto append = [](std::vector<Correction>& to, const std::vector<Correction>& more) {
        to.insert(to.end(), more.begin(), more.end());
    };
    append(first.corrections_added, second.corrections_added);
    append(first.corrections_removed, second.corrections_removed);
    return first;
}

void apply(Page& page, const Edit& edit) {
    erase(page, edit.removed);
    insert(page, edit.added);
    if (edit.sheet) {
        static_cast<Sheet&>(page.info) = edit.sheet->after;
        make_room_below(page);
    } else {
        make_room_below(page.info, edit.added);
    }
}

void renumber(Edit& edit, const std::unordered_map<ElementId, ElementId>& ids) {
    const auto renew = [&](ElementId& id) {
        if (const auto found = ids.find(id); found != ids.end()) id = found->second;
    };
    const auto renew_all = [&](Elements& elements) {
        for_each_element(elements, [&]<typename E>(E& e) {
            renew(e.id);
            if (std::vector<ElementId>* ink = ElementTraits<E>::made_from(e))
                for (ElementId& id : *ink) renew(id);
        });
    };
    renew_all(edit.added);
    for (auto& [before, after] : edit.replacements) renew(after);
    for (Correction& c : edit.corrections_added)
        for (StrokeId& s : c.strokes) renew(s);
    if (!edit.overflow) return;
    renew_all(edit.overflow->content);
    for (auto& [before, after] : edit.overflow->replacements) renew(after);
}

Edit difference(const Page& from, const Page& to, std::string label) {
    Edit out{std::move(label)};
    const auto without = [](const Elements& all, const Elements& known) {
        const std::vector<ElementId> ids = ids_of(known);
        const std::unordered_set<ElementId> in(ids.begin(), ids.end());
        Elements rest = all;
        for_each_list(rest, [&](auto& list) { std::erase_if(list, [&](const auto& e) { return in.contains(e.id); }); });
        return rest;
    };
    out.added = without(to, from);
    out.removed = without(from, to);
    const Sheet &before = from.info, &after = to.info;
    if (!(before == after)) out.sheet = SheetChange{before, after};
    return out;
}

Box touched_by(const Edit& edit) {
    Box box = drawn_box(edit.added);
    box.include(drawn_box(edit.removed));
    return box;
}

Correction said_to_be(const std::vector<Stroke>& strokes, InkClass kind) {
    Correction out;
    out.kind = kind;
    for (const Stroke& s : strokes) {
        out.strokes.push_back(s.id);
        out.box.include(s.box());
    }
    return out;
}

std::vector<Correction> replaced_corrections(const std::vector<Correction>& corrections,
                                             const Replacements& replacements, const std::vector<Stroke>& strokes) {
    std::vector<Correction> out;
    if (replacements.empty()) return out;
    const std::unordered_map<StrokeId, StrokeId> next(replacements.begin(), replacements.end());
    std::unordered_map<StrokeId, const Stroke*> added;
    for (const Stroke& s : strokes) added[s.id] = &s;
    for (const Correction& correction : corrections) {
        const auto replaced = [&](StrokeId id) { return next.contains(id) && added.contains(next.at(id)); };
        if (correction.strokes.empty() || !std::ranges::all_of(correction.strokes, replaced)) continue;
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
