// For tests: a disk below SQLite that fails when it is told to.
//
//   FaultyDisk disk;                        // every database opened from now on lies on it
//   disk.fail_at(7, FaultyDisk::Fault::full);
//   ... the seventh write or sync from here fails, and all that follow, until disk.mend()
//
// A layer over SQLite's own file system (sqlite3_vfs): everything is passed on but the calls that are to fail.
#pragma once

#include <sqlite3.h>

#include <atomic>

namespace fernleaf {

class FaultyDisk {
public:
    enum class Fault { failed_write, short_write, full, failed_sync };

    FaultyDisk();   // becomes the file system that SQLite uses
    ~FaultyDisk();  // and is it no longer
    FaultyDisk(const FaultyDisk&) = delete;
    FaultyDisk& operator=(const FaultyDisk&) = delete;

    // The nth call (from 1) that can fail in this way fails, and those after it.
    static void fail_at(int nth, Fault fault);
    static void mend();
    // Whether a call failed since fail_at().
    static bool failed();
};

}  // namespace fernleaf
