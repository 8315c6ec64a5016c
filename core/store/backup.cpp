#include "store/backup.h"

#include <fcntl.h>
#include <unistd.h>

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <fstream>
#include <set>

#include "base/file.h"
#include "base/json.h"
#include "base/now.h"
#include "store/codec.h"
#include "store/records.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

constexpr size_t kChunkBytes = size_t{64} * 1024;
constexpr uintmax_t kMostFileBytes = 4'000'000'000, kMostSnapshotBytes = 1'000'000'000;
constexpr char kFormat[] = "fernleaf backup 1";
constexpr char kEnding[] = ".snapshot.json";
constexpr char kCancelled[] = "Cancelled.";

// Contents by their SHA-256.
class Objects {
public:
    explicit Objects(const fs::path& folder) : folder_(folder / "objects") {}

    // New ones are read again, and on disk only after sync().
    Status put(const std::string& hash, const std::string& bytes) {
        const fs::path path = path_of(hash);
        std::error_code problem;
        // A length that is not right is what a crash may leave.
        if (fs::file_size(path, problem) == bytes.size() && !problem) return Done{};
        fs::create_directories(path.parent_path(), problem);
        const fs::path next = path.string() + ".new";
        {
            std::ofstream out(next, std::ios::binary);
            out.write(bytes.data(), static_cast<std::streamsize>(bytes.size()));
            out.flush();
            if (!out) {
                fs::remove(next, problem);
                return Error{"The backup can't be written: " + folder_.parent_path().string() +
                                 " is full, or can't be written to.",
                             true};
            }
        }
        const auto again = read_regular(next, kMostFileBytes);
        if (!again || *again != bytes) {
            fs::remove(next, problem);
            return Error{"What was written to " + folder_.parent_path().string() +
                             " reads otherwise. Check that drive before you trust it with a backup.",
                         true};
        }
        fs::rename(next, path, problem);
        if (problem) return Error{"The backup can't be written: " + problem.message() + ".", true};
        return Done{};
    }
    Result<std::string> get(const std::string& hash) const {
        auto bytes = read_regular(path_of(hash), kMostFileBytes);
        if (!bytes) return Error{"A part of the backup is missing: " + path_of(hash).string() + "."};
        if (sha256(*bytes) != hash) return Error{"A part of the backup is damaged: " + path_of(hash).string() + "."};
        return bytes;
    }
    void sync() const {
        const int folder = ::open(folder_.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
        if (folder < 0) return;
        ::syncfs(folder);
        ::close(folder);
    }
    // All but these.
    void remove_others(const std::set<std::string>& needed) const {
        std::error_code ignored;
        for (const auto& entry : fs::recursive_directory_iterator(folder_, ignored))
            if (entry.is_regular_file(ignored) && !needed.contains(entry.path().filename().string()))
                fs::remove(entry.path(), ignored);
    }

private:
    fs::path path_of(const std::string& hash) const { return folder_ / hash.substr(0, 2) / hash; }
    fs::path folder_;
};

struct Named {
    std::string path;  // in the library's directory
    std::string hash;
};

struct Contents {
    Snapshot snapshot;
    std::vector<std::string> chunks;  // of the database
    std::vector<Named> files;
};

std::string encoded(const Contents& c) {
    Json files = Json::array();
    for (const Named& f : c.files) files.push_back({f.path, f.hash});
    Json j{{"format", kFormat},
           {"library", c.snapshot.library},
           {"made_ms", c.snapshot.made_ms},
           {"bytes", c.snapshot.bytes},
           {"notebooks", c.snapshot.notebooks},
           {"pages", c.snapshot.pages},
           {"database", c.chunks},
           {"files", files}};
    j["sum"] = sha256(text_of(j));
    return text_of(j);
}

// Files of a library have such names and no others: a snapshot from elsewhere leads to no other place.
bool is_file_of_library(const std::string& path) {
    return (path.starts_with("files/") && is_file_hash(std::string_view(path).substr(6))) ||
           (path.starts_with("sound/") && is_sound_name(std::string_view(path).substr(6)));
}

Result<Contents> contents_of(const fs::path& in, const std::string& name) {
    const Error damaged{"The snapshot " + name + " is damaged."};
    const auto bytes = read_regular(in / (name + kEnding), kMostSnapshotBytes);
    if (!bytes) return Error{"There is no snapshot " + name + " in " + in.string() + "."};
    try {
        Json j = Json::parse(*bytes);
        const std::string sum = j.at("sum");
        j.erase("sum");
        if (j.at("format") != kFormat || sha256(text_of(j)) != sum) return damaged;
        Contents out;
        out.snapshot = {name,
                        j.at("library"),
                        whole(j.at("made_ms"), 0, INT64_MAX),
                        static_cast<uint64_t>(whole(j.at("bytes"), 0, INT64_MAX)),
                        static_cast<size_t>(whole(j.at("notebooks"), 0, INT32_MAX)),
                        static_cast<size_t>(whole(j.at("pages"), 0, INT32_MAX))};
        for (const Json& chunk : j.at("database")) out.chunks.push_back(chunk);
        for (const Json& file : j.at("files")) out.files.push_back({file.at(0), file.at(1)});
        const auto well = [](const std::string& hash) { return is_file_hash(hash); };
        if (!std::ranges::all_of(out.chunks, well) || !std::ranges::all_of(out.files, well, &Named::hash) ||
            !std::ranges::all_of(out.files, is_file_of_library, &Named::path))
            return damaged;
        return out;
    } catch (const std::exception&) {
        return damaged;
    }
}

std::vector<std::string> names_in(const fs::path& folder) {
    std::vector<std::string> out;
    std::error_code ignored;
    for (const auto& entry : fs::directory_iterator(folder, ignored)) {
        std::string name = entry.path().filename().string();
        if (!name.ends_with(kEnding)) continue;
        name.resize(name.size() - (sizeof kEnding - 1));
        out.push_back(std::move(name));
    }
    std::ranges::sort(out, std::greater{});
    return out;
}

std::string name_at(int64_t ms) {
    using namespace std::chrono;
    const sys_seconds at(seconds(ms / 1000));
    const year_month_day day(floor<days>(at));
    const hh_mm_ss time(at - floor<days>(at));
    char out[64];
    std::snprintf(out, sizeof out, "%04d-%02u-%02uT%02d-%02d-%02dZ", static_cast<int>(day.year()),
                  static_cast<unsigned>(day.month()), static_cast<unsigned>(day.day()),
                  static_cast<int>(time.hours().count()), static_cast<int>(time.minutes().count()),
                  static_cast<int>(time.seconds().count()));
    return out;
}

// Those that may go, of one library, newest first: told by one another, whatever the clock says now.
std::vector<std::string> outdated(const std::vector<Snapshot>& all, const BackupKeeping& keeping) {
    using namespace std::chrono;
    std::set<int64_t> of_days, of_weeks, of_months;
    std::vector<std::string> out;
    for (const Snapshot& s : all) {
        const auto day = floor<days>(sys_time<milliseconds>(milliseconds(s.made_ms)));
        const year_month_day date(day);
        const auto newest_of = [](std::set<int64_t>& known, int64_t which, size_t most) {
            return !known.contains(which) && known.size() < most && known.insert(which).second;
        };
        const int64_t number = day.time_since_epoch().count();
        const bool kept_day = newest_of(of_days, number, keeping.days);
        const bool kept_week = newest_of(of_weeks, (number + 3) / 7, keeping.weeks);  // from Monday
        const bool kept_month = newest_of(
            of_months, 12 * static_cast<int>(date.year()) + static_cast<int>(static_cast<unsigned>(date.month())),
            keeping.months);
        if (!kept_day && !kept_week && !kept_month) out.push_back(s.name);
    }
    return out;
}

// What no snapshot needs any more goes, unless one can't be read: then nothing is known of what it needs.
void thin_out(const fs::path& folder, const std::string& library, const BackupKeeping& keeping) {
    const auto all = snapshots(folder);
    if (!all) return;
    std::vector<Snapshot> ours;
    std::ranges::copy_if(*all, std::back_inserter(ours), [&](const Snapshot& s) { return s.library == library; });
    std::error_code ignored;
    for (const std::string& name : outdated(ours, keeping)) fs::remove(folder / (name + kEnding), ignored);
    std::set<std::string> needed;
    for (const std::string& name : names_in(folder)) {
        const auto contents = contents_of(folder, name);
        if (!contents) return;
        needed.insert(contents->chunks.begin(), contents->chunks.end());
        for (const Named& file : contents->files) needed.insert(file.hash);
    }
    Objects(folder).remove_others(needed);
}

// Removes what it names when it ends.
struct Scratch {
    fs::path path;
    ~Scratch() {
        std::error_code ignored;
        fs::remove_all(path, ignored);
        for (const char* beside : {"-journal", "-wal", "-shm"}) fs::remove(path.string() + beside, ignored);
    }
};

// A path for a copy of the database: beside it, or where that can't be written among the temporary files.
fs::path scratch_for(const fs::path& library) {
    const std::string name = "backup-" + std::to_string(::getpid()) + "-" + std::to_string(now_ms()) + ".copy";
    return ::access(library.c_str(), W_OK) == 0 ? library / name : fs::temp_directory_path() / name;
}

Status put_together(const Objects& objects, const std::vector<std::string>& chunks, const fs::path& to,
                    const std::function<bool()>& go_on) {
    std::ofstream out(to, std::ios::binary | std::ios::trunc);
    for (const std::string& hash : chunks) {
        if (!go_on()) return Error{kCancelled, true};
        const auto bytes = objects.get(hash);
        if (!bytes) return bytes.error();
        out.write(bytes->data(), static_cast<std::streamsize>(bytes->size()));
    }
    out.flush();
    if (!out) return Error{"There is no room for the library in " + to.parent_path().string() + ".", true};
    return Done{};
}

}  // namespace

