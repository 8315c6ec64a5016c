#include "desk/replacing_desk.h"

#include <functional>

#include "desk/text_of.h"
#include "document/text/replacing.h"
#include "render/text_look.h"

namespace fernleaf {
namespace {

// Blocks that change, as they were and as they are.
Edit replaced(const Page& page, const std::string& find, const std::string& by,
              const std::function<ElementId()>& new_id) {
    Edit edit{"Replace"};
    for (const TextBlock& block : page.texts) {
        TextBlock changed = block;
        if (replace_text(changed, find, by) == 0) continue;
        changed.z = z_of(block);
        changed.id = new_id();
        lay_out(changed);
        edit.removed.texts.push_back(block);
        edit.added.texts.push_back(std::move(changed));
    }
    return edit;
}

}  // namespace

void ReplacingDesk::replace_on_page(const QString& find, const QString& by) {
    if (!document_.page() || !editing_.may_change_page()) return;
    document_.leave();
    Edit edit = replaced(*document_.page(), find.toStdString(), by.toStdString(), [this] { return editing_.new_id(); });
    if (edit.added.texts.empty()) return messages_.tell(tr("“%1” is not in the typed text of this page.").arg(find));
    const int changed = static_cast<int>(edit.added.texts.size());
    editing_.change(std::move(edit));
    messages_.tell(tr("%n text(s) changed.", nullptr, changed));
}

void ReplacingDesk::replace_in_notebook(const QString& find, const QString& by) {
    if (!document_.page() || !editing_.may_change_page()) return;
    document_.leave();
    change_notebook(
        tr("Replacing “%1”").arg(find),
        [this, find = find.toStdString(), by = by.toStdString()](PageId id, const CancelToken&) -> Result<Edit> {
            const auto page = library_.load_page(id);
            if (!page) return page.error();
            return replaced(*page, find, by, [this] { return library_.new_element_id(); });
        },
        [this, find](const NotebookChange& change) {
            const int done = static_cast<int>(change.changed.size());
            if (document_.page()) emit page_wanted(document_.page()->info.id);
            if (!change.failure.isEmpty())
                messages_.tell_problem(tr("Stopped after %n page(s). %1", nullptr, done).arg(change.failure));
            else if (done == 0 && !change.cancelled)
                messages_.tell(tr("“%1” is not in the typed text of this notebook.").arg(find));
            else
                messages_.tell(change.cancelled
                                   ? tr("Cancelled. %n page(s) are already changed.", nullptr, done)
                                   : tr("Replaced on %n page(s). Undo works one page at a time.", nullptr, done));
        });
}

}  // namespace fernleaf
