// Pictures for covers, decoded by a worker when they are first asked for. UI thread only.
#pragma once

#include <QImage>
#include <QObject>
#include <map>

#include "store/job_thread.h"
#include "store/library.h"

namespace fernleaf {

class CoverPictures : public QObject {
    Q_OBJECT

public:
    explicit CoverPictures(const Library& library) : library_(library) {}
    QImage of(const QString& file);  // null until it is decoded, or where it can't be

signals:
    void ready();

private:
    const Library& library_;
    std::map<QString, QImage> decoded_;
    JobThread worker_{{}, JobThread::Haste::patient};
};

}  // namespace fernleaf
