#include "base/file.h"

#include <gtest/gtest.h>
#include <sys/stat.h>
#include <unistd.h>

#include <fstream>
#include <iterator>

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

TEST(WriteWhole, ReplacesTheOldContentAndLeavesNothingBeside) {
    const fs::path folder = fs::temp_directory_path() / ("fernleaf-file-" + std::to_string(getpid()));
    fs::create_directories(folder);
    ASSERT_TRUE(write_whole(folder / "notes.txt", "old and longer"));
    ASSERT_TRUE(write_whole(folder / "notes.txt", "new"));
    std::ifstream in(folder / "notes.txt");
    EXPECT_EQ(std::string(std::istreambuf_iterator<char>(in), {}), "new");
    EXPECT_EQ(std::distance(fs::directory_iterator(folder), {}), 1);
    fs::remove_all(folder);
}

TEST(WriteWhole, SaysWhyItCanNot) {
    const Status status = write_whole("no such folder/notes.txt", "text");
    ASSERT_FALSE(status);
    EXPECT_NE(status.error().message.find("No such file"), std::string::npos);
    EXPECT_FALSE(write_whole(fs::temp_directory_path(), "text"));
}

TEST(ReadRegular, GivesTheWholeFileAndOpensNothingElse) {
    const fs::path folder = fs::temp_directory_path() / ("fernleaf-read-" + std::to_string(getpid()));
    fs::create_directories(folder);
    ASSERT_TRUE(write_whole(folder / "notes.txt", "ink"));
    EXPECT_EQ(*read_regular(folder / "notes.txt", 3), "ink");
    EXPECT_FALSE(read_regular(folder / "notes.txt", 2));
    EXPECT_FALSE(read_regular(folder / "missing", 100));
    EXPECT_FALSE(read_regular(folder, 100));
    fs::create_symlink(folder / "notes.txt", folder / "link");
    EXPECT_FALSE(read_regular(folder / "link", 100));
    ASSERT_EQ(::mkfifo((folder / "pipe").c_str(), 0600), 0);
    EXPECT_FALSE(read_regular(folder / "pipe", 100));  // and does not wait for somebody to write into it
    fs::remove_all(folder);
}

}  // namespace
}  // namespace fernleaf