Result<Snapshot> back_up(const Library& library, const fs::path& into, const Progress& progress,
                         const CancelToken& cancel, const BackupKeeping& keeping) {
    std::error_code problem;
    fs::create_directories(into, problem);
    if (problem || ::access(into.c_str(), W_OK) != 0)
        return Error{into.string() + " can't be written to. Choose another folder for backups.", true};
    Contents contents;
    contents.snapshot.library = fs::absolute(library.directory()).lexically_normal().filename().string();
    if (contents.snapshot.library.empty())
        contents.snapshot.library =
            fs::absolute(library.directory()).lexically_normal().parent_path().filename().string();
    contents.snapshot.made_ms = now_ms();
    contents.snapshot.name = name_at(contents.snapshot.made_ms);
    if (fs::exists(into / (contents.snapshot.name + kEnding), problem))
        return Error{"There is a snapshot of this very second already."};
    const Scratch copy{scratch_for(library.directory())};
    constexpr double kCopying = 0.3;  // of the time
    const auto part = [&](double from, double to, double done) {
        if (progress) progress(from + (to - from) * done);
    };
    {
        auto db = Database::open(library.directory() / "library.db", Database::Mode::read);
        if (!db)
            db = Database::open(library.directory() / "library.db", Database::Mode::as_it_lies);  // read-only media
        if (!db) return db.error();
        const Status copied = (*db)->copy_to(
            copy.path, [&](double done) { part(0, kCopying, done); }, cancel);
        if (!copied) return copied.error();
    }
    std::vector<std::string> paths;
    {
        auto db = Database::open(copy.path, Database::Mode::read);
        if (!db) return db.error();
        const auto count = [&](const char* sql) {
            Statement s = (*db)->prepare(sql);
            return s.step() ? static_cast<size_t>(s.integer(0)) : 0;
        };
        contents.snapshot.notebooks = count("SELECT count(*) FROM notebook WHERE binned = 0");
        contents.snapshot.pages = count(
            "SELECT count(*) FROM page p JOIN notebook n ON n.id = p.notebook WHERE p.binned = 0 AND n.binned = 0");
        Statement files = (*db)->prepare("SELECT hash FROM file"), sounds = (*db)->prepare("SELECT file FROM sound");
        while (files.step()) paths.push_back("files/" + files.text(0));
        while (sounds.step()) paths.push_back("sound/" + sounds.text(0));
        std::erase_if(paths, [](const std::string& path) { return !is_file_of_library(path); });
        if (Status status = (*db)->take_status(); !status) return status.error();
    }
    Objects objects(into);
    const uintmax_t database_bytes = fs::file_size(copy.path, problem);
    std::ifstream database(copy.path, std::ios::binary);
    std::string chunk(kChunkBytes, '\0');
    while (database.read(chunk.data(), kChunkBytes), database.gcount() > 0) {
        if (cancel.cancelled()) return Error{kCancelled, true};
        const std::string bytes = chunk.substr(0, static_cast<size_t>(database.gcount()));
        contents.chunks.push_back(sha256(bytes));
        if (Status put = objects.put(contents.chunks.back(), bytes); !put) return put.error();
        contents.snapshot.bytes += bytes.size();
        part(
            kCopying, 2 * kCopying,
            static_cast<double>(contents.snapshot.bytes) / static_cast<double>(std::max<uintmax_t>(1, database_bytes)));
    }
    for (size_t i = 0; i < paths.size(); ++i) {
        if (cancel.cancelled()) return Error{kCancelled, true};
        // One that is missing is told by check; the backup holds what there is.
        const auto bytes = read_regular(library.directory() / paths[i], kMostFileBytes);
        if (!bytes) continue;
        contents.files.push_back({paths[i], sha256(*bytes)});
        if (Status put = objects.put(contents.files.back().hash, *bytes); !put) return put.error();
        contents.snapshot.bytes += bytes->size();
        part(2 * kCopying, 1, static_cast<double>(i + 1) / static_cast<double>(paths.size()));
    }
    objects.sync();
    if (Status kept = write_whole(into / (contents.snapshot.name + kEnding), encoded(contents)); !kept)
        return kept.error();
    thin_out(into, contents.snapshot.library, keeping);
    return contents.snapshot;
}

