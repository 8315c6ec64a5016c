#include "desk/library_model.h"

#include <QDate>
#include <QLocale>
#include <QSettings>
#include <algorithm>

#include "base/now.h"
#include "desk/text_of.h"

namespace fernleaf {
namespace {

constexpr char kBinDays[] = "bin/days";
constexpr int kAtTheEnd = 1 << 20;

}  // namespace

void LibraryModel::refresh() {
    disk_.ask(
        this,
        [this, open = open_notebook_.load()]() -> Result<std::vector<NotebookSummary>> {
            const auto notebooks = library_.notebooks();
            if (!notebooks) return notebooks.error();
            const auto written = library_.last_written();
            if (!written) return written.error();
            std::vector<NotebookSummary> out;
            for (const Notebook& n : *notebooks) {
                NotebookSummary summary{n, 0, {}};
                if (const auto when = written->find(n.id); when != written->end()) summary.written_ms = when->second;
                if (n.id == open) {
                    auto contents = library_.contents(n.id);
                    if (!contents) return contents.error();
                    summary.contents = *std::move(contents);
                    summary.pages = summary.contents.size();
                } else {
                    const auto pages = library_.pages(n.id);
                    if (!pages) return pages.error();
                    summary.pages = pages->size();
                }
                out.push_back(std::move(summary));
            }
            return out;
        },
        [this](const Result<std::vector<NotebookSummary>>& notebooks) {
            if (!notebooks) return messages_.tell_problem(notebooks.error());
            emit notebooks_changed(*notebooks);
        });
}

void LibraryModel::open_notebook(NotebookId notebook) {
    open_notebook_ = notebook;
    disk_.ask(
        this, [this, notebook] { return library_.pages(notebook); },
        [this](const Result<std::vector<PageInfo>>& pages) {
            if (!pages) return messages_.tell_problem(pages.error());
            if (!pages->empty()) emit page_wanted(pages->front().id);
            refresh();
        });
}

void LibraryModel::open_where_left(PageId page, NotebookId otherwise) {
    disk_.ask(
        this, [this, page]() -> Result<bool> { return page != 0 && library_.load_page(page); },
        [this, page, otherwise](const Result<bool>& there) {
            if (there && *there)
                emit page_wanted(page);
            else
                open_notebook(otherwise);
        });
}

void LibraryModel::open_neighbour(int offset) {
    if (!document_.page()) return;
    disk_.ask(
        this, [this, notebook = open_notebook_.load()] { return library_.pages(notebook); },
        [this, offset, id = document_.page()->info.id](const Result<std::vector<PageInfo>>& pages) {
            if (!pages) return messages_.tell_problem(pages.error());
            const auto open = std::ranges::find(*pages, id, &PageInfo::id);
            const auto there = open - pages->begin() + offset;
            if (open != pages->end() && there >= 0 && there < std::ssize(*pages))
                return emit page_wanted((*pages)[static_cast<size_t>(there)].id);
            if (there == std::ssize(*pages) && !library_.why_read_only() && !document_.notebook().archived)
                messages_.make_offer(tr("This is the notebook’s last page."), tr("Add a page"), [this] { add_page(); });
        });
}

void LibraryModel::add_notebook(const Notebook& notebook) {
    disk_.ask(
        this,
        [this, notebook]() -> Result<PageId> {
            const auto id = library_.add_notebook(notebook);
            if (!id) return id.error();
            return library_.add_page(*id, PageInfo{notebook.sheet});
        },
        [this](const Result<PageId>& page) {
            if (!page) return messages_.tell_problem(page.error());
            emit page_wanted(*page);
        });
}

void LibraryModel::change_notebook(const Notebook& notebook) {
    if (!editing_.may_change()) return;
    const auto read_alike = std::make_shared<bool>(false);  // as before
    disk_.ask(
        this,
        [this, notebook, read_alike]() -> Status {
            const auto before = library_.notebook(notebook.id);
            *read_alike = before && before->languages == notebook.languages &&
                          before->language_weight == notebook.language_weight && before->hand == notebook.hand &&
                          before->working == notebook.working;
            return library_.change_notebook(notebook);
        },
        [this, notebook, read_alike](const Status& status) {
            if (!status) return messages_.tell_problem(status.error());
            if (document_.notebook().id == notebook.id) document_.set_notebook(notebook);
            if (document_.sheaf() && document_.sheaf()->notebook == notebook.id)
                emit page_wanted(document_.page()->info.id);  // the sheaf has another title, perhaps
            refresh();
            if (!*read_alike) readings_.read_all_anew();
        });
}

void LibraryModel::add_page() {
    if (!document_.page() || !editing_.may_change_page()) return;
    const bool in_sheaf = document_.sheaf().has_value();
    const int number = in_sheaf ? kAtTheEnd : document_.page()->info.number + 1;
    disk_.ask(
        this,
        [this, listed = open_notebook_.load(), number]() -> Result<PageId> {
            const auto notebook = library_.notebook(listed);
            if (!notebook) return notebook.error();
            auto page = library_.add_page(listed, PageInfo{notebook->sheet});
            if (!page) return page;
            if (Status status = library_.move_page(*page, listed, number); !status) return status.error();
            return page;
        },
        [this](const Result<PageId>& page) {
            if (!page) return messages_.tell_problem(page.error());
            emit page_wanted(*page);
            refresh();
        });
}

// Does something to pages on disk; the list shows it then.
template <typename Job>
void LibraryModel::pages_job(Job job, std::function<void()> then) {
    if (!editing_.may_change()) return;
    document_.leave();  // what is under way on it is kept first
    readings_.save_now();
    disk_.ask(this, std::move(job), [this, then = std::move(then)](const Status& status) {
        if (!status) return messages_.tell_problem(status.error());
        then();
        refresh();
    });
}

void LibraryModel::move_page(PageId page, NotebookId notebook, int number) {
    pages_job([this, page, notebook, number] { return library_.move_page(page, notebook, number); },
              [this, page, notebook] {
                  if (!document_.page()) return;
                  // In the other notebook's languages.
                  if (notebook != open_notebook_) readings_.read_later({page});
                  emit page_wanted(document_.page()->info.id);  // numbers have changed
              });
}

void LibraryModel::copy_page(PageId page, NotebookId notebook, int number) {
    auto copy = std::make_shared<PageId>(0);
    pages_job(
        [this, page, notebook, number, copy]() -> Status {
            const auto made = library_.copy_page(page, notebook, number);
            if (!made) return made.error();
            *copy = *made;
            return Done{};
        },
        [this, copy, notebook] {
            readings_.read_later({*copy});
            if (document_.page()) emit page_wanted(notebook == open_notebook_ ? *copy : document_.page()->info.id);
        });
}

void LibraryModel::gather(const std::vector<PageId>& pages, Gather as) {
    if (pages.empty()) return;
    struct Gathered {
        NotebookId notebook = 0;
        std::vector<PageId> pages;
    };
    auto made = std::make_shared<Gathered>();
    const QString title = tr("Sheaf, %1").arg(QLocale().toString(QDate::currentDate(), QLocale::ShortFormat));
    pages_job(
        [this, pages, made, as, title = title.toStdString()]() -> Status {
            const auto first = library_.load_page(pages.front());
            if (!first) return first.error();
            auto like = library_.notebook(first->info.notebook);
            if (!like) return like.error();
            like->title = title;
            const auto notebook = library_.add_notebook(*like);
            if (!notebook) return notebook.error();
            made->notebook = *notebook;
            if (as == Gather::same_pages) {
                made->pages = pages;
                const auto shown = library_.show_in(*notebook, pages);
                return shown ? Status(Done{}) : shown.error();
            }
            for (const PageId page : pages) {
                const auto copy = library_.copy_page(page, *notebook, static_cast<int>(made->pages.size()) + 1);
                if (!copy) {
                    static_cast<void>(library_.bin_notebook(*notebook));  // half a sheaf is of no use
                    return copy.error();
                }
                made->pages.push_back(*copy);
            }
            return Done{};
        },
        [this, made, as] {
            if (as == Gather::copies) readings_.read_later(made->pages);
            open_notebook_ = made->notebook;
            emit page_wanted(made->pages.front());
            messages_.tell_undoable(
                tr("%n page(s) gathered into a sheaf.", nullptr, static_cast<int>(made->pages.size())),
                [this, notebook = made->notebook] { bin_notebook(notebook); });
        });
}

void LibraryModel::show_in(NotebookId sheaf, const std::vector<PageId>& pages) {
    auto fresh = std::make_shared<std::vector<PageId>>();
    pages_job(
        [this, sheaf, pages, fresh]() -> Status {
            auto shown = library_.show_in(sheaf, pages);
            if (!shown) return shown.error();
            *fresh = *std::move(shown);
            return Done{};
        },
        [this, sheaf, fresh] {
            if (fresh->empty()) return messages_.tell(tr("These pages are in that notebook already."));
            messages_.tell_undoable(
                tr("%n page(s) now also in that notebook.", nullptr, static_cast<int>(fresh->size())),
                [this, sheaf, fresh] {
                    pages_job([this, sheaf, fresh] { return library_.show_no_more(sheaf, *fresh); }, [] {});
                });
        });
}

void LibraryModel::bin_pages(const std::vector<PageId>& pages) {
    struct Gone {
        PageId next = 0;
        std::vector<PageId> own, shown;  // into the bin; out of the sheaf
    };
    auto out = std::make_shared<Gone>();
    const PageId open = document_.page() ? document_.page()->info.id : 0;
    const NotebookId listed = open_notebook_;
    pages_job(
        [this, pages, open, listed, out]() -> Status {
            const auto gone = [&](PageId id) { return std::ranges::find(pages, id) != pages.end(); };
            const auto before = library_.pages(listed);
            if (!before) return before.error();
            PageId* next = &out->next;
            const auto here = std::ranges::find(*before, open, &PageInfo::id);
            // The open page, or the first that stays after it, or the last before it.
            for (auto at = here; at != before->end() && *next == 0; ++at)
                if (!gone(at->id)) *next = at->id;
            for (auto at = here; at != before->begin() && *next == 0;)
                if (!gone((--at)->id)) *next = at->id;
            for (const PageId page : pages) {
                const auto info = std::ranges::find(*before, page, &PageInfo::id);
                const bool shown = info != before->end() && info->notebook != listed;
                (shown ? out->shown : out->own).push_back(page);
            }
            if (Status status = library_.show_no_more(listed, out->shown); !status) return status;
            for (const PageId page : out->own)
                if (Status status = library_.bin_page(page); !status) return status;
            if (*next != 0) return Done{};
            // A notebook has a page at least.
            const auto notebook = library_.notebook(listed);
            if (!notebook) return notebook.error();
            const auto fresh = library_.add_page(listed, PageInfo{notebook->sheet});
            if (!fresh) return fresh.error();
            *next = *fresh;
            return Done{};
        },
        [this, out, listed] {
            emit page_wanted(out->next);
            const auto put_back = [this, out, listed] {
                if (!out->shown.empty()) show_in(listed, out->shown);
                std::vector<Binned> back;
                for (const PageId page : out->own) back.push_back({0, page});
                if (!back.empty()) restore(back);
            };
            const int binned = static_cast<int>(out->own.size());
            messages_.tell_undoable(binned > 0 ? tr("%n page(s) are in the bin.", nullptr, binned)
                                               : tr("%n page(s) taken out of this notebook; still in their own.",
                                                    nullptr, static_cast<int>(out->shown.size())),
                                    put_back);
        });
}

void LibraryModel::bin_notebook(NotebookId notebook) {
    auto next = std::make_shared<NotebookId>(0);
    pages_job(
        [this, notebook, next]() -> Status {
            if (Status status = library_.bin_notebook(notebook); !status) return status;
            const auto rest = library_.notebooks();
            if (rest && !rest->empty()) *next = rest->front().id;
            return Done{};
        },
        [this, notebook, next] {
            const bool shown = notebook == document_.notebook().id || notebook == open_notebook_;  // as a sheaf
            if (*next != 0 && shown) open_notebook(*next);
            if (*next == 0) {
                open_notebook_ = 0;
                emit emptied();
            }
            messages_.tell_undoable(tr("The notebook is in the bin."), [this, notebook] { restore({{notebook, 0}}); });
        });
}

void LibraryModel::archive_notebook(NotebookId notebook, bool archived) {
    pages_job([this, notebook, archived] { return library_.archive_notebook(notebook, archived); },
              [this, notebook, archived] {
                  // What is known of the open page is of before.
                  if (document_.page() && document_.notebook().id == notebook)
                      emit page_wanted(document_.page()->info.id);
                  if (!archived) return messages_.tell(tr("Notebook taken out of the archive."));
                  messages_.tell_undoable(tr("Notebook archived."),
                                          [this, notebook] { archive_notebook(notebook, false); });
              });
}

void LibraryModel::restore(const std::vector<Binned>& things) {
    pages_job(
        [this, things]() -> Status {
            for (const Binned& thing : things)
                if (Status status = thing.track != 0  ? library_.restore_track(thing.track)
                                    : thing.page != 0 ? library_.restore_page(thing.page)
                                                      : library_.restore_notebook(thing.notebook);
                    !status)
                    return status;
            return Done{};
        },
        [this, things] {
            if (std::ranges::any_of(things, [](const Binned& thing) { return thing.track != 0; }))
                emit tracks_restored();
            look_into_bin();
            const auto shown = std::ranges::find(things, TrackId{0}, &Binned::track);
            if (shown == things.end()) return;
            if (shown->page != 0)
                emit page_wanted(shown->page);
            else
                open_notebook(shown->notebook);
        });
}

void LibraryModel::empty_bin() {
    pages_job([this] { return library_.empty_bin(); }, [this] { look_into_bin(); });
}

int LibraryModel::bin_days() { return std::max(0, QSettings().value(kBinDays).toInt()); }

void LibraryModel::set_bin_days(int days) {
    QSettings().setValue(kBinDays, days);
    tidy_bin();
}

void LibraryModel::tidy_bin() {
    constexpr int64_t kDayMs = 86'400'000;
    if (bin_days() == 0 || library_.why_read_only()) return;
    disk_.ask(
        this, [this, before = now_ms() - bin_days() * kDayMs] { return library_.empty_bin(before); },
        [this](const Status& status) {
            if (!status) return messages_.tell_problem(status.error());
            look_into_bin();
        });
}

void LibraryModel::look_into_bin() {
    disk_.ask(
        this, [this] { return library_.bin(); },
        [this](const Result<std::vector<Binned>>& things) {
            if (!things) return messages_.tell_problem(things.error());
            emit bin_seen(*things);
        });
}

void LibraryModel::find(const QString& text) {
    const int query_number = ++newest_query_;
    if (text.trimmed().isEmpty()) return emit found({}, {}, {});
    const auto query = parse_query(text.toStdString());
    if (!query) return emit found(text, {}, text_of(query.error()));
    readings_.save_now();
    disk_.ask(
        this, [this, query = *query] { return library_.find(query); },
        [this, text, query_number](const Result<std::vector<Hit>>& hits) {
            if (query_number != newest_query_) return;
            if (!hits) return emit found(text, {}, text_of(hits.error()));
            emit found(text, *hits, {});
        });
}

void LibraryModel::days(const DayFilter& filter, std::function<void(const std::vector<WrittenDay>&)> then) {
    disk_.ask(
        this, [this, filter] { return library_.days(filter); },
        [this, then = std::move(then)](const Result<std::vector<WrittenDay>>& days) {
            days ? then(*days) : messages_.tell_problem(days.error());
        });
}

void LibraryModel::written_on(int64_t day, const DayFilter& filter,
                              std::function<void(const std::vector<DayPage>&)> then) {
    disk_.ask(
        this, [this, day, filter] { return library_.written_on(day, filter); },
        [this, then = std::move(then)](const Result<std::vector<DayPage>>& pages) {
            pages ? then(*pages) : messages_.tell_problem(pages.error());
        });
}

}  // namespace fernleaf
