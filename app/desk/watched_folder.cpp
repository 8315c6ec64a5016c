#include "desk/watched_folder.h"

#include <QDateTime>
#include <QDir>
#include <QFileInfo>
#include <QSettings>

namespace fernleaf {
namespace {

constexpr char kWatched[] = "intake/watched", kTaken[] = "intake/taken";
constexpr qint64 kStaysEmptyS = 60;

// A file as it stands in the folder now: another of the same name is another.
QString mark_of(const QFileInfo& file) {
    return QStringLiteral("%1|%2|%3")
        .arg(file.fileName())
        .arg(file.size())
        .arg(file.lastModified().toMSecsSinceEpoch());
}

QFileInfoList pictures_in(const QString& folder) {
    if (folder.isEmpty()) return {};
    return QDir(folder).entryInfoList({"*.png", "*.jpg", "*.jpeg", "*.tif", "*.tiff", "*.webp", "*.pdf"},
                                      QDir::Files | QDir::Readable, QDir::Time | QDir::Reversed);
}

}  // namespace

QString WatchedFolder::chosen() { return QSettings().value(kWatched).toString(); }

void WatchedFolder::choose(const QString& folder) {
    seen_.clear(), told_.clear();
    if (folder == chosen()) return;
    QStringList taken;
    for (const QFileInfo& file : pictures_in(folder)) taken << mark_of(file);
    QSettings settings;
    settings.setValue(kTaken, taken);
    settings.setValue(kWatched, folder);
}

WatchedFolder::Found WatchedFolder::look() {
    const QStringList taken = QSettings().value(kTaken).toStringList();
    QStringList there, still;
    Found out;
    for (const QFileInfo& file : pictures_in(chosen())) {
        const QString mark = mark_of(file);
        there << mark;
        if (taken.contains(mark)) {
            still << mark;
        } else if (file.size() > 0 && seen_.contains(mark)) {
            if (!told_.contains(mark)) out.complete << file.filePath(), told_ << mark;
        } else if (file.size() > 0 || file.lastModified().secsTo(QDateTime::currentDateTime()) < kStaysEmptyS) {
            out.growing = true;
        }
    }
    seen_ = there;
    if (still != taken) QSettings().setValue(kTaken, still);  // what left the folder is forgotten
    return out;
}

void WatchedFolder::take(const QStringList& paths) {
    QSettings settings;
    QStringList taken = settings.value(kTaken).toStringList();
    for (const QString& path : paths) taken << mark_of(QFileInfo(path));
    settings.setValue(kTaken, taken);
}

}  // namespace fernleaf