Result<std::vector<Snapshot>> snapshots(const fs::path& in) {
    std::error_code problem;
    if (!fs::is_directory(in, problem)) return Error{"There is no folder " + in.string() + "."};
    std::vector<Snapshot> out;
    for (const std::string& name : names_in(in))
        if (auto contents = contents_of(in, name)) out.push_back(std::move(contents->snapshot));
    std::ranges::stable_sort(out, std::greater{}, &Snapshot::made_ms);
    return out;
}

Status verify_snapshot(const fs::path& in, const std::string& name, const Progress& progress,
                       const CancelToken& cancel) {
    const auto contents = contents_of(in, name);
    if (!contents) return contents.error();
    std::vector<std::string> hashes = contents->chunks;
    for (const Named& file : contents->files) hashes.push_back(file.hash);
    const Objects objects(in);
    for (size_t i = 0; i < hashes.size(); ++i) {
        if (cancel.cancelled()) return Error{kCancelled, true};
        if (const auto bytes = objects.get(hashes[i]); !bytes) return bytes.error();
        if (progress) progress(static_cast<double>(i + 1) / static_cast<double>(hashes.size()));
    }
    return Done{};
}

Status restore_all(const fs::path& in, const std::string& name, const fs::path& to, const Progress& progress,
                   const CancelToken& cancel) {
    const auto contents = contents_of(in, name);
    if (!contents) return contents.error();
    std::error_code problem;
    const bool there = fs::exists(to, problem);
    if (there && !fs::is_empty(to, problem))
        return Error{to.string() + " is not empty. Choose a new folder: a restored library replaces none."};
    // Made beside, so that a library is there whole or not at all.
    const Scratch making{to.string() + ".restoring"};
    fs::remove_all(making.path, problem);
    if (!fs::create_directories(making.path / "files", problem) ||
        !fs::create_directories(making.path / "sound", problem))
        return Error{"No library can be made in " + to.parent_path().string() + ".", true};
    const Objects objects(in);
    size_t done = 0;
    const size_t all = contents->chunks.size() + contents->files.size();
    const auto go_on = [&] {
        if (progress) progress(static_cast<double>(++done) / static_cast<double>(all));
        return !cancel.cancelled();
    };
    if (Status put = put_together(objects, contents->chunks, making.path / "library.db", go_on); !put) return put;
    for (const Named& file : contents->files) {
        if (!go_on()) return Error{kCancelled, true};
        const auto bytes = objects.get(file.hash);
        if (!bytes) return bytes.error();
        if (Status put = write_whole(making.path / file.path, *bytes); !put) return put;
    }
    if (there) fs::remove(to, problem);
    fs::rename(making.path, to, problem);
    if (problem) return Error{"The library can't be put into " + to.string() + ": " + problem.message() + ".", true};
    return Done{};
}

