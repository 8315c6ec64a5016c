#include "store/database.h"

namespace fernleaf {
namespace {

constexpr int kBusyMs = 5000;

std::string plain_reason(int code, const char* detail) {
    switch (code & 0xFF) {
        case SQLITE_FULL:
            return "The disk is full.";
        case SQLITE_READONLY:
            return "The library can't be written to.";
        case SQLITE_CORRUPT:
        case SQLITE_NOTADB:
            return "The library's database is damaged.";
        case SQLITE_CANTOPEN:
            return "The library's database can't be opened.";
        case SQLITE_BUSY:
            return "The library is in use by another program.";
        case SQLITE_IOERR:
            return "The disk is full or failing. Make room on it, or check it, and try again.";
        default:
            return std::string("The library's database reported: ") + detail + ".";
    }
}

}  // namespace

Statement::Statement(Database& db, std::string_view sql) : db_(db) {
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

bool Statement::step() {
    if (!handle_) return false;
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

Result<std::unique_ptr<Database>> Database::open(const std::filesystem::path& path, bool read_only) {
    auto db = std::make_unique<Database>();
    sqlite3* handle = nullptr;
    const int flags = read_only ? SQLITE_OPEN_READONLY : SQLITE_OPEN_READWRITE | SQLITE_OPEN_CREATE;
    const int code = sqlite3_open_v2(path.c_str(), &handle, flags | SQLITE_OPEN_FULLMUTEX, nullptr);
    db->handle_.reset(handle);
    db->note(code);
    if (code == SQLITE_OK) {
        sqlite3_busy_timeout(handle, kBusyMs);
        db->execute("PRAGMA foreign_keys = ON");
        if (!read_only) db->execute("PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL");
    }
    if (Status status = db->take_status(); !status) return status.error();
    return db;
}

void Database::execute(const std::string& sql) {
    note(sqlite3_exec(handle_.get(), sql.c_str(), nullptr, nullptr, nullptr));
}

void Database::note(int code) {
    if (code != SQLITE_OK && !error_)
        error_ = Error{plain_reason(code, handle_ ? sqlite3_errmsg(handle_.get()) : sqlite3_errstr(code))};
}

Status Database::take_status() {
    if (!error_) return Done{};
    Error error = *std::move(error_);
    error_.reset();
    return error;
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
