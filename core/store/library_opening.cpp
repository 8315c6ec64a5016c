// Opening a library: what lies in its directory, who may write, the newest layout, and the ids this place gives.
#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <random>

#include "base/file.h"
#include "base/now.h"
#include "store/codec.h"
#include "store/library.h"
#include "store/migrations.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

constexpr char kDatabaseName[] = "library.db", kLockName[] = "lock";
constexpr double kStepsPart = 0.8;  // of bringing a library up to date; the rest is giving back the old tables' room
constexpr int64_t kMostIds = int64_t{1} << (kCounterBits - 1);  // of one device; a damaged row may name any

// What there is in a directory: a library, room for a new one, or why neither.
struct Found {
    bool library = false;
    std::optional<Error> problem = {};
};

Found look_at(const fs::path& directory) {
    const auto no = [](const std::string& why) { return Found{false, Error{why}}; };
    std::error_code problem;
    const fs::file_status status = fs::status(directory, problem);
    if (status.type() == fs::file_type::not_found) return {};
    if (problem) return no(directory.string() + " can't be looked into: " + problem.message() + ".");
    if (!fs::is_directory(status)) return no(directory.string() + " is a file, not a library.");
    bool others = false, files = false;
    auto entry = fs::directory_iterator(directory, problem);
    if (problem)
        return no(directory.string() + " can't be looked into: " + problem.message() +
                  ". Change its permissions, or choose another folder.");
    for (; entry != fs::directory_iterator(); entry.increment(problem)) {
        if (problem) return no(directory.string() + " can't be looked into: " + problem.message() + ".");
        const std::string name = entry->path().filename().string();
        if (name == "files")
            files = fs::is_directory(entry->path(), problem) && !fs::is_empty(entry->path(), problem);
        else if (!name.starts_with(kDatabaseName) && name != kLockName)
            others = true;
    }
    const fs::path database = directory / kDatabaseName;
    const bool there = fs::exists(database, problem);
    if (problem) return no(database.string() + " can't be looked at: " + problem.message() + ".");
    const auto size = there && fs::is_regular_file(database, problem) ? fs::file_size(database, problem) : 0;
    if (size > 0) return {true};
    if (files)
        return no(directory.string() + " holds a library's files, but its database library.db is " +
                  (there ? "empty" : "missing") + ". Put it back from a copy; nothing was changed.");
    if (others && !there)
        return no(directory.string() + " holds other files and no library. Choose an empty folder for a new library.");
    return {};
}

// Where this library lies, told from everywhere else it may be copied to: a copy is another device.
std::string place_of(const fs::path& directory) {
    std::string machine;
    if (const auto id = read_regular("/etc/machine-id", 200)) machine = *id;
    std::error_code problem;
    const fs::path real = fs::canonical(directory, problem);
    return sha256(machine + "\n" + (problem ? directory : real).string());
}

}  // namespace

Library::~Library() {
    db_.reset();
    for (const int lock : locks_) ::close(lock);
}

Result<std::unique_ptr<Library>> Library::open(const fs::path& directory, const Progress& progress,
                                               const CancelToken& cancel) {
    std::unique_ptr<Library> library(new Library);
    library->directory_ = directory;
    const Found found = look_at(directory);
    if (found.problem) return *found.problem;
    std::error_code problem;
    if (!found.library) fs::create_directories(directory / "files", problem);
    if (problem) return Error{"A library can't be made in " + directory.string() + ": " + problem.message() + "."};

    const Status locked = library->take_lock();
    if (!locked) {
        if (!found.library) return locked.error();
        library->why_read_only_ = locked.error().message;
    }
    const auto mode = locked                      ? Database::Mode::change
                      : library->held_by_another_ ? Database::Mode::read
                                                  : Database::Mode::as_it_lies;
    Status opened = library->open_database(mode, progress, cancel);
    if (!opened) return Error{directory.string() + ": " + opened.error().message};
    return library;
}

// The lock is held on the directory itself, so that it holds whatever happens to a name in it; and on a file of it, for
// releases that know only that, and for file systems whose directories can't be locked.
Status Library::take_lock() {
    std::vector<int> held;
    const auto let_go = [&] {
        for (const int fd : held) ::close(fd);
    };
    const auto in_use = [&] {
        let_go();
        held_by_another_ = true;
        return Error{"The library " + directory_.string() +
                     " is in use by another window or program; it is open for reading."};
    };
    if (const int fd = ::open(directory_.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC); fd >= 0) {
        held.push_back(fd);
        if (::flock(fd, LOCK_EX | LOCK_NB) != 0 && errno == EWOULDBLOCK) return in_use();
    }
    const int fd = ::open((directory_ / kLockName).c_str(), O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW, 0644);
    if (fd < 0) {
        const std::string reason = std::strerror(errno);
        let_go();
        return Error{"The library " + directory_.string() + " can't be written to (" + reason +
                     "); it is open for reading."};
    }
    held.push_back(fd);
    if (::flock(fd, LOCK_EX | LOCK_NB) != 0) return in_use();
    locks_ = std::move(held);
    held_by_another_ = false;
    return Done{};
}

Status Library::open_database(Database::Mode mode, const Progress& progress, const CancelToken& cancel) {
    auto db = Database::open(directory_ / kDatabaseName, mode);
    if (!db) return db.error();
    db_ = *std::move(db);
    if (mode == Database::Mode::change && !db_->may_write())
        why_read_only_ = "The library " + directory_.string() +
                         " can't be written to (its database allows no writing); it is open for reading.";
    return migrate(progress, cancel);
}

std::optional<std::string> Library::why_read_only() const {
    const std::lock_guard lock(state_mutex_);
    return why_read_only_;
}

