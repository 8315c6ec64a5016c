#include "exchange/bundle.h"

#include <gtest/gtest.h>
#include <zip.h>

#include <fstream>

#include "base/file.h"
#include "base/json.h"
#include "store/page_file.h"
#include "store/temporary_library.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

constexpr int64_t kWritten = 1'790'000'000'000;

class Bundles : public testing::Test {
protected:
    Bundles() {
        Notebook notebook;
        notebook.title = "Walks with the pen";
        notebook.languages = {"en", "de"};
        notebook.cover = 0xB0702C;
        notebook.language_weight = 0.3;
        notebook_ = *from_->add_notebook(notebook);
        EXPECT_TRUE(from_->set_words(notebook_, {"Hallow", "Varga"}));
        EXPECT_TRUE(from_->set_tags({{from_->tags_named({"outdoors"})->front(), 0, notebook_}}, true));
        for (int i = 0; i < 3; ++i) pages_.push_back(*from_->add_page(notebook_, {}));
        Stroke stroke = test_stroke(20, 30);
        stroke.start_ms = kWritten;
        picture_ = *from_->add_file("a picture's bytes");
        Picture picture;
        picture.file = picture_;
        picture.box = {10, 10, 60, 50};
        Edit edit{"Write", {{stroke}, {picture}}};
        EXPECT_TRUE(from_->commit(pages_[0], edit));
        from_.say(pages_[0], {{edit.added.strokes[0].id}, {20, 30, 22, 33}, "ridge"});
        fs::create_directories(from_.directory / "aside");
        std::ofstream(from_.directory / "aside" / "walk.opus", std::ios::binary) << "sound bytes";
        const auto track = from_->add_track("Over the ridge", from_.directory / "aside" / "walk.opus", "levels", 9000,
                                            kWritten - 1000);
        EXPECT_TRUE(track);
        const auto other = from_->add_track("Something else", from_.directory / "aside" / "walk.opus", "levels", 9000,
                                            kWritten + 86'400'000);
        EXPECT_TRUE(other);
    }
    fs::path path(const char* name = "walks.fernleaf") { return from_.directory / "aside" / name; }
    Status write(const std::optional<std::string>& passphrase = {}) {
        return write_bundle(*from_.library, notebook_, path(), passphrase);
    }
    // The bundle with one entry changed; without bytes it is left out.
    fs::path changed(const std::string& name, const std::optional<std::string>& bytes) {
        fs::copy_file(path(), path("changed.fernleaf"), fs::copy_options::overwrite_existing);
        int problem = 0;
        zip_t* zip = zip_open(path("changed.fernleaf").c_str(), 0, &problem);
        if (bytes)
            zip_file_add(zip, name.c_str(), zip_source_buffer(zip, bytes->data(), bytes->size(), 0), ZIP_FL_OVERWRITE);
        else
            zip_delete(zip, static_cast<zip_uint64_t>(zip_name_locate(zip, name.c_str(), 0)));
        EXPECT_EQ(zip_close(zip), 0);
        return path("changed.fernleaf");
    }
    std::string entry(const std::string& name) {
        int problem = 0;
        zip_t* zip = zip_open(path().c_str(), ZIP_RDONLY, &problem);
        zip_stat_t stat;
        std::string out;
        if (zip_stat(zip, name.c_str(), 0, &stat) == 0) {
            out.resize(stat.size);
            zip_file_t* file = zip_fopen(zip, name.c_str(), 0);
            zip_fread(file, out.data(), out.size());
            zip_fclose(file);
        }
        zip_discard(zip);
        return out;
    }

    TemporaryLibrary from_, to_;
    NotebookId notebook_ = 0;
    std::vector<PageId> pages_;
    std::string picture_;
};

TEST_F(Bundles, BringANotebookOverWithoutLoss) {
    ASSERT_TRUE(from_->name_page(pages_[2], "Rain"));
    ASSERT_TRUE(write());
    EXPECT_TRUE(is_bundle(path()));
    EXPECT_FALSE(is_sealed_bundle(path()));
    const auto brought = add_bundle(*to_.library, path());
    ASSERT_TRUE(brought) << brought.error().message;
    const Notebook before = *from_->notebook(notebook_), after = *to_->notebook(brought->notebook);
    EXPECT_EQ(after.title, before.title);
    EXPECT_EQ(after.languages, before.languages);
    EXPECT_EQ(after.cover, before.cover);
    EXPECT_EQ(after.language_weight, before.language_weight);
    EXPECT_EQ(after.sheet, before.sheet);
    EXPECT_EQ(*to_->words(brought->notebook), *from_->words(notebook_));
    EXPECT_EQ(to_->tags_of_notebook(brought->notebook)->at(0).name, "outdoors");
    ASSERT_EQ(brought->pages.size(), 3U);
    const PageCopy page = *from_->take_copy(pages_[0]);
    PageCopy copy = *to_->take_copy(brought->pages[0]);
    ASSERT_EQ(copy.corrections.size(), 1U);
    EXPECT_EQ(copy.corrections[0].strokes, std::vector{copy.page.strokes[0].id});
    copy.page.strokes[0].id = page.page.strokes[0].id;
    copy.page.strokes[0].z = page.page.strokes[0].z;
    EXPECT_EQ(copy.page.strokes, page.page.strokes);
    EXPECT_EQ(*to_->file(copy.page.pictures[0].file), "a picture's bytes");
    EXPECT_EQ(to_->load_page(brought->pages[2])->info.title, "Rain");
    // The track heard meanwhile, and no other.
    const auto tracks = *to_->tracks();
    ASSERT_EQ(tracks.size(), 1U);
    EXPECT_EQ(tracks[0].name, "Over the ridge");
    EXPECT_EQ(position_of(tracks[0], kWritten), 1000);
    EXPECT_EQ(*read_regular(*to_->sound_file(tracks[0].pieces[0].sound), 100), "sound bytes");
    EXPECT_EQ(*to_->sound_levels(tracks[0].pieces[0].sound), "levels");
    EXPECT_TRUE(to_->check()->empty());
    // Once more, the track is the library's own.
    ASSERT_TRUE(add_bundle(*to_.library, path(), "Again"));
    EXPECT_EQ(to_->tracks()->size(), 1U);
    EXPECT_EQ(to_->notebooks()->back().title, "Again");
}

