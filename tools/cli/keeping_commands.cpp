// fernleaf-cli notebook, tag, todo: order in a library.
#include <algorithm>
#include <iostream>
#include <nlohmann/json.hpp>

#include "base/text.h"
#include "cli/commands.h"
#include "cli/library_at.h"
#include "cli/readers.h"

namespace fernleaf {
namespace {

using Json = nlohmann::json;

Result<std::unique_ptr<Library>> library_to_change(const std::filesystem::path& directory) {
    auto library = existing_library(directory);
    if (library)
        if (const auto why = (*library)->why_read_only()) return Error{*why};
    return library;
}

// The folder of a path such as "Orchard/Old", made where it is missing.
Result<FolderId> folder_at(Library& library, const std::string& path) {
    FolderId at = kNoFolder;
    for (size_t from = 0; from <= path.size();) {
        const size_t slash = std::min(path.find('/', from), path.size());
        const std::string title = trimmed(path.substr(from, slash - from));
        from = slash + 1;
        if (title.empty()) continue;
        const auto folders = library.folders();
        if (!folders) return folders.error();
        const auto known = std::ranges::find_if(
            *folders, [&](const Folder& folder) { return folder.parent == at && folder.title == title; });
        if (known != folders->end()) {
            at = known->id;
            continue;
        }
        const auto made = library.add_folder(title, at);
        if (!made) return made.error();
        at = *made;
    }
    return at;
}

Status create(Library& library, const NotebookOptions& options) {
    if (notebook_titled(library, options.notebook))
        return Error{"There is a notebook \"" + options.notebook + "\" already."};
    Notebook notebook;
    notebook.title = options.notebook;
    if (auto languages = language_codes(options.languages); !languages.empty())
        notebook.languages = std::move(languages);
    const auto folder = folder_at(library, options.folder);
    if (!folder) return folder.error();
    notebook.folder = *folder;
    const auto id = library.add_notebook(notebook);
    if (!id) return id.error();
    const auto page = library.add_page(*id, PageInfo{notebook.sheet});
    return page ? Status(Done{}) : Status(page.error());
}

// The one binned last under that title.
Status restore(Library& library, const std::string& title) {
    const auto bin = library.bin();
    if (!bin) return bin.error();
    for (const Binned& thing : *bin)
        if (thing.page == 0 && thing.track == 0 && thing.title == title)
            return library.restore_notebook(thing.notebook);
    return Error{"There is no notebook \"" + title + "\" in the bin."};
}

Status change(Library& library, const NotebookOptions& options) {
    if (options.action == NotebookAction::create) return create(library, options);
    if (options.action == NotebookAction::restore) return restore(library, options.notebook);
    auto notebook = notebook_titled(library, options.notebook);
    if (!notebook) return notebook.error();
    switch (options.action) {
        case NotebookAction::rename:
            notebook->title = options.to;
            return library.change_notebook(*notebook);
        case NotebookAction::move: {
            const auto folder = folder_at(library, options.folder);
            return folder ? library.place_notebook(notebook->id, *folder, SIZE_MAX) : Status(folder.error());
        }
        case NotebookAction::bin:
            return library.bin_notebook(notebook->id);
        default:
            return library.archive_notebook(notebook->id, options.action == NotebookAction::archive);
    }
}

}  // namespace

int notebook_command(const NotebookOptions& options) {
    const auto library = library_to_change(options.library);
    if (!library) return fail(library.error());
    const Status status = change(**library, options);
    return status ? kAllDone : fail(status.error());
}

namespace {

Result<std::vector<TagMark>> marks_of(const Library& library, const TagOptions& options) {
    const auto notebook = notebook_titled(library, options.notebook);
    if (!notebook) return notebook.error();
    if (options.pages.empty()) return std::vector<TagMark>{{0, 0, notebook->id}};
    const auto pages = pages_numbered(library, *notebook, page_numbers(options.pages));
    if (!pages) return pages.error();
    std::vector<TagMark> out;
    for (const PageId page : *pages) out.push_back({0, page});
    return out;
}

int list_tags(const TagOptions& options) {
    const auto library = existing_library(options.library);
    if (!library) return fail(library.error());
    std::vector<Tag> tags;
    if (options.notebook.empty()) {
        auto all = (*library)->tags();
        if (!all) return fail(all.error());
        tags = *std::move(all);
    } else {
        const auto marks = marks_of(**library, options);
        if (!marks) return fail(marks.error());
        for (const TagMark& mark : *marks) {
            const auto here =
                mark.page != 0 ? (*library)->tags_of(mark.page) : (*library)->tags_of_notebook(mark.notebook);
            if (!here) return fail(here.error());
            for (const Tag& tag : *here)
                if (std::ranges::find(tags, tag.id, &Tag::id) == tags.end()) tags.push_back(tag);
        }
        std::ranges::sort(tags, {}, [](const Tag& tag) { return fold(tag.name); });
    }
    Json all = Json::array();
    for (const Tag& tag : tags) {
        if (options.json)
            all.push_back({{"name", tag.name}, {"pages", tag.pages}});
        else
            std::cout << tag.name << '\n';
    }
    if (options.json) std::cout << Json{{"tags", all}}.dump(1) << '\n';
    return kAllDone;
}

}  // namespace

int tag_command(const TagOptions& options) {
    if (options.action == TagAction::list) return list_tags(options);
    const auto library = library_to_change(options.library);
    if (!library) return fail(library.error());
    const auto places = marks_of(**library, options);
    if (!places) return fail(places.error());
    std::vector<std::string> names;
    for (const std::string& typed : options.tags) {
        auto some = tag_names(typed);
        if (some.empty()) return fail({"\"" + typed + "\" is no name for a tag."});
        std::ranges::move(some, std::back_inserter(names));
    }
    std::vector<TagMark> marks;
    if (options.action == TagAction::remove) {
        const auto all = (*library)->tags();
        if (!all) return fail(all.error());
        for (const std::string& name : names) {
            const auto known = std::ranges::find_if(*all, [&](const Tag& t) { return fold(t.name) == fold(name); });
            if (known == all->end()) return fail({"There is no tag \"" + name + "\" in this library."});
            for (const TagMark& place : *places) marks.push_back({known->id, place.page, place.notebook});
        }
    } else {
        const auto tags = (*library)->tags_named(names);
        if (!tags) return fail(tags.error());
        for (const TagId tag : *tags)
            for (const TagMark& place : *places) marks.push_back({tag, place.page, place.notebook});
    }
    const auto changed = (*library)->set_tags(marks, options.action == TagAction::add);
    return changed ? kAllDone : fail(changed.error());
}

int template_command(const TemplateOptions& options) {
    const bool looks = options.action == TemplateAction::list;
    const auto library = looks ? existing_library(options.library) : library_to_change(options.library);
    if (!library) return fail(library.error());
    const auto all = (*library)->templates();
    if (!all) return fail(all.error());
    if (looks) {
        for (const PageTemplate& t : *all) std::cout << t.name << '\n';
        return kAllDone;
    }
    if (options.action == TemplateAction::keep) {
        const auto kept = (*library)->keep_template(options.name, options.page);
        return kept ? kAllDone : fail(kept.error());
    }
    const auto named = std::ranges::find(*all, options.name, &PageTemplate::name);
    if (named == all->end()) return fail({"There is no template \"" + options.name + "\" in this library."});
    if (options.action == TemplateAction::remove) {
        const Status removed = (*library)->remove_template(named->id);
        return removed ? kAllDone : fail(removed.error());
    }
    const auto notebook = notebook_titled(**library, options.notebook);
    if (!notebook) return fail(notebook.error());
    auto page = (*library)->template_page(named->id);
    if (!page) return fail(page.error());
    constexpr int kAtTheEnd = 1 << 20;
    const auto added = (*library)->add_copy(*std::move(page), notebook->id, kAtTheEnd);
    if (!added) return fail(added.error());
    std::cout << "page " << *added << '\n';
    return kAllDone;
}

int todo_command(const TodoOptions& options) {
    const auto library = existing_library(options.library);
    if (!library) return fail(library.error());
    const auto todos = (*library)->todos(options.done_too);
    if (!todos) return fail(todos.error());
    Json all = Json::array();
    for (const Todo& todo : *todos) {
        const bool done = todo.line.ticked.value_or(false);
        const std::string text = todo.errand == Errand::send   ? "Send this page"
                                 : todo.errand == Errand::todo ? "Follow up on this page"
                                                               : todo_text(todo.line);
        if (options.json)
            all.push_back({{"notebook", todo.notebook_title},
                           {"page", todo.page_number},
                           {"page_id", todo.page},
                           {"text", text},
                           {"done", done}});
        else
            std::cout << todo.notebook_title << " / " << todo.page_number << " / " << (done ? kTickedBox : kOpenBox)
                      << ' ' << text << '\n';
    }
    if (options.json) std::cout << Json{{"todos", all}}.dump(1) << '\n';
    return kAllDone;
}

}  // namespace fernleaf
