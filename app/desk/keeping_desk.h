// Order in the library: tags, titles, favourites, folders, and boxes to tick wherever they stand.
#pragma once

#include <QString>
#include <functional>
#include <vector>

#include "desk/desk.h"

namespace fernleaf {

// A page to go to, with what is typed for it folded.
struct NamedPlace {
    PagePlace place;
    std::string folded, notebook_folded;  // "press 3" goes to the third page of Press house
};

// UI thread only.
class KeepingDesk : public Desk {
    Q_OBJECT

public:
    explicit KeepingDesk(const DeskParts& parts, QObject* parent = nullptr);

    // As of the last changed(): all tags, those of the open page itself, and those it has with its notebook.
    const std::vector<Tag>& tags() const { return known_.all; }
    const std::vector<Tag>& page_tags() const { return known_.page; }
    const std::vector<Tag>& notebook_tags() const { return known_.notebook; }
    const std::vector<Folder>& folders() const { return known_.folders; }
    void refresh();  // changed() answers

    // names: as they are typed, with commas between. Tells how to take it back.
    void tag(const std::vector<PageId>& pages, const QString& names);
    void tag_notebook(NotebookId notebook, const QString& names);
    void untag(const TagMark& mark);
    void rename_tag(TagId tag, const QString& name);
    void colour_tag(TagId tag, uint32_t colour);
    void remove_tag(TagId tag);

    void name_page(PageId page, const QString& title);
    void favour_page(PageId page, bool favourite);
    void favour_notebook(NotebookId notebook, bool favourite);
    void add_folder(const QString& title, FolderId parent, std::function<void(FolderId)> then);
    void rename_folder(FolderId folder, const QString& title);
    void remove_folder(FolderId folder);
    void place_folder(FolderId folder, FolderId parent, size_t place);
    void place_notebook(NotebookId notebook, FolderId folder, size_t place);

    // Searches that were kept, the last first, as of the last changed().
    const std::vector<std::string>& kept_searches() const { return known_.searches; }
    void keep_search(const QString& query, bool keep);
    void find_places(std::function<void(const std::vector<NamedPlace>&)> then);
    void find_todos(bool done_too, std::function<void(const std::vector<Todo>&)> then);
    // A step of undo of its page, which need not be open. ticked() tells that it is done; of the open page its reading
    // does.
    void tick(const Todo& todo, bool done);

    // Does what was asked for on addressed paper and waits: favourites and tags. What is to be sent or to be done stays
    // among the to-dos.
    void run_errands();
    static QString errand_tag(Errand errand);  // of tag A, B or C: what the person calls it
    static void set_errand_tag(Errand errand, const QString& name);

signals:
    void changed();
    void order_changed();  // of notebooks and folders, their titles or those of pages
    void ticked();

private:
    struct Known {
        std::vector<Tag> all, page, notebook;
        std::vector<Folder> folders;
        std::vector<std::string> searches;
    };
    void set_tags(const std::vector<TagMark>& marks, bool on, const std::function<QString(size_t)>& says);
    void add_tags(std::vector<TagMark> places, const QString& names);
    // Does something on disk that gives a status; what is known is asked for anew then.
    template <typename Job>
    void change(Job job, bool order);

    Known known_;
};

}  // namespace fernleaf