TEST_F(Bundles, HoldTheInkForOtherProgramsToo) {
    ASSERT_TRUE(write());
    EXPECT_EQ(entry("mimetype"), "application/vnd.fernleaf.bundle+zip");
    EXPECT_TRUE(entry("pages/0001.inkml").find("<trace") != std::string::npos);
    EXPECT_TRUE(entry("pages/0002.inkml").empty()) << "nothing is written on it";
}

TEST_F(Bundles, AreLockedWithAPassphrase) {
    ASSERT_TRUE(write("frost in may"));
    EXPECT_TRUE(is_bundle(path()));
    EXPECT_TRUE(is_sealed_bundle(path()));
    EXPECT_FALSE(add_bundle(*to_.library, path()));
    EXPECT_FALSE(add_bundle(*to_.library, path(), {}, "frost in June"));
    EXPECT_TRUE(to_->notebooks()->empty());
    const auto brought = add_bundle(*to_.library, path(), {}, "frost in may");
    ASSERT_TRUE(brought) << brought.error().message;
    EXPECT_EQ(brought->pages.size(), 3U);
    EXPECT_FALSE(fs::exists(path("walks.fernleaf.part")));
}

TEST_F(Bundles, DamagedAndHostileOnesChangeNothing) {
    ASSERT_TRUE(write());
    const std::string whole = *read_regular(path(), 1'000'000);
    const auto refused = [&](const fs::path& file) {
        const auto brought = add_bundle(*to_.library, file);
        ASSERT_FALSE(brought);
        EXPECT_TRUE(brought.error().message.starts_with(file.filename().string())) << brought.error().message;
        EXPECT_TRUE(to_->notebooks()->empty());
        EXPECT_TRUE(to_->tracks()->empty());
    };
    for (const size_t length : {size_t{0}, size_t{10}, whole.size() / 2, whole.size() - 10}) {
        std::ofstream(path("cut.fernleaf"), std::ios::binary) << whole.substr(0, length);
        refused(path("cut.fernleaf"));
    }
    refused(changed("bundle.json", "{}"));
    refused(changed("bundle.json", "[[[["));
    refused(changed("bundle.json", {}));
    refused(changed("pages/0002.json", "{}"));
    refused(changed("pages/0002.json", {}));
    refused(changed("files/" + picture_, "another picture's"));
    refused(changed("files/" + picture_, {}));
    refused(changed("mimetype", "application/zip"));
    // Names that would lead out of the library, and files it does not have.
    Json index = Json::parse(entry("bundle.json"));
    Json hostile = index;
    hostile["files"].push_back("../../etc/passwd");
    refused(changed("bundle.json", hostile.dump()));
    hostile = index;
    hostile["files"] = Json::array();
    TemporaryLibrary empty;  // the others have the picture by now
    EXPECT_FALSE(add_bundle(*empty.library, changed("bundle.json", hostile.dump())));
    EXPECT_TRUE(empty->notebooks()->empty());
    hostile = index;
    hostile["tracks"][0]["pieces"][0]["sound"] = 7;
    refused(changed("bundle.json", hostile.dump()));
    hostile = index;
    hostile["format"] = 2;
    refused(changed("bundle.json", hostile.dump()));
    // A picture that unpacks to gigabytes.
    hostile = index;
    hostile["pages"][0] = "pages/bomb.json";
    const fs::path bomb = changed("bundle.json", hostile.dump());
    int problem = 0;
    zip_t* zip = zip_open(bomb.c_str(), 0, &problem);
    const std::string zeros(300'000'000, '0');
    zip_file_add(zip, "pages/bomb.json", zip_source_buffer(zip, zeros.data(), zeros.size(), 0), 0);
    ASSERT_EQ(zip_close(zip), 0);
    refused(bomb);
}

TEST_F(Bundles, WhatCantBeWrittenLeavesTheOldFile) {
    std::ofstream(path()) << "kept";
    CancelSource source;
    source.cancel();
    EXPECT_FALSE(write_bundle(*from_.library, notebook_, path(), {}, source.token()));
    EXPECT_EQ(*read_regular(path(), 100), "kept");
    EXPECT_FALSE(fs::exists(path("walks.fernleaf.part")));
    EXPECT_FALSE(write_bundle(*from_.library, notebook_, from_.directory / "nowhere" / "x.fernleaf"));
    EXPECT_FALSE(write_bundle(*from_.library, 4711, path()));
}

}  // namespace
}  // namespace fernleaf
