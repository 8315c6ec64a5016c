// fernleaf-cli backup and restore.
#include "store/backup.h"

#include <algorithm>
#include <cstdio>
#include <ctime>
#include <iomanip>
#include <iostream>
#include <limits>

#include "cli/commands.h"
#include "cli/library_at.h"
#include "cli/readers.h"

namespace fernleaf {
namespace {

// The last moment that a time such as 2026-05-01, 2026-05-01T14:30 or a snapshot's name means, here; with a Z at its
// end in UTC.
Result<int64_t> moment_of(const std::string& text) {
    if (text.empty()) return std::numeric_limits<int64_t>::max();
    std::tm time{};
    char separators[2] = {0, 0};
    int second = 59, minute = 59, hour = 23;
    const int read = std::sscanf(text.c_str(), "%4d-%2d-%2dT%2d%c%2d%c%2d", &time.tm_year, &time.tm_mon, &time.tm_mday,
                                 &hour, &separators[0], &minute, &separators[1], &second);
    const bool date = read == 3 && text.size() == 10;
    if (!date && read != 6 && read != 8) return Error{"\"" + text + "\" is no time; write it like 2026-05-01T14:30."};
    time.tm_year -= 1900, time.tm_mon -= 1;
    time.tm_hour = hour, time.tm_min = minute, time.tm_sec = second;
    time.tm_isdst = -1;
    const std::time_t at = text.back() == 'Z' ? ::timegm(&time) : std::mktime(&time);
    return static_cast<int64_t>(at) * 1000 + 999;
}

void print(const Snapshot& s) {
    std::cout << s.name << '\t' << s.library << '\t' << s.notebooks
              << (s.notebooks == 1 ? " notebook, " : " notebooks, ") << s.pages
              << (s.pages == 1 ? " page, " : " pages, ") << std::fixed << std::setprecision(1)
              << static_cast<double>(s.bytes) / 1e6 << " MB\n";
}

Status restore(const BackupOptions& options, const std::string& name) {
    if (options.notebook.empty() && options.page == 0) return restore_all(options.in, name, options.library);
    const auto library = existing_library(options.library);
    if (!library) return library.error();
    const auto snapshot = OpenSnapshot::open(options.in, name);
    if (!snapshot) return snapshot.error();
    if (options.page != 0) {
        const auto page = (*snapshot)->library().load_page(options.page);
        if (!page) return page.error();
        const auto notebook = (*snapshot)->library().notebook(page->info.notebook);
        if (!notebook) return notebook.error();
        // Into the notebook it was in, or one of that title.
        NotebookId into = 0;
        const auto there = (*library)->notebooks();
        if (!there) return there.error();
        for (const Notebook& n : *there)
            if (n.id == notebook->id || (into == 0 && n.title == notebook->title)) into = n.id;
        if (into == 0)
            return Error{"\"" + notebook->title + "\" is not in this library. Restore the notebook instead."};
        const auto restored = (*snapshot)->restore_page(options.page, **library, into);
        if (!restored) return restored.error();
        std::cout << "page " << *restored << '\n';
        return Done{};
    }
    const auto notebook = notebook_titled((*snapshot)->library(), options.notebook);
    if (!notebook) return Error{"There is no notebook \"" + options.notebook + "\" in this backup."};
    std::string title = options.notebook;
    for (int n = 2; notebook_titled(**library, title); ++n)
        title = options.notebook + " (restored" + (n > 2 ? " " + std::to_string(n - 1) : std::string()) + ")";
    const auto pages = (*snapshot)->restore_notebook(notebook->id, **library, title);
    if (!pages) return pages.error();
    std::cout << title << ": " << pages->size() << (pages->size() == 1 ? " page" : " pages") << '\n';
    return Done{};
}

}  // namespace

int backup_command(const BackupOptions& options) {
    if (options.action == BackupAction::make) {
        const auto library = existing_library(options.library);
        if (!library) return fail(library.error());
        const auto made = back_up(**library, options.in);
        if (!made) return fail(made.error());
        print(*made);
        return kAllDone;
    }
    if (options.action == BackupAction::list) {
        const auto all = snapshots(options.in);
        if (!all) return fail(all.error());
        for (const Snapshot& s : *all) print(s);
        return kAllDone;
    }
    const auto at = moment_of(options.at);
    if (!at) return fail(at.error());
    // A folder may hold backups of several libraries; of one that is there its own are meant.
    auto all = snapshots(options.in);
    if (!all) return fail(all.error());
    const bool whole = options.action == BackupAction::restore && options.notebook.empty() && options.page == 0;
    if (!whole)
        std::erase_if(*all, [&](const Snapshot& s) {
            return s.library != std::filesystem::absolute(options.library).lexically_normal().filename().string();
        });
    const auto snapshot = std::ranges::find_if(*all, [&](const Snapshot& s) { return s.made_ms <= *at; });
    if (snapshot == all->end()) return fail({"There is no such backup in " + options.in.string() + "."});
    const Status done = options.action == BackupAction::verify ? verify_snapshot(options.in, snapshot->name)
                                                               : restore(options, snapshot->name);
    if (!done) return fail(done.error());
    if (options.action == BackupAction::verify) std::cout << "ok\n";
    return kAllDone;
}

}  // namespace fernleaf
