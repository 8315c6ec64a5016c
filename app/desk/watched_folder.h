// A folder whose new pictures come into the intake tray, as a telephone's.
//
// Pictures are new that were not there when watching began and were not taken since; a picture is complete when it did
// not change between two looks: a telephone may still be writing it. Which folder, and what was taken, the settings
// keep. One thread at a time. A folder that can't be listed has nothing new.
#pragma once

#include <QString>
#include <QStringList>

namespace fernleaf {

class WatchedFolder {
public:
    struct Found {
        QStringList complete;  // paths
        bool growing = false;  // look again
    };

    // The folder watched; empty: none.
    static QString chosen();
    // Watches another; what lies there already counts as taken.
    void choose(const QString& folder);
    // What is new; each picture is told once. Lists the folder, which may take a while.
    Found look();
    // What was told is in the tray: it is not new after a restart, either.
    void take(const QStringList& paths);

private:
    QStringList seen_;  // at the last look
    QStringList told_;  // and not taken yet
};

}  // namespace fernleaf
