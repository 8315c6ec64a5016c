#include "desk/page_document.h"

#include <gtest/gtest.h>

#include <QSignalSpy>

#include "store/temporary_library.h"

namespace fernleaf {
namespace {

Page page_of(PageId id) {
    Page page;
    page.info.id = id;
    return page;
}

TEST(PageDocument, TellsEachStageOnce) {
    PageDocument document;
    EXPECT_EQ(document.page(), nullptr);
    QSignalSpy opened(&document, &PageDocument::opened), leaving(&document, &PageDocument::leaving),
        edited(&document, &PageDocument::edited), closed(&document, &PageDocument::closed);
    document.leave();
    EXPECT_EQ(leaving.count(), 0) << "there was none";
    document.open(page_of(5), {}, 3, {"Write", {}});
    EXPECT_EQ(opened.count(), 0) << "not before all is ready";
    document.tell_opened();
    EXPECT_EQ(opened.count(), 1);
    EXPECT_TRUE(document.is_open(5));
    EXPECT_EQ(document.undo_state().undo, "Write");
    const int edition = document.edition();
    document.apply({"Write", {{test_stroke(1, 2)}}});
    EXPECT_EQ(edited.count(), 1);
    EXPECT_EQ(document.edition(), edition + 1);
    EXPECT_EQ(document.page()->strokes.size(), 1U);
    document.leave();
    EXPECT_EQ(leaving.count(), 1);
    document.close();
    EXPECT_EQ(closed.count(), 1);
    EXPECT_FALSE(document.is_open(5));
}

}  // namespace
}  // namespace fernleaf