Result<std::unique_ptr<OpenSnapshot>> OpenSnapshot::open(const fs::path& in, const std::string& name) {
    const auto contents = contents_of(in, name);
    if (!contents) return contents.error();
    std::string folder = (fs::temp_directory_path() / "fernleaf-snapshot-XXXXXX").string();
    if (!::mkdtemp(folder.data())) return Error{"There is no room for the snapshot to be looked into.", true};
    std::unique_ptr<OpenSnapshot> out(new OpenSnapshot);
    out->in_ = in, out->directory_ = folder;
    if (Status put = put_together(Objects(in), contents->chunks, out->directory_ / "library.db", [] { return true; });
        !put)
        return put.error();
    auto library = Library::open(out->directory_);
    if (!library) return library.error();
    out->library_ = *std::move(library);
    return out;
}

OpenSnapshot::~OpenSnapshot() {
    library_.reset();
    std::error_code ignored;
    if (!directory_.empty()) fs::remove_all(directory_, ignored);
}

Result<PageId> OpenSnapshot::restore_page(PageId page, Library& into, NotebookId notebook) const {
    auto copy = library_->take_copy(page);
    if (!copy) return copy.error();
    const Objects objects(in_);
    Status kept = Done{};
    const auto keep = [&](const std::string& file) {
        if (file.empty() || !kept) return;
        const auto bytes = objects.get(file);
        if (!bytes) {
            kept = bytes.error();
        } else if (const auto added = into.add_file(*bytes); !added) {
            kept = added.error();
        }
    };
    keep(copy->page.info.picture);
    for (Elements* elements : {static_cast<Elements*>(&copy->page), &copy->ink})
        for_each_element(*elements, [&]<typename E>(E& e) {
            for (const std::string& file : ElementTraits<E>::files(e)) keep(file);
        });
    if (!kept) return kept.error();
    constexpr int kAtTheEnd = 1 << 20;
    return into.add_copy(*std::move(copy), notebook, kAtTheEnd);
}

Result<std::vector<PageId>> OpenSnapshot::restore_notebook(NotebookId notebook, Library& into,
                                                           const std::string& title) const {
    auto like = library_->notebook(notebook);
    if (!like) return like.error();
    const auto pages = library_->pages(notebook);
    if (!pages) return pages.error();
    like->title = title;
    like->folder = kNoFolder;
    like->hand = 1;  // hands have other numbers there
    for (const std::string& picture : {like->sheet.picture, like->cover_picture}) {
        if (picture.empty()) continue;
        const auto bytes = Objects(in_).get(picture);
        if (!bytes) return bytes.error();
        if (const auto added = into.add_file(*bytes); !added) return added.error();
    }
    const auto made = into.add_notebook(*like);
    if (!made) return made.error();
    std::vector<PageId> out;
    for (const PageInfo& page : *pages) {
        const auto restored = restore_page(page.id, into, *made);
        if (!restored) {
            static_cast<void>(into.bin_notebook(*made));  // half of one is of no use
            return restored.error();
        }
        out.push_back(*restored);
    }
    return out;
}

}  // namespace fernleaf
