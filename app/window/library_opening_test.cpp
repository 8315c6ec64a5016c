// A library of an earlier release, as a person meets it at the start.
#include "window/library_opening.h"

#include <gtest/gtest.h>

#include <QApplication>
#include <QPushButton>
#include <QTemporaryDir>
#include <QTimer>

#include "store/database.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

// One with so many strokes that updating it is told.
class Opening : public testing::Test {
protected:
    void SetUp() override {
        fs::copy(fs::path(FERNLEAF_SOURCE_DIR) / "tests/libraries/step-8", directory_, fs::copy_options::recursive);
        auto db = *Database::open(directory_ / "library.db", Database::Mode::change);
        db->execute(
            "WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 50000) INSERT INTO stroke "
            "SELECT "
            "1000 + i, page, live, colour, width, start, points, kind, tip, opacity, by_pressure, place, sum FROM "
            "stroke, n WHERE id = 6");
        ASSERT_TRUE(db->take_status());
    }
    // Does it as soon as the small window is there.
    static void when_shown(const std::function<void(QWidget&)>& then) {
        auto* look = new QTimer(qApp);
        QObject::connect(look, &QTimer::timeout, look, [look, then] {
            for (QWidget* window : QApplication::topLevelWidgets())
                if (window->objectName() == "openingLibrary" && window->isVisible()) {
                    look->deleteLater();
                    return then(*window);
                }
        });
        look->start(1);
    }

    QTemporaryDir folder_;
    fs::path directory_ = fs::path(folder_.path().toStdString()) / "library";
};

TEST_F(Opening, ShowsThatTheLibraryIsBeingUpdatedAndOpensIt) {
    bool seen = false;
    when_shown([&](QWidget&) { seen = true; });
    const auto library = open_library(directory_);
    ASSERT_TRUE(library) << library.error().message;
    EXPECT_TRUE(seen);
    EXPECT_GT((*library)->load_page(1)->strokes.size(), 50'000U);
    for (QWidget* window : QApplication::topLevelWidgets()) EXPECT_NE(window->objectName(), "openingLibrary");
}

TEST_F(Opening, CancelledItLeavesTheLibraryToTheReleaseThatMadeIt) {
    when_shown([](QWidget& dialog) { dialog.findChild<QPushButton*>()->click(); });
    const auto stopped = open_library(directory_);
    ASSERT_FALSE(stopped);
    EXPECT_NE(stopped.error().message.find("cancelled"), std::string::npos) << stopped.error().message;
    auto db = *Database::open(directory_ / "library.db", Database::Mode::read);
    Statement version = db->prepare("PRAGMA user_version");
    ASSERT_TRUE(version.step());
    EXPECT_EQ(version.integer(0), 8);
}

TEST_F(Opening, OneThatCantBeOpenedIsAnErrorAtOnce) {
    const auto file = open_library(directory_ / "library.db");
    ASSERT_FALSE(file);
    EXPECT_NE(file.error().message.find("is a file"), std::string::npos);
}

}  // namespace
}  // namespace fernleaf
