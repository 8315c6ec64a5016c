#include "desk/page_document.h"

#include "math/page_values.h"

namespace fernleaf {

void PageDocument::leave() {
    if (page_) emit leaving();
}

void PageDocument::open(Page page, Notebook notebook, int pages_in_notebook, UndoState undo_state) {
    page_ = std::move(page);
    notebook_ = std::move(notebook);
    pages_in_notebook_ = pages_in_notebook;
    undo_state_ = std::move(undo_state);
    ++edition_;
}

void PageDocument::tell_opened() {
    emit opened();
    emit undo_state_changed();
}

void PageDocument::close() {
    page_.reset();
    emit closed();
}

void PageDocument::apply(const Edit& edit) {
    fernleaf::apply(*page_, edit);
    ++edition_;
    emit edited(edit);
}

void PageDocument::give_values(const Reading& reading) {
    if (!page_ || page_->plots.empty()) return;
    std::vector<Plot> plots = page_->plots;
    fernleaf::give_values(plots, reading);
    Edit edit;
    for (size_t i = 0; i < plots.size(); ++i) {
        if (plots[i] == page_->plots[i]) continue;
        edit.removed.plots.push_back(page_->plots[i]);
        edit.added.plots.push_back(plots[i]);
    }
    if (edit.added.empty()) return;
    page_->plots = std::move(plots);
    emit redrawn(edit);
}

void PageDocument::set_title(const std::string& title) {
    if (page_) page_->info.title = title;
}

void PageDocument::set_notebook(const Notebook& notebook) {
    notebook_ = notebook;
    emit undo_state_changed();  // whoever shows its title
}

void PageDocument::set_undo_state(UndoState state) {
    undo_state_ = std::move(state);
    emit undo_state_changed();
}

}  // namespace fernleaf
