// The database's layout as the steps that lead to it. A step, once released, never changes; the database's user_version
// counts the steps it has been through.
#pragma once

#include <cstdint>

#include "base/cancel.h"
#include "store/database.h"

namespace fernleaf {

constexpr int64_t kNewestStep = 21;
constexpr int64_t kNewFolding = 8;  // the step since which words are folded as they are now

// Runs the steps that follow one until another, within the caller's transaction; foreign keys must be off, as rows that
// are damaged may refer to nothing. Their checksums stay wrong.
void run_steps(Database& db, int64_t from, int64_t to, const Progress& progress = {});

}  // namespace fernleaf
