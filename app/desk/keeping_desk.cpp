#include "desk/keeping_desk.h"

#include <QSettings>
#include <algorithm>
#include <map>

#include "base/text.h"
#include "desk/text_of.h"
#include "render/text_look.h"
#include "transcript/ticking.h"

namespace fernleaf {

KeepingDesk::KeepingDesk(const DeskParts& parts, QObject* parent) : Desk(parts, parent) {
    connect(&document_, &PageDocument::opened, this, &KeepingDesk::refresh);
}

void KeepingDesk::refresh() {
    const PageId page = document_.page() ? document_.page()->info.id : 0;
    const NotebookId notebook = page != 0 ? document_.notebook().id : 0;
    disk_.ask(
        this,
        [this, page, notebook]() -> Result<Known> {
            auto all = library_.tags();
            if (!all) return all.error();
            auto of_page = library_.tags_of(page);
            if (!of_page) return of_page.error();
            auto of_notebook = library_.tags_of_notebook(notebook);
            if (!of_notebook) return of_notebook.error();
            auto folders = library_.folders();
            if (!folders) return folders.error();
            auto searches = library_.kept_searches();
            if (!searches) return searches.error();
            return Known{*std::move(all), *std::move(of_page), *std::move(of_notebook), *std::move(folders),
                         *std::move(searches)};
        },
        [this, page](Result<Known>& known) {
            if (!known) return messages_.tell_problem(known.error());
            if (page != (document_.page() ? document_.page()->info.id : 0)) return;  // the other page's come
            known_ = *std::move(known);
            emit changed();
        });
}

template <typename Job>
void KeepingDesk::change(Job job, bool order) {
    if (!editing_.may_change()) return;
    disk_.ask(this, std::move(job), [this, order](const Status& status) {
        if (!status) messages_.tell_problem(status.error());
        refresh();
        if (order) emit order_changed();
    });
}

void KeepingDesk::set_tags(const std::vector<TagMark>& marks, bool on, const std::function<QString(size_t)>& says) {
    if (!editing_.may_change()) return;
    disk_.ask(
        this, [this, marks, on] { return library_.set_tags(marks, on); },
        [this, on, says](const Result<std::vector<TagMark>>& set) {
            if (!set) return messages_.tell_problem(set.error());
            refresh();
            if (set->empty() || !says) return;
            messages_.tell_undoable(says(set->size()), [this, set = *set, on] { set_tags(set, !on, {}); });
        });
}

void KeepingDesk::add_tags(std::vector<TagMark> places, const QString& typed) {
    const std::vector<std::string> names = tag_names(typed.toStdString());
    if (names.empty() || places.empty() || !editing_.may_change()) return;
    disk_.ask(
        this, [this, names] { return library_.tags_named(names); },
        [this, places = std::move(places), names](const Result<std::vector<TagId>>& tags) {
            if (!tags) return messages_.tell_problem(tags.error());
            std::vector<TagMark> marks;
            for (const TagId tag : *tags)
                for (TagMark place : places) {
                    place.tag = tag;
                    marks.push_back(place);
                }
            // One page's tags are there to be seen.
            if (places.size() == 1) return set_tags(marks, true, {});
            set_tags(marks, true, [count = places.size()](size_t) {
                return tr("%n page(s) tagged.", nullptr, static_cast<int>(count));
            });
        });
}

void KeepingDesk::tag(const std::vector<PageId>& pages, const QString& names) {
    std::vector<TagMark> places;
    for (const PageId page : pages) places.push_back({0, page});
    add_tags(std::move(places), names);
}

void KeepingDesk::tag_notebook(NotebookId notebook, const QString& names) { add_tags({{0, 0, notebook}}, names); }

void KeepingDesk::untag(const TagMark& mark) {
    const auto tag = std::ranges::find(known_.all, mark.tag, &Tag::id);
    const QString name = tag == known_.all.end() ? QString() : QString::fromStdString(tag->name);
    set_tags({mark}, false, [name](size_t) { return tr("Tag “%1” removed.").arg(name); });
}

void KeepingDesk::rename_tag(TagId tag, const QString& name) {
    change(
        [this, tag, name = name.toStdString()]() -> Status {
            const auto renamed = library_.rename_tag(tag, name);
            return renamed ? Status(Done{}) : Status(renamed.error());
        },
        false);
}

void KeepingDesk::colour_tag(TagId tag, uint32_t colour) {
    change([this, tag, colour] { return library_.colour_tag(tag, colour); }, false);
}

void KeepingDesk::remove_tag(TagId tag) {
    change([this, tag] { return library_.remove_tag(tag); }, false);
}

void KeepingDesk::name_page(PageId page, const QString& title) {
    change([this, page, title = title.simplified().toStdString()] { return library_.name_page(page, title); }, true);
}

void KeepingDesk::favour_page(PageId page, bool favourite) {
    change([this, page, favourite] { return library_.favour_page(page, favourite); }, true);
}

void KeepingDesk::favour_notebook(NotebookId notebook, bool favourite) {
    change([this, notebook, favourite] { return library_.favour_notebook(notebook, favourite); }, true);
}

void KeepingDesk::add_folder(const QString& title, FolderId parent, std::function<void(FolderId)> then) {
    if (!editing_.may_change()) return;
    disk_.ask(
        this, [this, title = title.toStdString(), parent] { return library_.add_folder(title, parent); },
        [this, then = std::move(then)](const Result<FolderId>& folder) {
            if (!folder) return messages_.tell_problem(folder.error());
            refresh();
            emit order_changed();
            if (then) then(*folder);
        });
}

void KeepingDesk::rename_folder(FolderId folder, const QString& title) {
    change([this, folder, title = title.toStdString()] { return library_.rename_folder(folder, title); }, true);
}

void KeepingDesk::remove_folder(FolderId folder) {
    change([this, folder] { return library_.remove_folder(folder); }, true);
}

void KeepingDesk::place_folder(FolderId folder, FolderId parent, size_t place) {
    change([this, folder, parent, place] { return library_.place_folder(folder, parent, place); }, true);
}

void KeepingDesk::place_notebook(NotebookId notebook, FolderId folder, size_t place) {
    change([this, notebook, folder, place] { return library_.place_notebook(notebook, folder, place); }, true);
}

void KeepingDesk::keep_search(const QString& query, bool keep) {
    change([this, query = query.toStdString(), keep] { return library_.keep_search(query, keep); }, false);
}

void KeepingDesk::find_places(std::function<void(const std::vector<NamedPlace>&)> then) {
    disk_.ask(
        this,
        [this]() -> Result<std::vector<NamedPlace>> {
            auto places = library_.places();
            if (!places) return places.error();
            std::vector<NamedPlace> out;
            for (PagePlace& place : *places) {
                std::string notebook = fold(place.notebook_title);
                std::string folded = fold(place.title) + " " + notebook + " " + std::to_string(place.page_number);
                out.push_back({std::move(place), std::move(folded), std::move(notebook)});
            }
            return out;
        },
        [this, then = std::move(then)](const Result<std::vector<NamedPlace>>& places) {
            places ? then(*places) : messages_.tell_problem(places.error());
        });
}

void KeepingDesk::find_todos(bool done_too, std::function<void(const std::vector<Todo>&)> then) {
    readings_.save_now();
    disk_.ask(
        this, [this, done_too] { return library_.todos(done_too); },
        [this, then = std::move(then)](const Result<std::vector<Todo>>& todos) {
            todos ? then(*todos) : messages_.tell_problem(todos.error());
        });
}

void KeepingDesk::tick(const Todo& todo, bool done) {
    if (!editing_.may_change()) return;
    const auto laid_out = [](Edit edit) {
        for (TextBlock& text : edit.added.texts) lay_out(text);
        return edit;
    };
    if (todo.errand) {
        disk_.ask(
            this,
            [this, todo, done] {
                return library_.set_errand_done({todo.page, *todo.errand}, done);
            },
            [this](const Status& status) {
                if (!status) return messages_.tell_problem(status.error());
                emit ticked();
            });
        return;
    }
    if (document_.is_open(todo.page)) {
        document_.leave();
        auto edit = fernleaf::tick(*document_.page(), todo.line, done, [this] { return editing_.new_id(); });
        if (!edit) return messages_.tell_problem(edit.error());
        editing_.change(laid_out(*std::move(edit)));
        readings_.ask_once();
        return;
    }
    disk_.ask(
        this,
        [this, todo, done, laid_out]() -> Status {
            const auto page = library_.load_page(todo.page);
            if (!page) return page.error();
            auto edit = fernleaf::tick(*page, todo.line, done, [this] { return library_.new_element_id(); });
            if (!edit) return edit.error();
            Edit whole = laid_out(*std::move(edit));
            if (Status kept = library_.commit(todo.page, whole); !kept) return kept;
            return library_.note_ticked(todo.page, todo.line, done);
        },
        [this, page = todo.page](const Status& status) {
            if (!status) return messages_.tell_problem(status.error());
            readings_.read_later({page});
            emit ticked();
        });
}

QString KeepingDesk::errand_tag(Errand errand) {
    const QString letter(QChar('A' + static_cast<int>(errand) - static_cast<int>(Errand::tag_a)));
    const QString name = QSettings().value(QStringLiteral("errands/tag ") + letter).toString();
    return name.isEmpty() ? letter : name;
}

void KeepingDesk::set_errand_tag(Errand errand, const QString& name) {
    const QString letter(QChar('A' + static_cast<int>(errand) - static_cast<int>(Errand::tag_a)));
    QSettings().setValue(QStringLiteral("errands/tag ") + letter, name.trimmed());
}

void KeepingDesk::run_errands() {
    if (library_.why_read_only()) return;
    std::map<Errand, std::string> names;
    for (const Errand errand : {Errand::tag_a, Errand::tag_b, Errand::tag_c}) {
        const auto typed = tag_names(errand_tag(errand).toStdString());
        if (!typed.empty()) names[errand] = typed.front();
    }
    disk_.ask(
        this,
        [this, names]() -> Result<size_t> {
            const auto open = library_.open_errands();
            if (!open) return open.error();
            size_t done = 0;
            for (const OpenErrand& errand : *open) {
                if (errand.errand == Errand::important) {
                    if (Status kept = library_.favour_page(errand.page, true); !kept) return kept.error();
                } else if (const auto name = names.find(errand.errand); name != names.end()) {
                    const auto tags = library_.tags_named({name->second});
                    if (!tags) return tags.error();
                    const auto set = library_.set_tags({{tags->front(), errand.page}}, true);
                    if (!set) return set.error();
                } else {
                    continue;
                }
                if (Status kept = library_.set_errand_done(errand, true); !kept) return kept.error();
                ++done;
            }
            return done;
        },
        [this](const Result<size_t>& done) {
            if (!done) return messages_.tell_problem(done.error());
            emit ticked();  // some may be to-dos now
            if (*done == 0) return;
            refresh();
            emit order_changed();
            messages_.tell(tr("%n errand(s) done.", nullptr, static_cast<int>(*done)));
        });
}

}  // namespace fernleaf
