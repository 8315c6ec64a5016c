#include "desk/watched_folder.h"

#include <gtest/gtest.h>

#include <QFile>
#include <QSettings>
#include <QTemporaryDir>

namespace fernleaf {
namespace {

class Watched : public testing::Test {
protected:
    void SetUp() override { QSettings().remove("intake"); }
    void TearDown() override { QSettings().remove("intake"); }
    QString put(const QString& name, int bytes) {
        QFile file(folder_.filePath(name));
        EXPECT_TRUE(file.open(QIODevice::WriteOnly));
        file.write(QByteArray(bytes, 'x'));
        return file.fileName();
    }
    QTemporaryDir folder_;
    WatchedFolder watched_;
};

TEST_F(Watched, AFileIsToldOnceWhenItNoLongerGrows) {
    put("there before.jpg", 5);
    watched_.choose(folder_.path());
    EXPECT_EQ(WatchedFolder::chosen(), folder_.path());
    EXPECT_TRUE(watched_.look().complete.isEmpty());
    const QString path = put("growing.jpg", 10);
    put("notes.txt", 10);
    put("empty.png", 0);
    WatchedFolder::Found found = watched_.look();
    EXPECT_TRUE(found.complete.isEmpty());
    EXPECT_TRUE(found.growing);
    put("growing.jpg", 20);
    found = watched_.look();
    EXPECT_TRUE(found.complete.isEmpty()) << "it grew";
    found = watched_.look();
    EXPECT_EQ(found.complete, QStringList{path});
    EXPECT_TRUE(watched_.look().complete.isEmpty()) << "told";
}

TEST_F(Watched, WhatWasToldAndNotTakenIsToldAgainAfterARestart) {
    watched_.choose(folder_.path());
    const QString path = put("a.jpg", 10);
    watched_.look();
    ASSERT_EQ(watched_.look().complete, QStringList{path});
    {
        WatchedFolder restarted;
        restarted.choose(folder_.path());
        restarted.look();
        EXPECT_EQ(restarted.look().complete, QStringList{path});
        restarted.take({path});
    }
    WatchedFolder restarted;
    restarted.choose(folder_.path());
    restarted.look();
    EXPECT_TRUE(restarted.look().complete.isEmpty());
    put("a.jpg", 30);
    restarted.look();
    EXPECT_EQ(restarted.look().complete, QStringList{path}) << "another picture of the same name";
}

TEST_F(Watched, AFolderThatIsGoneHoldsNothing) {
    watched_.choose(folder_.path());
    folder_.remove();
    const WatchedFolder::Found found = watched_.look();
    EXPECT_TRUE(found.complete.isEmpty());
    EXPECT_FALSE(found.growing);
    watched_.choose({});
    EXPECT_TRUE(WatchedFolder::chosen().isEmpty());
    EXPECT_TRUE(watched_.look().complete.isEmpty());
}

}  // namespace
}  // namespace fernleaf
