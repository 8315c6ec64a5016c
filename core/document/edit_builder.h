// Goes on with an edit of a page: what it adds is changed where it stands, what is on the page is replaced.
//
//   EditBuilder builder(edit, page, new_id);
//   for (const TextBlock& text : std::vector<TextBlock>(builder.now().texts)) builder.replace(text, wrapped(text));
#pragma once

#include <algorithm>
#include <functional>
#include <utility>

#include "document/edit.h"

namespace fernleaf {

// The edit must outlive it, and is changed by nobody else meanwhile.
class EditBuilder {
public:
    EditBuilder(Edit& edit, const Elements& page, std::function<ElementId()> new_id)
        : edit_(edit), now_(page), new_id_(std::move(new_id)) {
        erase(now_, edit.removed);
        insert(now_, edit.added);
    }

    // The page as the edit leaves it so far.
    const Elements& now() const { return now_; }

    template <Element E>
    ElementId add(E element) {
        element.id = new_id_();
        edit_.added.of<E>().push_back(element);
        put(element);
        return element.id;
    }

    template <Element E>
    void remove(const E& element) {
        const E gone = element;
        take(gone);
        if (std::erase_if(edit_.added.of<E>(), [&](const E& e) { return e.id == gone.id; }) == 0)
            edit_.removed.of<E>().push_back(gone);
    }

    // Keeps its place among the others. What is new with the edit keeps its id, too. Returns the id it has now.
    template <Element E>
    ElementId replace(const E& before, E after) {
        const E was = before;  // it may be one of the lists below
        if (after == was) return was.id;
        after.id = was.id, after.z = was.z;
        std::vector<E>& added = edit_.added.of<E>();
        const auto mine = std::ranges::find(added, was.id, [](const E& e) { return e.id; });
        if (mine == added.end()) {
            after.z = z_of(was);
            after.id = new_id_();
            edit_.removed.of<E>().push_back(was);
            added.push_back(after);
            if constexpr (std::is_same_v<E, Stroke>) edit_.replacements.emplace_back(was.id, after.id);
        } else {
            *mine = after;
        }
        // Its place among the others is the same.
        *std::ranges::find(now_.of<E>(), was.id, [](const E& e) { return e.id; }) = after;
        return after.id;
    }

private:
    template <Element E>
    void put(const E& element) {
        std::vector<E>& list = now_.of<E>();
        list.insert(std::ranges::upper_bound(list, element, z_less<E, E>), element);
    }
    template <Element E>
    void take(const E& element) {
        std::erase_if(now_.of<E>(), [&](const E& e) { return e.id == element.id; });
    }

    Edit& edit_;
    Elements now_;
    std::function<ElementId()> new_id_;
};

}  // namespace fernleaf
