#include "exchange/tray.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

#include "store/temporary_library.h"

namespace fernleaf {
namespace {

// Two light sheets on a dark table.
ScannedSheet two_sheets() {
    cv::Mat pixels(900, 1300, CV_8UC3, cv::Scalar(70, 90, 110));
    for (const std::vector<cv::Point>& sheet : {std::vector<cv::Point>{{100, 150}, {600, 130}, {610, 790}, {110, 800}},
                                                {{720, 110}, {1190, 140}, {1180, 760}, {700, 740}}})
        cv::fillConvexPoly(pixels, sheet, cv::Scalar(235, 240, 240), cv::LINE_AA);
    return {pixels};
}

class Tray : public testing::Test {
protected:
    std::vector<IntakeEntry> waiting() { return *library_->intake(); }
    TemporaryLibrary library_;
};

TEST_F(Tray, AnEntryBecomesOneForEachSheet) {
    const auto first = lay_in_tray(*library_.library, two_sheets(), "Scan 1"),
               last = lay_in_tray(*library_.library, two_sheets(), "Scan 2");
    ASSERT_TRUE(first && last);
    ASSERT_EQ(waiting().size(), 2U);
    EXPECT_FALSE(waiting()[0].looked_at);
    int asked = 0;
    const auto found = find_sheets_of(*library_.library, *first, two_sheets(), [&](const cv::Mat&) { return asked++; });
    ASSERT_TRUE(found) << found.error().message;
    EXPECT_EQ(asked, 2);
    ASSERT_EQ(found->size(), 2U);
    const std::vector<IntakeEntry> now = waiting();
    ASSERT_EQ(now.size(), 3U);
    EXPECT_EQ(now[0], (*found)[0]);
    EXPECT_EQ(now[1], (*found)[1]) << "beside the first";
    EXPECT_EQ(now[2].id, last->id);
    EXPECT_EQ(now[1].name, "Scan 1");
    EXPECT_EQ(now[1].file, now[0].file);
    EXPECT_TRUE(now[0].looked_at && now[1].looked_at);
    EXPECT_EQ(now[1].treatment.quarter_turns, 1);
    EXPECT_LT(now[0].treatment.outline->corners[0].x, now[1].treatment.outline->corners[0].x);
}

TEST_F(Tray, WhatWasLookedAtOrIsGoneStays) {
    const auto entry = lay_in_tray(*library_.library, two_sheets(), "Scan 1");
    ASSERT_TRUE(entry);
    ASSERT_TRUE(find_sheets_of(*library_.library, *entry, two_sheets()));
    const auto again = find_sheets_of(*library_.library, *entry, two_sheets());
    ASSERT_TRUE(again);
    EXPECT_TRUE(again->empty());
    EXPECT_EQ(waiting().size(), 2U);
    ASSERT_TRUE(library_->discard_intake({waiting()[0].id, waiting()[1].id}));
    const auto gone = find_sheets_of(*library_.library, *entry, two_sheets());
    ASSERT_TRUE(gone);
    EXPECT_TRUE(gone->empty());
    EXPECT_TRUE(waiting().empty());
}

TEST_F(Tray, CancelledNobodyIsAskedAndTheEntryIsToBeLookedAtStill) {
    const auto entry = lay_in_tray(*library_.library, two_sheets(), "Scan 1");
    CancelSource cancel;
    cancel.cancel();
    const auto found = find_sheets_of(
        *library_.library, *entry, two_sheets(),
        [](const cv::Mat&) {
            ADD_FAILURE();
            return 1;
        },
        cancel.token());
    ASSERT_TRUE(found);
    EXPECT_TRUE(found->empty());
    ASSERT_EQ(waiting().size(), 1U);
    EXPECT_FALSE(waiting()[0].looked_at);
}

TEST_F(Tray, AScannersResolutionTellsTheSheetsSize) {
    ScannedSheet scanned = two_sheets();
    scanned.dpi = 150;
    const auto entry = lay_in_tray(*library_.library, scanned, "Scan 1");
    ASSERT_TRUE(entry);
    EXPECT_NEAR(scan_dpi(*library_->file(entry->file), 0), 150, 0.1) << "noted in the file that is kept";
    ASSERT_TRUE(find_sheets_of(*library_.library, *entry, scanned));
    ASSERT_EQ(waiting().size(), 2U);
    EXPECT_NEAR(waiting()[0].width_mm, 502 / 150.0 * 25.4, 3);
    EXPECT_NEAR(waiting()[0].height_mm, 656 / 150.0 * 25.4, 3);
}

TEST_F(Tray, AnEmptySheetIsAnErrorAndLeavesNothing) {
    EXPECT_FALSE(lay_in_tray(*library_.library, {}, "Scan 1"));
    EXPECT_TRUE(waiting().empty());
}

}  // namespace
}  // namespace fernleaf
