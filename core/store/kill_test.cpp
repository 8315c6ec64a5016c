// A process that writes is killed at random moments: nothing that was acknowledged may be missing afterwards, and the
// library must be sound.
#include <gtest/gtest.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <csignal>
#include <random>

#include "store/temporary_library.h"

namespace fernleaf {
namespace {

constexpr int kRounds = 200;

[[noreturn]] void write_until_killed(const std::filesystem::path& directory, PageId page, int acknowledge) {
    const auto library = Library::open(directory);
    if (!library || (*library)->why_read_only()) _exit(3);
    for (int i = 0;; ++i) {
        Edit edit{"Write", {{test_stroke(i % 100, i % 200)}}};
        if (!(*library)->commit(page, edit)) _exit(4);
        if (i % 5 == 4 && !(*library)->save_reading(page, test_reading({{"frost", "first"}}))) _exit(5);
        const int64_t id = edit.added.strokes[0].id;
        if (::write(acknowledge, &id, sizeof id) != sizeof id) _exit(6);
    }
}

TEST(Killed, LosesNoStrokeThatWasAcknowledged) {
    TemporaryLibrary library;
    const PageId page = library.page();
    library.library.reset();
    std::mt19937 random(20260511);
    std::vector<int64_t> acknowledged;
    for (int round = 0; round < kRounds; ++round) {
        int ends[2];
        ASSERT_EQ(::pipe(ends), 0);
        const pid_t child = ::fork();
        ASSERT_GE(child, 0);
        if (child == 0) {
            ::close(ends[0]);
            write_until_killed(library.directory, page, ends[1]);
        }
        ::close(ends[1]);
        // It is killed while it writes, however long it took to begin.
        int64_t first = 0;
        ASSERT_EQ(::read(ends[0], &first, sizeof first), static_cast<ssize_t>(sizeof first));
        acknowledged.push_back(first);
        ::usleep(static_cast<useconds_t>(random() % 25'000));
        ::kill(child, SIGKILL);
        int status = 0;
        ::waitpid(child, &status, 0);
        ASSERT_TRUE(WIFSIGNALED(status)) << "the writer ended by itself with " << WEXITSTATUS(status);
        for (int64_t id = 0; ::read(ends[0], &id, sizeof id) == sizeof id;) acknowledged.push_back(id);
        ::close(ends[0]);
    }
    library.reopen();
    std::vector<int64_t> kept;
    const auto loaded = library->load_page(page);
    ASSERT_TRUE(loaded);
    for (const Stroke& s : loaded->strokes) kept.push_back(s.id);
    EXPECT_GT(acknowledged.size(), 200U);
    for (const int64_t id : acknowledged) EXPECT_TRUE(std::ranges::binary_search(kept, id)) << id;
    // At most the one stroke each kill caught between the disk and its acknowledgement.
    EXPECT_LE(kept.size(), acknowledged.size() + kRounds);
    EXPECT_TRUE(library->check()->empty());
}

}  // namespace
}  // namespace fernleaf
