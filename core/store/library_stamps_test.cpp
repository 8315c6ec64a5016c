// Kept pieces in the library.
#include <gtest/gtest.h>

#include "ink/test_stroke.h"
#include "store/database.h"
#include "store/temporary_library.h"

namespace fernleaf {
namespace {

class LibraryStamps : public testing::Test {
protected:
    static Stamp tick() {
        Stamp out{0, "Done", {}};
        out.content.strokes = {stroke_along(0, {{0, 5}, {3, 8}, {9, 0}})};
        out.content.strokes[0].z = 7;
        FairShape ring;
        ring.shape = {ShapeKind::circle, {{5, 0}, {10, 5}, {5, 10}, {0, 5}}};
        out.content.shapes = {ring};
        return out;
    }
    TemporaryLibrary library_;
};

TEST_F(LibraryStamps, AreKeptWithAllThatIsOnThem) {
    const auto id = library_->add_stamp(tick());
    ASSERT_TRUE(id) << id.error().message;
    library_.reopen();
    const auto stamps = library_->stamps();
    ASSERT_TRUE(stamps);
    ASSERT_EQ(stamps->size(), 1U);
    EXPECT_EQ(stamps->front().id, *id);
    EXPECT_EQ(stamps->front().name, "Done");
    EXPECT_EQ(stamps->front().content.shapes, tick().content.shapes);
    ASSERT_EQ(stamps->front().content.strokes.size(), 1U);
    EXPECT_EQ(stamps->front().content.strokes[0].points.size(), tick().content.strokes[0].points.size());
    EXPECT_TRUE(library_->check()->empty());
}

TEST_F(LibraryStamps, TheNewestComesFirst) {
    Stamp other = tick();
    other.name = "  Seen  ";
    ASSERT_TRUE(library_->add_stamp(tick()));
    const StampId id = *library_->add_stamp(other);
    EXPECT_EQ(library_->stamps()->front().name, "Seen");
    ASSERT_TRUE(library_->rename_stamp(id, "Looked at"));
    EXPECT_EQ(library_->stamps()->front().name, "Looked at");
    ASSERT_TRUE(library_->remove_stamp(id));
    ASSERT_EQ(library_->stamps()->size(), 1U);
    EXPECT_EQ(library_->stamps()->front().name, "Done");
}

TEST_F(LibraryStamps, WhatCanNotBeKeptChangesNothing) {
    Stamp empty{0, "Nothing", {}}, unnamed = tick(), wrong = tick();
    unnamed.name = "  ";
    wrong.content.shapes[0].width_mm = -1;
    for (const Stamp& stamp : {empty, unnamed, wrong}) EXPECT_FALSE(library_->add_stamp(stamp)) << stamp.name;
    const StampId id = *library_->add_stamp(tick());
    EXPECT_FALSE(library_->rename_stamp(id, " "));
    EXPECT_EQ(library_->stamps()->front().name, "Done");
}

TEST_F(LibraryStamps, ADamagedOneIsToldAndDoesNoHarm) {
    ASSERT_TRUE(library_->add_stamp(tick()));
    library_.library.reset();
    {
        auto db = Database::open(library_.directory / "library.db", Database::Mode::change);
        ASSERT_TRUE(db);
        (*db)->execute("UPDATE stamp_element SET z = 3 WHERE kind = 4");
    }
    library_.reopen();
    const auto stamps = library_->stamps();
    ASSERT_TRUE(stamps);
    ASSERT_EQ(stamps->size(), 1U);
    EXPECT_TRUE(stamps->front().content.shapes.empty());
    EXPECT_EQ(stamps->front().content.strokes.size(), 1U) << "what is whole is there";
    EXPECT_EQ(*library_->check(), (std::vector<std::string>{"stamp 1: damaged"}));
}

}  // namespace
}  // namespace fernleaf
