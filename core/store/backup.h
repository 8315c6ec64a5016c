// Backups of a library in a folder: snapshots that share what is the same in them, each as old as it says.
//
//   auto made = back_up(*library, "/media/drive/notes");       // verified; older ones are thinned out
//   for (const Snapshot& s : *snapshots("/media/drive/notes")) ...
//   restore_all("/media/drive/notes", s.name, "notes from may");
//
// In the folder: objects/ holds contents by their SHA-256 (files and sound as they are, the database in pieces of 64
// KiB, of which a day's work changes few), and a snapshot is a JSON file that names them in order; the pieces one after
// the other are the database (docs/keeping.md). A snapshot is there once all it names is on disk; nothing is ever
// changed in place.
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <vector>

#include "base/cancel.h"
#include "store/library.h"

namespace fernleaf {

struct Snapshot {
    std::string name;     // tells it from the others in its folder: "2026-12-01T04-22-33Z"
    std::string library;  // the name of its directory
    int64_t made_ms = 0;
    uint64_t bytes = 0;  // of database and files
    size_t notebooks = 0, pages = 0;
};

// How many are kept: the newest of each of so many days, weeks and months on which one was made.
struct BackupKeeping {
    size_t days = 7, weeks = 4, months = 12;
};

// The library may be in use, by another program too. The folder is made where it is missing. Everything that is new in
// it is read again and compared. A backup that fails or is cancelled leaves the snapshots as they were.
Result<Snapshot> back_up(const Library& library, const std::filesystem::path& into, const Progress& progress = {},
                         const CancelToken& cancel = {}, const BackupKeeping& keeping = {});

// The newest first. Damaged ones are left out.
Result<std::vector<Snapshot>> snapshots(const std::filesystem::path& in);
// Whether all that it names is there and as it was.
Status verify_snapshot(const std::filesystem::path& in, const std::string& name, const Progress& progress = {},
                       const CancelToken& cancel = {});

// The whole library as it was, into a directory that is empty or not there yet.
Status restore_all(const std::filesystem::path& in, const std::string& name, const std::filesystem::path& to,
                   const Progress& progress = {}, const CancelToken& cancel = {});

// A snapshot looked into: its notebooks and pages, and the way of them into a library that is in use.
class OpenSnapshot {
public:
    // Its database is put into a directory of its own among the temporary ones until this ends.
    static Result<std::unique_ptr<OpenSnapshot>> open(const std::filesystem::path& in, const std::string& name);
    ~OpenSnapshot();
    OpenSnapshot(const OpenSnapshot&) = delete;
    OpenSnapshot& operator=(const OpenSnapshot&) = delete;

    const Library& library() const { return *library_; }
    // A copy of the page, at a notebook's end; of the notebook, under that title.
    Result<PageId> restore_page(PageId page, Library& into, NotebookId notebook) const;
    Result<std::vector<PageId>> restore_notebook(NotebookId notebook, Library& into, const std::string& title) const;

private:
    OpenSnapshot() = default;
    std::filesystem::path in_, directory_;
    std::unique_ptr<Library> library_;
};

}  // namespace fernleaf
