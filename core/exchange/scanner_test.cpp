// With SANE's test device.
#include "exchange/scanner.h"

#include <gtest/gtest.h>

#include <unistd.h>
#include <opencv2/core.hpp>

#include <cstdlib>
#include <filesystem>
#include <fstream>

namespace fernleaf {
namespace {

class Scanner : public testing::Test {
protected:
    Result<size_t> run(ScanWish wish, const CancelToken& cancel = {}, const Progress& progress = {}) {
        wish.device = "test:0";
        return scan(
            wish,
            [this](const ScannedSheet& sheet) -> Status {
                sheets_.push_back(sheet.pixels.clone());
                dpi_ = sheet.dpi;
                return Done{};
            },
            cancel, progress);
    }
    std::vector<cv::Mat> sheets_;
    double dpi_ = 0;
};

TEST_F(Scanner, ASheetComesInColoursAtItsResolution) {
    double last = 0;
    const auto count =
        run({.dpi = 75, .options = {{"test-picture", "Color pattern"}}}, {}, [&](double part) { last = part; });
    ASSERT_TRUE(count) << count.error().message;
    ASSERT_EQ(sheets_.size(), 1U);
    EXPECT_NEAR(sheets_[0].cols, 200 / 25.4 * 75, 2) << "all of its glass";
    EXPECT_NEAR(sheets_[0].rows, 200 / 25.4 * 75, 2);
    EXPECT_EQ(sheets_[0].type(), CV_8UC3);
    std::vector<cv::Mat> channels;
    cv::split(sheets_[0], channels);
    EXPECT_GT(cv::norm(channels[0], channels[2], cv::NORM_INF), 100) << "colours";
    EXPECT_NEAR(last, 1, 0.01);
    EXPECT_NEAR(dpi_, 75, 0.1);
}

TEST_F(Scanner, GreyAndDeepAndBlackAndWhiteAndThreePassesComeAlike) {
    for (const std::map<std::string, std::string>& options :
         {std::map<std::string, std::string>{}, {{"depth", "16"}}, {{"depth", "1"}}, {{"hand-scanner", "yes"}}}) {
        sheets_.clear();
        std::map<std::string, std::string> all = options;
        all["test-picture"] = "Solid white";
        ASSERT_TRUE(run({.dpi = 40, .colour = false, .options = all}));
        ASSERT_EQ(sheets_.size(), 1U);
        EXPECT_GT(cv::mean(sheets_[0])[1], 250) << (options.empty() ? "" : options.begin()->first);
    }
    sheets_.clear();
    ASSERT_TRUE(run({.dpi = 40, .options = {{"three-pass", "yes"}, {"test-picture", "Grid"}}}));
    ASSERT_EQ(sheets_.size(), 1U) << "three frames are one sheet";
}

TEST_F(Scanner, TheFeederIsEmptiedSheetBySheet) {
    const auto count = run({.dpi = 20, .feeder = true});
    ASSERT_TRUE(count) << count.error().message;
    EXPECT_EQ(*count, 10U);
    EXPECT_EQ(sheets_.size(), 10U);
}

TEST_F(Scanner, WhatGoesWrongIsToldAndWhatCameBeforeIsKept) {
    for (const auto& [code, word] :
         {std::pair("SANE_STATUS_IO_ERROR", "cable"), std::pair("SANE_STATUS_JAMMED", "jammed"),
          std::pair("SANE_STATUS_COVER_OPEN", "cover"), std::pair("SANE_STATUS_NO_MEM", "failed")}) {
        const auto count = run({.dpi = 20, .options = {{"read-return-value", code}}});
        ASSERT_FALSE(count);
        EXPECT_NE(count.error().message.find(word), std::string::npos) << count.error().message;
    }
    EXPECT_TRUE(sheets_.empty());
    const auto none = scan({.device = "nothing:here"}, [](const ScannedSheet&) -> Status { return Done{}; });
    ASSERT_FALSE(none);
    EXPECT_FALSE(run({.options = {{"no-such-option", "1"}}}));
    // The disk is full at the third sheet: the two before it were handed on.
    size_t taken = 0;
    const auto full = scan({.device = "test:0", .dpi = 20, .feeder = true}, [&](const ScannedSheet&) -> Status {
        if (++taken == 3) return Error{"full"};
        return Done{};
    });
    ASSERT_FALSE(full);
    EXPECT_EQ(full.error().message, "full");
    EXPECT_EQ(taken, 3U);
}

TEST_F(Scanner, AHelperThatCrashesOrTalksNonsenseIsOneError) {
    for (const char* program : {"true", "false"}) {
        const auto folder = std::filesystem::temp_directory_path() / ("fernleaf-helpers-" + std::to_string(getpid()));
        std::filesystem::create_directories(folder);
        std::filesystem::create_symlink(std::string("/bin/") + program, folder / "fernleaf-scan");
        setenv("FERNLEAF_HELPERS", folder.c_str(), 1);
        EXPECT_FALSE(scanners());
        EXPECT_FALSE(run({.dpi = 20}));
        std::filesystem::remove(folder / "fernleaf-scan");
        std::ofstream(folder / "fernleaf-scan") << "#!/bin/sh\nprintf 'sheet\\t99999999\\t99999999\\n'\n";
        std::filesystem::permissions(folder / "fernleaf-scan", std::filesystem::perms::owner_all);
        EXPECT_FALSE(run({.dpi = 20})) << "sizes are checked";
        std::filesystem::remove_all(folder);
        EXPECT_FALSE(run({.dpi = 20})) << "and it may be missing";
        unsetenv("FERNLEAF_HELPERS");
    }
    EXPECT_TRUE(sheets_.empty());
}

TEST_F(Scanner, ACancelledScanEndsAtOnce) {
    CancelSource cancel;
    const auto count = run({.dpi = 300}, cancel.token(), [&](double) { cancel.cancel(); });
    ASSERT_FALSE(count);
    EXPECT_NE(count.error().message.find("cancelled"), std::string::npos);
    EXPECT_TRUE(sheets_.empty());
    EXPECT_TRUE(run({.dpi = 20})) << "and the next one goes";
}

}  // namespace
}  // namespace fernleaf
