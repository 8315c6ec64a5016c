// A thin hold on SQLite. The first error sticks until it is taken, so that a run of statements is checked once, at its
// end; a transaction with an error in it rolls back.
//
//   Transaction transaction(db);
//   db.prepare("INSERT INTO page (title) VALUES (?)").bind(title).run();
//   return transaction.commit();
#pragma once

#include <sqlite3.h>

#include <cstdint>
#include <filesystem>
#include <memory>
#include <optional>
#include <string>
#include <string_view>

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
    bool step();  // whether there is a row
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
    static Result<std::unique_ptr<Database>> open(const std::filesystem::path& path, bool read_only);

    Statement prepare(std::string_view sql) { return {*this, sql}; }
    void execute(const std::string& sql);
    int64_t last_id() const { return sqlite3_last_insert_rowid(handle_.get()); }

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
    std::optional<Error> error_;
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
