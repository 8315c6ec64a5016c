// The way of every change: to the page in memory, to the reader's copy and the readings, to the disk; once, in this
// order. And back, by undo, or when it can't be kept.
#pragma once

#include <QObject>
#include <functional>
#include <optional>

#include "desk/commit_queue.h"
#include "desk/messages.h"
#include "desk/page_document.h"
#include "desk/reading_scheduler.h"
#include "desk/worker.h"

namespace fernleaf {

// UI thread only.
class PageEditing : public QObject {
    Q_OBJECT

public:
    PageEditing(Library& library, Worker& disk, PageDocument& document, ReadingScheduler& readings, CommitQueue& queue,
                Messages& messages, QObject* parent = nullptr);

    // Whether the library can be changed; says why not when it can't.
    bool may_change();
    // The same of the open page, whose notebook may be in the archive.
    bool may_change_page();
    // An id for an element that is to be shown before it is kept.
    ElementId new_id() { return library_.new_element_id(); }

    // The id it got; 0 when it can't be kept.
    StrokeId write(Stroke stroke);
    // Makes a change to the open page, one step of undo; elements added have their ids.
    void change(Edit edit);
    // The same, told to the person with a way back beside it.
    void change_and_tell(Edit edit, const QString& did);
    // Ink that came onto the open page from elsewhere and is on disk already: no step of undo.
    void bring(const std::vector<Stroke>& strokes);
    void clear_page();  // of its ink
    // Gives the open page another sheet; nothing on it moves.
    void change_sheet(const Sheet& sheet);
    // Adds elements, which have their ids, and tells them to be chosen.
    void add(Elements elements, const char* label);
    // Puts elements from elsewhere onto a page, if it is still the open one, with their middle at a place in mm. A
    // kind, when one is known, is said of their ink, so that it is read as nothing else.
    void put(Result<Elements> elements, Point middle, PageId page, const char* label,
             std::optional<InkClass> kind = {});
    void add_table();    // an empty one below all that is on it
    void add_divider();  // a rule across the page, below all that is on it
    void undo() { step(false); }
    void redo() { step(true); }

signals:
    void written(const Stroke& stroke);                  // by the pen
    void added(const std::vector<ElementId>& elements);  // by a command, to be chosen now
    void page_wanted(PageId page);                       // to be opened (again)
    void page_overflowed(PageId next);                   // that was made for what no longer fits

private:
    void change_and_choose(Edit edit);
    void commit(Edit edit);
    void show(const Edit& edit);
    void take_back(PageId page, const Edit& edit, const Error& why);
    void step(bool forward);

    Library& library_;
    Worker& disk_;
    PageDocument& document_;
    ReadingScheduler& readings_;
    CommitQueue& queue_;
    Messages& messages_;
};

}  // namespace fernleaf