bool Library::could_write_now() const {
    {
        const std::lock_guard lock(state_mutex_);
        if (!why_read_only_ || !held_by_another_) return false;
    }
    const int fd = ::open((directory_ / kLockName).c_str(), O_RDWR | O_CLOEXEC | O_NOFOLLOW);
    const int folder = ::open(directory_.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    const auto free = [](int lock) { return lock < 0 || ::flock(lock, LOCK_EX | LOCK_NB) == 0; };
    const bool both = free(folder) && free(fd);
    if (fd >= 0) ::close(fd);
    if (folder >= 0) ::close(folder);
    return both;
}

Status Library::begin_writing() {
    const std::lock_guard turn(mutex_);
    const std::lock_guard lock(state_mutex_);
    if (!why_read_only_) return Done{};
    if (Status locked = take_lock(); !locked) return locked;
    auto db = Database::open(directory_ / kDatabaseName, Database::Mode::change);
    if (!db) {  // it stays as it is, and can be tried again
        for (const int held : std::exchange(locks_, {})) ::close(held);
        held_by_another_ = true;
        return db.error();
    }
    db_ = *std::move(db);
    why_read_only_.reset();
    return migrate({}, {});
}

Status Library::migrate(const Progress& progress, const CancelToken& cancel) {
    int64_t version = 0;
    {
        Statement s = db_->prepare("PRAGMA user_version");
        if (s.step()) version = s.integer(0);
    }
    if (db_->failed()) return db_->take_status();
    if (version > kNewestStep) return Error{"This library was made by a newer Fernleaf. Update Fernleaf to open it."};
    if (version < 0) return Error{"The library's database is damaged: it names no version there ever was."};
    if (version < kNewestStep && why_read_only_) {
        if (held_by_another_)
            return Error{"The library is of an older kind and can't be brought up to date: " + *why_read_only_};
        // A medium that can't be written to: a copy of its database is brought up to date and read.
        auto copy = Database::open(directory_ / kDatabaseName, Database::Mode::copy);
        if (!copy) return copy.error();
        db_ = *std::move(copy);
    }
    if (version < kNewestStep) {
        db_->execute("PRAGMA foreign_keys = OFF");
        Transaction transaction(*db_);  // all steps or none
        db_->stop_by(cancel);
        const bool old = version > 0;
        run_steps(*db_, version, kNewestStep, [&](double part) {
            if (old && progress) progress(kStepsPart * part);
        });
        if (old && version < kNewFolding) rebuild_index();
        db_->stop_by({});
        if (cancel.cancelled() && db_->failed()) return Error{"Updating the library was cancelled."};
        if (Status status = transaction.commit(); !status) return status;
        db_->execute("PRAGMA foreign_keys = ON");
        // The old tables' room is given back, where there is room to do so.
        if (version > 0 && !why_read_only_ && !db_->failed()) {
            db_->execute("VACUUM");
            static_cast<void>(db_->take_status());
        }
    }
    if (!why_read_only_) take_device();
    raise_ids();
    return db_->take_status();
}

// The number by which this place's ids are told from others'. A new library's first is 0. What is written after a copy
// was taken must lie above what came with it, so its counter begins above all others.
void Library::take_device() {
    const std::string place = place_of(directory_);
    {
        Statement known = db_->prepare("SELECT number, first FROM device WHERE place = ?");
        if (known.bind(place).step()) {
            device_ = std::clamp<int64_t>(known.integer(0), 0, kMostDevices - 1);
            next_element_ = element_id(device_, std::clamp<int64_t>(known.integer(1), 1, kMostIds));
            return;
        }
    }
    int64_t highest = 0;
    bool fresh = true;
    {
        Statement s = db_->prepare(
            "SELECT max(id & ?1), (SELECT count(*) FROM device) FROM (SELECT id FROM element UNION ALL SELECT id FROM "
            "correction UNION ALL SELECT uid FROM edit) WHERE id & ?1 < ?2");
        if (s.bind(kMostCounted).bind(kMostIds).step()) highest = s.integer(0), fresh = s.integer(1) == 0;
    }
    fresh = fresh && highest == 0;
    std::random_device random;
    std::uniform_int_distribution<int64_t> number(1, kMostDevices - 1);
    Statement insert = db_->prepare("INSERT INTO device (number, place, first) VALUES (?, ?, ?)");
    device_ = fresh ? 0 : number(random);
    insert.bind(device_).bind(place).bind(highest + 1).run();
    // Where it can't be kept, as on a full disk, this run has the number for itself all the same.
    static_cast<void>(db_->take_status());
    next_element_ = element_id(device_, highest + 1);
}

// Above all that were ever given here.
void Library::raise_ids() {
    Statement given = db_->prepare(
        "SELECT max(ifnull((SELECT max(id) FROM element WHERE id BETWEEN ?1 AND ?2), 0), ifnull((SELECT max(id) FROM "
        "correction WHERE id BETWEEN ?1 AND ?2), 0), ifnull((SELECT max(uid) FROM edit WHERE uid BETWEEN ?1 AND ?2), "
        "0))");
    given.bind(element_id(device_, 1)).bind(element_id(device_, kMostIds));
    if (given.step()) next_element_ = std::max(next_element_.load(), given.integer(0) + 1);
    Statement marks = db_->prepare("SELECT ifnull(max(mark), 0) FROM unread");
    // The time in it makes marks of one run differ from those of another that are gone by now.
    if (marks.step()) next_mark_ = std::max({next_mark_, marks.integer(0) + 1, now_ms()});
}

}  // namespace fernleaf
