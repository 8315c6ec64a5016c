// A thin hold on SQLite. The first error sticks until it is taken, and nothing runs after it: a run of statements is
// checked once, at its end, and a transaction with an error in it rolls back whole. One thread at a time.
//
//   Transaction transaction(db);
//   db.prepare("INSERT INTO page (title) VALUES (?)").bind(title).run();
//   return transaction.commit();
#pragma once

#include <sqlite3.h>

#include <cstdint>
#include <filesystem>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <string_view>

#include "base/cancel.h"
#include "base/result.h"

namespace fernleaf {

class Database;

class Statement {
public:
    Statement(Database& db, std::string_view sql);
    Statement& bind(int64_t value);
    Statement& bind(int value) { return bind(static_cast<int64_t>(value)); }
    Statement& bind(double value);
    Statement& bind(std::string_view value);
    Statement& bind(const std::string& value) { return bind(std::string_view(value)); }
    Statement& bind_blob(std::string_view value);
    Statement& bind_none();
    Statement& bind_value(const Statement& row, int column);  // what stands there, of whatever type
    bool step();                                              // whether there is a row
    void run() {
        while (step()) {
        }
    }
    Statement& reset();

    int64_t integer(int column) const { return sqlite3_column_int64(handle_.get(), column); }
    double real(int column) const { return sqlite3_column_double(handle_.get(), column); }
    std::string text(int column) const;
    std::string blob(int column) const;

private:
    struct Finish {
        void operator()(sqlite3_stmt* s) const { sqlite3_finalize(s); }
    };
    Database& db_;
    std::unique_ptr<sqlite3_stmt, Finish> handle_;
    int bound_ = 0;
};

class Database {
public:
    // How a database is opened: to be changed; to be read while another may change it; as it lies there, on a medium
    // on which nothing can be made, not even the log that readers share; or as a copy, which goes when it is closed.
    enum class Mode { change, read, as_it_lies, copy };
    static Result<std::unique_ptr<Database>> open(const std::filesystem::path& path, Mode mode);
    ~Database();

    Statement prepare(std::string_view sql) { return {*this, sql}; }
    void execute(const std::string& sql);
    int64_t changes() const { return sqlite3_changes64(handle_.get()); }  // rows, by the last statement
    int64_t last_id() const { return sqlite3_last_insert_rowid(handle_.get()); }

    Database() = default;  // not open; see open()
    // Until told otherwise (an empty token), whatever runs is an error once this is cancelled.
    void stop_by(CancelToken cancel);
    bool may_write() const { return sqlite3_db_readonly(handle_.get(), "main") == 0; }

    // All of it as it is now, into a file that is not there yet; others may write meanwhile.
    Status copy_to(const std::filesystem::path& file, const Progress& progress, const CancelToken& cancel);

    void note(int code);  // remembers an error
    bool failed() const { return error_.has_value(); }
    void keep(Error error) { error_ = std::move(error); }
    // The first error since the last call, or done.
    Status take_status();

private:
    friend class Statement;
    struct Close {
        void operator()(sqlite3* db) const { sqlite3_close_v2(db); }
    };
    std::unique_ptr<sqlite3, Close> handle_;
    std::filesystem::path copy_;  // the directory of a copy made to read a medium's log; goes with it
    std::optional<Error> error_;
    CancelToken cancel_;
};

// One call's turn at a database that several threads use. What an earlier call left behind is not its error.
class Turn {
public:
    Turn(std::mutex& mutex, const std::unique_ptr<Database>& db) : lock_(mutex) {
        static_cast<void>(db->take_status());
    }

private:
    std::lock_guard<std::mutex> lock_;
};

class Transaction {
public:
    explicit Transaction(Database& db) : db_(db) { db_.execute("BEGIN IMMEDIATE"); }
    ~Transaction() {
        if (open_) roll_back();
    }
    Transaction(const Transaction&) = delete;
    Transaction& operator=(const Transaction&) = delete;
    Status commit();

private:
    void roll_back();
    Database& db_;
    bool open_ = true;
};

}  // namespace fernleaf
