// What fernleaf-cli does, one function a subcommand. Results go to stdout, everything else to stderr.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "math/algebra_text.h"
#include "paper/picture_file.h"
#include "render/export.h"

namespace fernleaf {

// Exit statuses: all done; some input could not be used.
constexpr int kAllDone = 0;
constexpr int kSomeFailed = 1;
constexpr int kWrongUsage = 2;

// What everything on a page is; automatic: as it looks.
enum class ReadAs { automatic, text, math, drawing, diagram, table };

struct ComputeOptions {
    std::vector<std::string> formulas;
    WorkingManner manner;
    std::vector<std::string> values;  // a=3
};

struct ReadOptions {
    std::vector<std::filesystem::path> inputs;
    std::string languages = "en";  // codes with commas between
    std::filesystem::path words;
    std::filesystem::path hand;   // learnt by teach_command; none: the reader as it comes
    double language_weight = -1;  // below 0: the default
    int dpi = kUsualDpi;          // of PDFs
    ReadAs as = ReadAs::automatic;
    bool json = false;
};
int read_command(const ReadOptions& options);
int compute_command(const ComputeOptions& options);

// Learns a hand from writing whose words are known.
struct TeachOptions {
    std::filesystem::path input, words;  // words: line by line
    std::filesystem::path to, from;      // from: a hand to go on from; none: the reader as it comes
    std::string languages = "en";
    int dpi = kUsualDpi;
};
int teach_command(const TeachOptions& options);

struct LibraryOptions {
    std::filesystem::path library;
    std::string notebook;
    std::vector<std::filesystem::path> inputs;
    std::string query;
    bool json = false;
    bool repair = false;
    int limit = 200;
    std::string pages;
    long long page = 0;
    int dpi = kUsualDpi;  // of PDFs
    std::filesystem::path to;
    std::filesystem::path passphrase_file;
    DrawingsAs drawings = DrawingsAs::they_are;
};
int bundle_command(const LibraryOptions& options);  // writes a notebook as one file
int import_command(const LibraryOptions& options);
int list_command(const LibraryOptions& options);
int find_command(const LibraryOptions& options);
int export_command(const LibraryOptions& options);
// Scans into the intake tray; without a device, the first that is connected.
struct ScanOptions {
    std::filesystem::path library;
    bool list = false;  // the scanners there are, instead
    std::string device;
    std::string languages = "en";  // that the sheets are written in: they tell which way up
    int dpi = 300;
    bool grey = false, feeder = false;
};
int scan_command(const ScanOptions& options);
// Pens: takes what they captured, tells of them, forgets one.
enum class PenAction { sync, status, forget };
struct PenOptions {
    PenAction action = PenAction::sync;
    std::filesystem::path library, socket, passcode_file;  // without a socket: all pens that are near
    std::string pen;                                       // to be forgotten: its name or serial number
};
int pen_command(const PenOptions& options);
// Notebooks and their folders.
enum class NotebookAction { create, rename, move, archive, unarchive, bin, restore };
struct NotebookOptions {
    NotebookAction action = NotebookAction::create;
    std::filesystem::path library;
    std::string notebook, to;  // titles; to: the new one
    std::string folder;        // "Orchard/Old"; folders that are missing are made
    std::string languages = "en";
};
int notebook_command(const NotebookOptions& options);
// Tags of notebooks and pages.
enum class TagAction { add, remove, list };
struct TagOptions {
    TagAction action = TagAction::list;
    std::filesystem::path library;
    std::string notebook, pages;  // numbers of its pages, e.g. 1-3,7; empty: the notebook's own
    std::vector<std::string> tags;
    bool json = false;
};
int tag_command(const TagOptions& options);
// Pages to begin others with.
enum class TemplateAction { list, keep, use, remove };
struct TemplateOptions {
    TemplateAction action = TemplateAction::list;
    std::filesystem::path library;
    std::string name, notebook;
    long long page = 0;
};
int template_command(const TemplateOptions& options);
// Backups in a folder, and the way back.
enum class BackupAction { make, list, verify, restore };
struct BackupOptions {
    BackupAction action = BackupAction::make;
    std::filesystem::path library, in;
    std::string notebook;  // to be restored; with neither: everything, into a new directory
    long long page = 0;
    std::string
        at;  // the newest that is not younger: 2026-05-01, 2026-05-01T14:30, or a snapshot's name; empty: the newest
};
int backup_command(const BackupOptions& options);
// Boxes to tick, over the whole library.
struct TodoOptions {
    std::filesystem::path library;
    bool done_too = false, json = false;
};
int todo_command(const TodoOptions& options);
int check_command(const LibraryOptions& options);
int demo_command(const LibraryOptions& options);

// "1-3,7" as page numbers; empty when it is not such a list.
std::vector<int> page_numbers(const std::string& list);

}  // namespace fernleaf
