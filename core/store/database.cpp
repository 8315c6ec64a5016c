#include "store/database.h"

#include <cstdlib>

namespace fernleaf {
namespace {

constexpr int kBusyMs = 5000;

Error plain_error(int code, const char* detail) {
    switch (code & 0xFF) {
        case SQLITE_FULL:
            return {"The disk is full.", true};
        case SQLITE_READONLY:
            return {"The library can't be written to.", true};
        case SQLITE_CORRUPT:
        case SQLITE_NOTADB:
            return {"The library's database is damaged."};
        case SQLITE_CANTOPEN:
            return {"The library's database can't be opened.", true};
        case SQLITE_BUSY:
        case SQLITE_LOCKED:
            return {"The library is in use by another program.", true};
        case SQLITE_NOMEM:
            return {"There is not enough memory.", true};
        case SQLITE_IOERR:
            return {"The disk is full or failing. Make room on it, or check it, and try again.", true};
        default:
            return {std::string("The library's database reported: ") + detail + "."};
    }
}

// The checksum of a row, for SQL: checksum(column, ...). FNV-1a (Fowler, Noll, Vo) over the kinds and bytes of the
// values, 64 bits: it is to tell flipped bits and cut rows, not people who forge them.
void checksum(sqlite3_context* context, int count, sqlite3_value** values) {
    uint64_t hash = 0xCBF29CE484222325;
    const auto mix = [&](const void* bytes, size_t size) {
        for (size_t i = 0; i < size; ++i) hash = (hash ^ static_cast<const unsigned char*>(bytes)[i]) * 0x100000001B3;
    };
    for (int i = 0; i < count; ++i) {
        const int kind = sqlite3_value_type(values[i]);
        mix(&kind, 1);
        if (kind == SQLITE_INTEGER) {
            const int64_t value = sqlite3_value_int64(values[i]);
            mix(&value, sizeof value);
        } else if (kind == SQLITE_FLOAT) {
            const double value = sqlite3_value_double(values[i]);
            mix(&value, sizeof value);
        } else if (const void* bytes = sqlite3_value_blob(values[i])) {
            const int size = sqlite3_value_bytes(values[i]);
            mix(&size, sizeof size);
            mix(bytes, static_cast<size_t>(size));
        }
    }
    sqlite3_result_int64(context, static_cast<int64_t>(hash));
}

// An address of a file for SQLite, with what is special in one escaped.
std::string address_of(const std::filesystem::path& path, const char* how) {
    std::string out = "file:";
    for (const char c : std::filesystem::absolute(path).string()) {
        if (c == '%' || c == '?' || c == '#') {
            constexpr char kDigits[] = "0123456789ABCDEF";
            out += {'%', kDigits[static_cast<unsigned char>(c) >> 4], kDigits[c & 15]};
        } else {
            out.push_back(c);
        }
    }
    return out + how;
}

}  // namespace

Statement::Statement(Database& db, std::string_view sql) : db_(db) {
    if (db_.failed()) return;
    sqlite3_stmt* handle = nullptr;
    db_.note(sqlite3_prepare_v2(db_.handle_.get(), sql.data(), static_cast<int>(sql.size()), &handle, nullptr));
    handle_.reset(handle);
}

Statement& Statement::bind(int64_t value) {
    if (handle_) db_.note(sqlite3_bind_int64(handle_.get(), ++bound_, value));
    return *this;
}

Statement& Statement::bind(double value) {
    if (handle_) db_.note(sqlite3_bind_double(handle_.get(), ++bound_, value));
    return *this;
}

Statement& Statement::bind(std::string_view value) {
    if (handle_)
        db_.note(
            sqlite3_bind_text64(handle_.get(), ++bound_, value.data(), value.size(), SQLITE_TRANSIENT, SQLITE_UTF8));
    return *this;
}

Statement& Statement::bind_blob(std::string_view value) {
    if (handle_) db_.note(sqlite3_bind_blob64(handle_.get(), ++bound_, value.data(), value.size(), SQLITE_TRANSIENT));
    return *this;
}

Statement& Statement::bind_none() {
    if (handle_) db_.note(sqlite3_bind_null(handle_.get(), ++bound_));
    return *this;
}

Statement& Statement::bind_value(const Statement& row, int column) {
    if (handle_) db_.note(sqlite3_bind_value(handle_.get(), ++bound_, sqlite3_column_value(row.handle_.get(), column)));
    return *this;
}

bool Statement::step() {
    if (!handle_ || db_.failed()) return false;
    const int code = sqlite3_step(handle_.get());
    if (code != SQLITE_ROW && code != SQLITE_DONE) db_.note(code);
    return code == SQLITE_ROW;
}

Statement& Statement::reset() {
    if (handle_) sqlite3_reset(handle_.get());
    bound_ = 0;
    return *this;
}

std::string Statement::text(int column) const {
    const auto* bytes = reinterpret_cast<const char*>(sqlite3_column_text(handle_.get(), column));
    return bytes ? std::string(bytes, static_cast<size_t>(sqlite3_column_bytes(handle_.get(), column))) : std::string();
}

std::string Statement::blob(int column) const {
    const auto* bytes = static_cast<const char*>(sqlite3_column_blob(handle_.get(), column));
    return bytes ? std::string(bytes, static_cast<size_t>(sqlite3_column_bytes(handle_.get(), column))) : std::string();
}

Result<std::unique_ptr<Database>> Database::open(const std::filesystem::path& path, Mode mode) {
    auto db = std::make_unique<Database>();
    std::string address = address_of(path, "");
    if (mode == Mode::as_it_lies || mode == Mode::copy) {
        std::filesystem::path log = path;
        log += "-wal";
        std::error_code none;
        const auto logged = std::filesystem::file_size(log, none);
        const bool has_log = !none && logged > 0;
        // What is in the log only is part of it: then a copy is read, beside which the log's index can be made.
        if (has_log || mode == Mode::copy) {
            std::string folder = (std::filesystem::temp_directory_path(none) / "fernleaf-XXXXXX").string();
            if (!::mkdtemp(folder.data())) return Error{"There is no room for a copy of the library to read."};
            db->copy_ = folder;
            std::error_code problem;
            std::filesystem::copy_file(path, db->copy_ / path.filename(), problem);
            if (!problem && has_log) std::filesystem::copy_file(log, db->copy_ / log.filename(), problem);
            if (problem) return Error{"The library can't be copied to be read: " + problem.message() + "."};
            address = address_of(db->copy_ / path.filename(), "");
        } else {
            address = address_of(path, "?immutable=1");
        }
    }
    sqlite3* handle = nullptr;
    const int flags = mode == Mode::change ? SQLITE_OPEN_READWRITE | SQLITE_OPEN_CREATE
                      : db->copy_.empty()  ? SQLITE_OPEN_READONLY
                                           : SQLITE_OPEN_READWRITE;
    // Whoever uses it takes turns (see Turn): SQLite need not take a lock for each column of a row.
    const int code = sqlite3_open_v2(address.c_str(), &handle, flags | SQLITE_OPEN_NOMUTEX | SQLITE_OPEN_URI, nullptr);
    db->handle_.reset(handle);
    db->note(code);
    if (code == SQLITE_OK) {
        sqlite3_busy_timeout(handle, kBusyMs);
        db->note(sqlite3_create_function_v2(handle, "checksum", -1, SQLITE_UTF8 | SQLITE_DETERMINISTIC, nullptr,
                                            checksum, nullptr, nullptr, nullptr));
        db->execute("PRAGMA foreign_keys = ON");
        // No function or table a foreign database brings along is trusted to be harmless.
        db->execute("PRAGMA trusted_schema = OFF; PRAGMA cell_size_check = ON");
        if (mode == Mode::change && db->may_write())
            db->execute("PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL");
    }
    if (Status status = db->take_status(); !status) return status.error();
    return db;
}

Status Database::copy_to(const std::filesystem::path& file, const Progress& progress, const CancelToken& cancel) {
    sqlite3* to = nullptr;
    const int opened = sqlite3_open_v2(file.c_str(), &to, SQLITE_OPEN_READWRITE | SQLITE_OPEN_CREATE, nullptr);
    const std::unique_ptr<sqlite3, Close> target(to);
    if (opened != SQLITE_OK) return plain_error(opened, to ? sqlite3_errmsg(to) : "");
    // One look at all of it: what is committed meanwhile is not in it.
    execute("BEGIN; SELECT count(*) FROM sqlite_master");
    sqlite3_backup* copying = sqlite3_backup_init(to, "main", handle_.get(), "main");
    int code = copying ? SQLITE_OK : sqlite3_errcode(to);
    constexpr int kPagesAtOnce = 2000;
    while (code == SQLITE_OK && !cancel.cancelled()) {
        code = sqlite3_backup_step(copying, kPagesAtOnce);
        if (const int all = sqlite3_backup_pagecount(copying); progress && all > 0)
            progress(1 - static_cast<double>(sqlite3_backup_remaining(copying)) / all);
    }
    const int finished = copying ? sqlite3_backup_finish(copying) : code;
    execute("COMMIT");
    static_cast<void>(take_status());
    if (code == SQLITE_OK) return Error{"Cancelled.", true};
    if (code != SQLITE_DONE || finished != SQLITE_OK)
        return plain_error(code != SQLITE_DONE ? code : finished, sqlite3_errmsg(to));
    return Done{};
}

Database::~Database() {
    handle_.reset();
    std::error_code ignored;
    if (!copy_.empty()) std::filesystem::remove_all(copy_, ignored);
}

void Database::execute(const std::string& sql) {
    if (failed()) return;
    note(sqlite3_exec(handle_.get(), sql.c_str(), nullptr, nullptr, nullptr));
}

void Database::note(int code) {
    if (code != SQLITE_OK && !error_)
        error_ = plain_error(code, handle_ ? sqlite3_errmsg(handle_.get()) : sqlite3_errstr(code));
}

Status Database::take_status() {
    if (!error_) return Done{};
    Error error = *std::move(error_);
    error_.reset();
    return error;
}

void Database::stop_by(CancelToken cancel) {
    constexpr int kStepsBetween = 10'000;  // of SQLite's machine: some tenth of a millisecond
    cancel_ = std::move(cancel);
    sqlite3_progress_handler(
        handle_.get(), kStepsBetween,
        [](void* token) { return static_cast<const CancelToken*>(token)->cancelled() ? 1 : 0; }, &cancel_);
}

Status Transaction::commit() {
    if (!db_.failed()) {
        db_.execute("COMMIT");
        open_ = db_.failed();
    }
    if (open_) roll_back();
    return db_.take_status();
}

void Transaction::roll_back() {
    open_ = false;
    const Status first = db_.take_status();
    db_.execute("ROLLBACK");
    static_cast<void>(db_.take_status());  // SQLite may have rolled back by itself
    if (!first) db_.keep(first.error());
}

}  // namespace fernleaf
