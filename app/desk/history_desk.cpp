#include "desk/history_desk.h"

#include "look/theme.h"
#include "render/page_picture.h"

namespace fernleaf {

void HistoryDesk::find(const std::function<void(const std::vector<PageMoment>&)>& then) {
    if (!document_.page()) return;
    document_.leave();  // what is under way is part of it
    disk_.ask(
        this, [this, page = document_.page()->info.id] { return library_.history(page); },
        [this, then](const Result<std::vector<PageMoment>>& moments) {
            if (!moments) return messages_.tell_problem(moments.error());
            then(*moments);
        });
}

void HistoryDesk::draw(int64_t edit, QSize most, const std::function<void(const QImage&)>& then) {
    if (!document_.page()) return;
    tasks_thread_.ask(  // not the disk's: what is written meanwhile is kept at once
        this,
        [this, page = document_.page()->info.id, edit, most, view = theme().page]() -> Result<QImage> {
            const auto state = library_.page_after(page, edit);
            if (!state) return state.error();
            return small_picture(
                *state, [this](const std::string& hash) { return library_.file(hash); }, view, most);
        },
        [this, then](const Result<QImage>& picture) {
            if (!picture) return messages_.tell_problem(picture.error());
            then(*picture);
        });
}

void HistoryDesk::restore(int64_t edit) {
    if (!document_.page() || !editing_.may_change_page()) return;
    document_.leave();
    disk_.ask(
        this, [this, page = document_.page()->info.id, edit] { return library_.page_after(page, edit); },
        [this](const Result<Page>& state) {
            if (!state) return messages_.tell_problem(state.error());
            if (!document_.is_open(state->info.id)) return;
            Edit back = difference(*document_.page(), *state, "Restore");
            if (back.added.empty() && back.removed.empty() && !back.sheet)
                return messages_.tell(tr("The page is that way already."));
            editing_.change(std::move(back));
            messages_.tell(tr("Restored. Undo brings the page back as it was."));
        });
}

void HistoryDesk::copy_to_new_page(int64_t edit) {
    if (!document_.page() || !editing_.may_change_page()) return;
    document_.leave();
    disk_.ask(
        this,
        [this, page = document_.page()->info, edit]() -> Result<PageId> {
            auto now = library_.take_copy(page.id);
            if (!now) return now.error();
            auto state = library_.page_after(page.id, edit);
            if (!state) return state.error();
            now->page = *std::move(state);
            now->page.info.title.clear();
            return library_.add_copy(*std::move(now), page.notebook, page.number + 1);
        },
        [this](const Result<PageId>& page) {
            if (!page) return messages_.tell_problem(page.error());
            readings_.read_later({*page});
            emit page_added(*page);
            emit page_wanted(*page);
        });
}

}  // namespace fernleaf
