#include "store/backup.h"

#include <gtest/gtest.h>
#include <sys/resource.h>

#include <atomic>
#include <csignal>
#include <fstream>
#include <thread>

#include "base/json.h"
#include "store/codec.h"
#include "store/temporary_library.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

class Backups : public testing::Test {
protected:
    Backups() : folder_(library_.directory.string() + "-backup"), other_(library_.directory.string() + "-other") {
        page_ = library_.page();
        write(page_, 10, 20);
    }
    ~Backups() override {
        for (const fs::path& path : {folder_, other_}) fs::remove_all(path);
    }
    void write(PageId page, double x, double y) {
        Edit edit{"Write", {{test_stroke(x, y)}}};
        ASSERT_TRUE(library_->commit(page, edit));
    }
    // Snapshots are told by the second.
    Snapshot back_up_later() {
        const int64_t before = last_.made_ms;
        for (;;) {
            auto made = back_up(*library_.library, folder_);
            if (made && made->made_ms / 1000 != before / 1000) return last_ = *made;
        }
    }
    size_t objects() {
        size_t out = 0;
        for (const auto& entry : fs::recursive_directory_iterator(folder_ / "objects"))
            if (entry.is_regular_file()) ++out;
        return out;
    }
    fs::path some_object() {
        for (const auto& entry : fs::recursive_directory_iterator(folder_ / "objects"))
            if (entry.is_regular_file()) return entry.path();
        return {};
    }

    TemporaryLibrary library_;
    fs::path folder_, other_;
    PageId page_ = 0;
    Snapshot last_;
};

