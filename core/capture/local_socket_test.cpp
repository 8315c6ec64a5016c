#include "capture/local_socket.h"

#include <gtest/gtest.h>
#include <unistd.h>

#include <cstdlib>
#include <fstream>

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

struct Folder {
    Folder() : path(fs::temp_directory_path() / ("pens_" + std::to_string(getpid()))) {
        setenv("FERNLEAF_PENS", path.c_str(), 1);
    }
    ~Folder() {
        unsetenv("FERNLEAF_PENS");
        fs::remove_all(path);
    }
    fs::path path;
};

TEST(LocalSocket, CarriesBytesBothWaysAndTellsTheEnd) {
    const Folder folder;
    auto listening = LocalListener::open(pens_folder() / "walnut.sock");
    ASSERT_TRUE(listening) << listening.error().message;
    ASSERT_EQ(pens_about(), std::vector{folder.path / "walnut.sock"});
    auto computer = connect_local(pens_about().front());
    ASSERT_TRUE(computer);
    auto pen = (*listening)->accept(1000);
    ASSERT_TRUE(pen);
    std::string heard;
    EXPECT_EQ(pen->hear(heard, 0), PenTransport::Heard::nothing);
    ASSERT_TRUE((*computer)->send("hello"));
    EXPECT_EQ(pen->hear(heard, 1000), PenTransport::Heard::something);
    EXPECT_EQ(heard, "hello");
    ASSERT_TRUE(pen->send("here"));
    heard.clear();
    EXPECT_EQ((*computer)->hear(heard, 1000), PenTransport::Heard::something);
    EXPECT_EQ(heard, "here");
    pen.reset();
    EXPECT_EQ((*computer)->hear(heard, 1000), PenTransport::Heard::end);
    EXPECT_FALSE((*computer)->send("gone"));
}

TEST(LocalSocket, TakesThePlaceOfOneLeftBehindButOfNothingElse) {
    const Folder folder;
    const fs::path at = folder.path / "walnut.sock";
    {
        auto first = LocalListener::open(at);
        ASSERT_TRUE(first);
        EXPECT_FALSE(LocalListener::open(at)) << "one listens there";
    }
    EXPECT_FALSE(connect_local(at));
    std::ofstream(at) << "a file";
    EXPECT_FALSE(LocalListener::open(at));
    EXPECT_TRUE(fs::is_regular_file(at));
    EXPECT_FALSE(connect_local(folder.path / std::string(200, 'x')));
}

}  // namespace
}  // namespace fernleaf
