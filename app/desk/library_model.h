// The library as a list of notebooks with their pages: what is shown of it, put in order in it, binned and found.
#pragma once

#include <QObject>
#include <QString>
#include <atomic>
#include <functional>
#include <vector>

#include "desk/desk.h"

namespace fernleaf {

struct NotebookSummary {
    Notebook notebook;
    size_t pages = 0;
    std::vector<PageSummary> contents;  // of the open notebook only
    int64_t written_ms = 0;             // when last; 0: never
};

// UI thread only.
class LibraryModel : public Desk {
    Q_OBJECT

public:
    explicit LibraryModel(const DeskParts& parts, QObject* parent = nullptr) : Desk(parts, parent) {}

    // Which notebook's pages are listed. Any thread.
    NotebookId open_notebook_id() const { return open_notebook_; }
    void set_open_notebook(NotebookId notebook) { open_notebook_ = notebook; }
    void refresh();  // notebooks_changed() answers

    void open_notebook(NotebookId notebook);
    // Where the library was left, or its first page where that is gone.
    void open_where_left(PageId page, NotebookId otherwise);
    void open_neighbour(int offset);  // pages before (-1) or after (1) the open one

    void add_notebook(const Notebook& notebook);
    void change_notebook(const Notebook& notebook);
    void add_page();  // after the open one
    void move_page(PageId page, NotebookId notebook, int number);
    void copy_page(PageId page, NotebookId notebook, int number);
    // Pages, from whatever notebooks, in a new one, a sheaf: copies of them, or the same pages in two places.
    enum class Gather { copies, same_pages };
    void gather(const std::vector<PageId>& pages, Gather as);
    // A notebook shows pages of others, too.
    void show_in(NotebookId sheaf, const std::vector<PageId>& pages);
    // Those that the listed notebook only shows are taken out of it.
    void bin_pages(const std::vector<PageId>& pages);
    void bin_notebook(NotebookId notebook);
    // Into the archive, where it can only be read, or out of it.
    void archive_notebook(NotebookId notebook, bool archived);
    void restore(const std::vector<Binned>& things);
    void empty_bin();
    // How many days things rest in the bin before they go by themselves; 0: until it is emptied. tidy_bin() has them
    // go.
    static int bin_days();
    void set_bin_days(int days);
    void tidy_bin();
    void look_into_bin();            // bin_seen() answers
    void find(const QString& text);  // found() answers
    // What was written when.
    void days(const DayFilter& filter, std::function<void(const std::vector<WrittenDay>&)> then);
    void written_on(int64_t day, const DayFilter& filter, std::function<void(const std::vector<DayPage>&)> then);

signals:
    void notebooks_changed(const std::vector<NotebookSummary>& notebooks);
    void bin_seen(const std::vector<Binned>& things);
    void found(const QString& text, const std::vector<Hit>& hits, const QString& problem);
    void page_wanted(PageId page);  // to be opened
    void tracks_restored();
    void emptied();  // there is no notebook any more

private:
    template <typename Job>
    void pages_job(Job job, std::function<void()> then);

    std::atomic<NotebookId> open_notebook_ = 0;  // workers read it, too
    int newest_query_ = 0;
};

}  // namespace fernleaf