TEST_F(Backups, HoldTheWholeLibraryAsItWas) {
    const std::string file = *library_->add_file(std::string(200'000, 'p'));
    const auto made = back_up(*library_.library, folder_);
    ASSERT_TRUE(made) << made.error().message;
    EXPECT_EQ(made->pages, 1U);
    write(page_, 40, 50);  // afterwards
    ASSERT_TRUE(verify_snapshot(folder_, made->name));
    ASSERT_TRUE(restore_all(folder_, made->name, other_));
    const auto restored = Library::open(other_);
    ASSERT_TRUE(restored) << restored.error().message;
    EXPECT_EQ((*restored)->load_page(page_)->strokes.size(), 1U);
    EXPECT_EQ(*(*restored)->file(file), std::string(200'000, 'p'));
    EXPECT_TRUE((*restored)->check()->empty());
    EXPECT_EQ(library_->load_page(page_)->strokes.size(), 2U);
    EXPECT_FALSE(restore_all(folder_, made->name, other_)) << "it replaces none";
    for (const auto& entry : fs::directory_iterator(library_.directory))
        EXPECT_FALSE(entry.path().string().ends_with(".copy")) << "nothing is left behind";
}

TEST_F(Backups, AddLittleForLittleWork) {
    for (int i = 0; i < 300; ++i) write(page_, i % 100, i % 170);
    ASSERT_TRUE(back_up(*library_.library, folder_));
    const size_t before = objects();
    write(page_, 1, 2);
    back_up_later();
    EXPECT_LT(objects() - before, before / 2 + 6);
    EXPECT_EQ(snapshots(folder_)->size(), 1U) << "the newest of the day";
}

TEST_F(Backups, PagesAndNotebooksComeBackBesideWhatThereIs) {
    TextBlock block;
    block.at = {20, 30};
    block.paragraphs = {{{{"pruned"}}}};
    Edit set{"Set in type", {{}, {}, {block}}, {library_->load_page(page_)->strokes}};
    set.added.texts[0].ink = {set.removed.strokes[0].id};
    ASSERT_TRUE(library_->commit(page_, set));
    ASSERT_TRUE(library_->set_tags({{library_->tags_named({"late frost"})->at(0), page_}}, true));
    const auto made = back_up(*library_.library, folder_);
    ASSERT_TRUE(made);
    const NotebookId notebook = library_->load_page(page_)->info.notebook;
    ASSERT_TRUE(library_->bin_notebook(notebook));
    const auto snapshot = OpenSnapshot::open(folder_, made->name);
    ASSERT_TRUE(snapshot) << snapshot.error().message;
    const auto pages = (*snapshot)->restore_notebook(notebook, *library_.library, "Grafting, restored");
    ASSERT_TRUE(pages) << pages.error().message;
    ASSERT_EQ(pages->size(), 1U);
    const auto page = library_->load_page(pages->at(0));
    ASSERT_EQ(page->texts.size(), 1U);
    ASSERT_EQ(page->texts[0].ink.size(), 1U);
    EXPECT_EQ(library_->strokes(page->texts[0].ink)->size(), 1U) << "and its ink, for the way back";
    EXPECT_EQ(library_->tags_of(pages->at(0))->at(0).name, "late frost");
    EXPECT_EQ(library_->notebooks()->at(0).title, "Grafting, restored");
    EXPECT_TRUE((*snapshot)->restore_page(page_, *library_.library, page->info.notebook));
    EXPECT_TRUE(library_->check()->empty());
}

TEST_F(Backups, DamageIsTold) {
    const auto made = back_up(*library_.library, folder_);
    ASSERT_TRUE(made);
    const fs::path object = some_object();
    { std::fstream(object, std::ios::in | std::ios::out | std::ios::binary).write("x", 1); }
    const Status damaged = verify_snapshot(folder_, made->name);
    ASSERT_FALSE(damaged);
    EXPECT_NE(damaged.error().message.find("damaged"), std::string::npos);
    EXPECT_FALSE(restore_all(folder_, made->name, other_));
    EXPECT_FALSE(fs::exists(other_)) << "nothing half made";
    fs::remove(object);
    EXPECT_NE(verify_snapshot(folder_, made->name).error().message.find("missing"), std::string::npos);
    { std::ofstream(folder_ / "2030-01-01T00-00-00Z.snapshot.json") << "{"; }
    EXPECT_EQ(snapshots(folder_)->size(), 1U) << "those that can't be read are left out";
    back_up_later();
    EXPECT_TRUE(verify_snapshot(folder_, last_.name)) << "what is missing is written again";
}

TEST_F(Backups, SnapshotsFromElsewhereLeadNowhereElse) {
    const auto made = back_up(*library_.library, folder_);
    ASSERT_TRUE(made);
    const fs::path path = folder_ / (made->name + ".snapshot.json");
    std::ifstream in(path);
    std::string text{std::istreambuf_iterator<char>(in), {}};
    text.replace(text.find("\"files\":["), 9, "\"files\":[[\"files/../../out\",\"" + std::string(64, 'a') + "\"]");
    { std::ofstream(path) << text; }
    EXPECT_FALSE(restore_all(folder_, made->name, other_));
    EXPECT_FALSE(verify_snapshot(folder_, "../../etc"));
}

TEST_F(Backups, FoldersThatCantBeWrittenAndCancellingChangeNothing) {
    { std::ofstream(folder_.string()) << "a file"; }
    const auto into_file = back_up(*library_.library, folder_);
    EXPECT_FALSE(into_file);
    fs::remove(folder_);
    CancelSource cancel;
    cancel.cancel();
    EXPECT_FALSE(back_up(*library_.library, folder_, {}, cancel.token()));
    EXPECT_TRUE(snapshots(folder_)->empty());
    EXPECT_FALSE(snapshots(other_));
}

TEST_F(Backups, AreThinnedOutByDaysWeeksAndMonths) {
    const auto made = back_up(*library_.library, folder_);
    ASSERT_TRUE(made);
    // The same one again, as if made on other days: every day of two years, before now and after it.
    constexpr int64_t kOneDayMs = 86'400'000;
    std::ifstream in(folder_ / (made->name + ".snapshot.json"));
    const std::string text{std::istreambuf_iterator<char>(in), {}};
    Json j = Json::parse(text);
    j.erase("sum");
    for (int day = 1; day <= 730; ++day) {
        Json other = j;
        other["made_ms"] = made->made_ms - day * kOneDayMs;
        other["sum"] = sha256(text_of(other));
        std::ofstream(folder_ / ("day" + std::to_string(1000 - day) + ".snapshot.json")) << text_of(other);
    }
    ASSERT_EQ(snapshots(folder_)->size(), 731U);
    back_up_later();
    const auto left = snapshots(folder_);
    EXPECT_GE(left->size(), 7U + 2 + 10) << "some are the newest of more than one";
    EXPECT_LE(left->size(), 7U + 4 + 12);
    EXPECT_GT(left->front().made_ms - left->back().made_ms, 300 * kOneDayMs);
    EXPECT_EQ(left->front().name, last_.name);
    for (const Snapshot& s : *left) EXPECT_TRUE(verify_snapshot(folder_, s.name)) << s.name;
}

// What is written longer than this fails, as on a disk that is full.
class FullDisk {
public:
    explicit FullDisk(rlim_t bytes) : handler_(std::signal(SIGXFSZ, SIG_IGN)) {
        ::getrlimit(RLIMIT_FSIZE, &before_);
        rlimit limit = before_;
        limit.rlim_cur = bytes;
        ::setrlimit(RLIMIT_FSIZE, &limit);
    }
    ~FullDisk() {
        ::setrlimit(RLIMIT_FSIZE, &before_);
        std::signal(SIGXFSZ, handler_);
    }

private:
    void (*handler_)(int);
    rlimit before_{};
};

TEST_F(Backups, AFullDiskIsToldAndLeavesTheEarlierOnes) {
    const std::string large(500'000, 'p');
    const auto first = back_up(*library_.library, folder_);
    ASSERT_TRUE(first);
    ASSERT_TRUE(library_->add_file(large));
    for (const rlim_t bytes : {rlim_t{1000}, rlim_t{40'000}, rlim_t{400'000}}) {
        const FullDisk full(bytes);
        const auto failed = back_up(*library_.library, folder_);
        ASSERT_FALSE(failed) << bytes;
        EXPECT_FALSE(failed.error().message.empty());
    }
    EXPECT_EQ(snapshots(folder_)->size(), 1U);
    EXPECT_TRUE(verify_snapshot(folder_, first->name));
    for (const auto& entry : fs::directory_iterator(library_.directory))
        EXPECT_FALSE(entry.path().string().ends_with(".copy")) << "nothing is left behind";
    back_up_later();
    EXPECT_TRUE(verify_snapshot(folder_, last_.name));
    {
        const FullDisk full(100'000);
        EXPECT_FALSE(restore_all(folder_, last_.name, other_));
    }
    EXPECT_FALSE(fs::exists(other_));
    EXPECT_TRUE(restore_all(folder_, last_.name, other_));
}

TEST_F(Backups, OfALibraryInUseAreOfOneMoment) {
    // Written all the while: what is in a snapshot is whole.
    std::atomic<bool> done = false;
    std::thread writing([&] {
        for (int i = 0; !done && i < 400; ++i) {
            Edit edit{"Write", {{test_stroke(i % 90, 20), test_stroke(i % 90, 60)}}};
            static_cast<void>(static_cast<bool>(library_->commit(page_, edit)));
        }
    });
    const auto made = back_up(*library_.library, folder_);
    done = true;
    writing.join();
    ASSERT_TRUE(made) << made.error().message;
    ASSERT_TRUE(restore_all(folder_, made->name, other_));
    const auto restored = Library::open(other_);
    ASSERT_TRUE(restored);
    EXPECT_TRUE((*restored)->check()->empty());
    EXPECT_EQ((*restored)->load_page(page_)->strokes.size() % 2, 1U) << "the first, and edits of two";
}

}  // namespace
}  // namespace fernleaf
