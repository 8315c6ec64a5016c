#include "desk/commit_queue.h"

#include <gtest/gtest.h>

#include <QSignalSpy>

#include "store/temporary_library.h"
#include "wait_until.h"

namespace fernleaf {
namespace {

class Queue : public testing::Test {
protected:
    Edit write(double x) {
        Edit edit{"Write", {{test_stroke(x, 20)}}};
        edit.added.strokes[0].id = (*library_).new_element_id();
        return edit;
    }
    TemporaryLibrary of_;
    PageId page_ = of_.page();
    std::unique_ptr<Library> library_ = std::move(of_.library);
    Worker disk_{{}};
    CommitQueue queue_{*library_, disk_};
};

TEST_F(Queue, KeepsEditsInTheirOrder) {
    std::vector<StrokeId> written;
    for (int i = 0; i < 20; ++i) {
        Edit edit = write(i);
        written.push_back(edit.added.strokes[0].id);
        queue_.push(page_, std::move(edit));
    }
    disk_.wait_idle();
    std::vector<StrokeId> kept;
    const Page page = *library_->load_page(page_);
    for (const Stroke& s : page.strokes) kept.push_back(s.id);
    EXPECT_EQ(kept, written);
    EXPECT_FALSE(queue_.has_unsaved());
}

TEST_F(Queue, TellsWhatCanNeverBeKeptAndGoesOn) {
    QSignalSpy refused(&queue_, &CommitQueue::refused);
    Edit hopeless{"Insert a picture"};
    hopeless.added.pictures = {{0, std::string(64, 'b'), "a.png", 0, Box::of(0, 0, 50, 50)}};
    queue_.push(page_, hopeless);
    queue_.push(page_, write(3));
    WAIT_UNTIL(refused.count() == 1);
    disk_.wait_idle();
    EXPECT_FALSE(queue_.has_unsaved());
    EXPECT_EQ(library_->load_page(page_)->strokes.size(), 1U);
    EXPECT_TRUE(library_->load_page(page_)->pictures.empty());
}

TEST_F(Queue, WhatFindsNoRoomWaitsInOrderAndIsKeptLater) {
    // Another holds the library: a change may be kept later.
    library_.reset();
    auto holder = *Library::open(of_.directory);
    auto second = *Library::open(of_.directory);
    ASSERT_TRUE(second->why_read_only());
    CommitQueue queue(*second, disk_);
    QSignalSpy waits(&queue, &CommitQueue::waits), saved(&queue, &CommitQueue::all_saved);
    std::vector<StrokeId> written;
    for (int i = 0; i < 3; ++i) {
        Edit edit{"Write", {{test_stroke(i, 20)}}};
        edit.added.strokes[0].id = 500 + i;
        written.push_back(500 + i);
        queue.push(page_, std::move(edit));
    }
    WAIT_UNTIL(queue.waiting().size() == 3);
    EXPECT_EQ(waits.count(), 1) << "told once";
    EXPECT_FALSE(waits[0][0].toString().isEmpty());
    holder.reset();
    ASSERT_TRUE(second->begin_writing());
    WAIT_UNTIL(saved.count() == 1);
    EXPECT_FALSE(queue.has_unsaved());
    EXPECT_TRUE(waits.last()[0].toString().isEmpty());
    std::vector<StrokeId> kept;
    const Page page = *second->load_page(page_);
    for (const Stroke& s : page.strokes) kept.push_back(s.id);
    EXPECT_EQ(kept, written);
    disk_.wait_idle();
}

}  // namespace
}  // namespace fernleaf
