// The open page as it is in memory: what views show, and what edits change first.
//
//   document.apply(edit);      // the page is changed, edited() tells
#pragma once

#include <QObject>
#include <optional>

#include "document/edit.h"
#include "store/library.h"
#include "transcript/reading.h"

namespace fernleaf {

// UI thread only; knows neither disk nor reader.
// Where the open page stands in a notebook that shows it besides its own: a sheaf.
struct InSheaf {
    NotebookId notebook = 0;
    std::string title;
    int number = 0, pages = 0;
};

class PageDocument : public QObject {
    Q_OBJECT

public:
    using QObject::QObject;

    const Page* page() const { return page_ ? &*page_ : nullptr; }  // null when none is open
    bool is_open(PageId id) const { return page_ && page_->info.id == id; }
    const Notebook& notebook() const { return notebook_; }
    int pages_in_notebook() const { return pages_in_notebook_; }
    const UndoState& undo_state() const { return undo_state_; }
    int edition() const { return edition_; }  // counts edits and openings

    // Whoever has something under way on the page finishes it.
    void leave();
    // In place of the one before. The page is shown by opened(), which is told when all else is ready for it.
    void open(Page page, Notebook notebook, int pages_in_notebook, UndoState undo_state);
    void tell_opened();
    void close();

    void apply(const Edit& edit);
    // Plots follow what names stand for as the page is read: redrawn() tells those that look otherwise now.
    void give_values(const Reading& reading);
    void set_undo_state(UndoState state);
    void set_title(const std::string& title);
    void set_notebook(const Notebook& notebook);
    // The notebook whose pages are listed, where that is not the page's own.
    const std::optional<InSheaf>& sheaf() const { return sheaf_; }
    void set_sheaf(const std::optional<InSheaf>& sheaf) { sheaf_ = sheaf; }
    // The paper whose pages a pen tells apart that the notebook is of; nothing: of any.
    const std::optional<AddressedBook>& book() const { return book_; }
    void set_book(const std::optional<AddressedBook>& book) { book_ = book; }
    // Where the page is printed, when it is one of such paper that is in use.
    const std::optional<PageAddress>& address() const { return address_; }
    void set_address(const std::optional<PageAddress>& address) { address_ = address; }
    void count_added_page() { ++pages_in_notebook_; }

signals:
    void leaving();
    void opened();
    void closed();
    void edited(const Edit& edit);
    void redrawn(const Edit& edit);  // no edit: the same elements, with the ids they have, look otherwise
    void undo_state_changed();

private:
    std::optional<Page> page_;
    Notebook notebook_;
    std::optional<InSheaf> sheaf_;
    std::optional<AddressedBook> book_;
    std::optional<PageAddress> address_;
    int pages_in_notebook_ = 0;
    UndoState undo_state_;
    int edition_ = 0;
};

}  // namespace fernleaf
