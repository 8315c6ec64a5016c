#include "store/faulty_disk.h"

#include <cstdlib>
#include <cstring>
#include <new>

namespace fernleaf {
namespace {

std::atomic<int> calls_left = 0;  // 0: none fails
std::atomic<bool> failing = false;
std::atomic<FaultyDisk::Fault> fault_wanted = FaultyDisk::Fault::failed_write;

// Whether this call, which can fail in that way, is to fail.
bool fails(bool sync) {
    if ((fault_wanted == FaultyDisk::Fault::failed_sync) != sync) return false;
    if (failing) return true;
    if (calls_left > 0 && --calls_left == 0) failing = true;
    return failing;
}

sqlite3_vfs* real = nullptr;
sqlite3_vfs faulty{};

struct File {
    sqlite3_file base;
    sqlite3_file* below() { return reinterpret_cast<sqlite3_file*>(this + 1); }
};

sqlite3_file* below(sqlite3_file* file) { return reinterpret_cast<File*>(file)->below(); }

int write(sqlite3_file* f, const void* bytes, int count, sqlite3_int64 at) {
    const sqlite3_io_methods* methods = below(f)->pMethods;
    if (!fails(false)) return methods->xWrite(below(f), bytes, count, at);
    if (fault_wanted == FaultyDisk::Fault::full) return SQLITE_FULL;
    if (fault_wanted == FaultyDisk::Fault::short_write) methods->xWrite(below(f), bytes, count / 2, at);
    return SQLITE_IOERR_WRITE;
}

int sync(sqlite3_file* f, int flags) {
    return fails(true) ? SQLITE_IOERR_FSYNC : below(f)->pMethods->xSync(below(f), flags);
}

const sqlite3_io_methods kMethods = {
    3,
    [](sqlite3_file* f) { return below(f)->pMethods ? below(f)->pMethods->xClose(below(f)) : SQLITE_OK; },
    [](sqlite3_file* f, void* into, int n, sqlite3_int64 at) {
        return below(f)->pMethods->xRead(below(f), into, n, at);
    },
    write,
    [](sqlite3_file* f, sqlite3_int64 size) { return below(f)->pMethods->xTruncate(below(f), size); },
    sync,
    [](sqlite3_file* f, sqlite3_int64* size) { return below(f)->pMethods->xFileSize(below(f), size); },
    [](sqlite3_file* f, int how) { return below(f)->pMethods->xLock(below(f), how); },
    [](sqlite3_file* f, int how) { return below(f)->pMethods->xUnlock(below(f), how); },
    [](sqlite3_file* f, int* out) { return below(f)->pMethods->xCheckReservedLock(below(f), out); },
    [](sqlite3_file* f, int op, void* value) { return below(f)->pMethods->xFileControl(below(f), op, value); },
    [](sqlite3_file* f) { return below(f)->pMethods->xSectorSize(below(f)); },
    [](sqlite3_file* f) { return below(f)->pMethods->xDeviceCharacteristics(below(f)); },
    [](sqlite3_file* f, int page, int size, int extend, void volatile** out) {
        return below(f)->pMethods->xShmMap(below(f), page, size, extend, out);
    },
    [](sqlite3_file* f, int offset, int n, int flags) {
        return below(f)->pMethods->xShmLock(below(f), offset, n, flags);
    },
    [](sqlite3_file* f) { below(f)->pMethods->xShmBarrier(below(f)); },
    [](sqlite3_file* f, int remove) { return below(f)->pMethods->xShmUnmap(below(f), remove); },
    [](sqlite3_file* f, sqlite3_int64 at, int n, void** out) {
        return below(f)->pMethods->xFetch(below(f), at, n, out);
    },
    [](sqlite3_file* f, sqlite3_int64 at, void* page) { return below(f)->pMethods->xUnfetch(below(f), at, page); },
};

int open_file(sqlite3_vfs*, const char* name, sqlite3_file* file, int flags, int* flags_out) {
    std::memset(file, 0, static_cast<size_t>(faulty.szOsFile));
    const int code = real->xOpen(real, name, below(file), flags, flags_out);
    file->pMethods = below(file)->pMethods ? &kMethods : nullptr;
    return code;
}

}  // namespace

FaultyDisk::FaultyDisk() {
    real = sqlite3_vfs_find(nullptr);
    faulty = *real;
    faulty.zName = "faulty";
    faulty.szOsFile = static_cast<int>(sizeof(File)) + real->szOsFile;
    faulty.xOpen = open_file;
    sqlite3_vfs_register(&faulty, 1);
    mend();
}

FaultyDisk::~FaultyDisk() {
    mend();
    sqlite3_vfs_unregister(&faulty);
    sqlite3_vfs_register(real, 1);
}

void FaultyDisk::fail_at(int nth, Fault fault) {
    fault_wanted = fault;
    failing = false;
    calls_left = nth;
}

void FaultyDisk::mend() {
    calls_left = 0;
    failing = false;
}

bool FaultyDisk::failed() { return failing; }

}  // namespace fernleaf
