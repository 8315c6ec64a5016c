// What was written on a page on one day, as a picture of its ink and as its words; made by a worker when it is asked
// for. UI thread only.
#pragma once

#include <QImage>
#include <QObject>
#include <QString>
#include <list>
#include <map>
#include <utility>

#include "desk/worker.h"
#include "finding/useful.h"
#include "render/page_painter.h"
#include "store/library.h"

namespace fernleaf {

struct Snippet {
    QImage picture;                   // of the ink, twice as fine as it is shown
    QString text;                     // what it says, line by line; empty when nothing was read
    Box box;                          // of the ink on its page, mm
    Reading read = {};                // those lines, and the formulas
    std::vector<Useful> useful = {};  // in them
};

class Snippets : public QObject {
    Q_OBJECT

public:
    static constexpr int kWidthPx = 700, kHeightPx = 132;  // at most, as it is shown

    explicit Snippets(const Library& library) : library_(library) {}
    // Null until it is made; ready() tells.
    const Snippet* of(PageId page, int64_t day);
    void outdated();  // all: they are made anew when they are asked for, and stand in until then
    void forget();    // all: the colours have changed

signals:
    void ready(PageId page, int64_t day);

private:
    using Key = std::pair<PageId, int64_t>;
    struct Made {
        std::optional<Snippet> snippet;
        bool wanted = true;  // to be made, or made anew
        std::list<Key>::iterator age;
    };
    const Library& library_;
    std::map<Key, Made> made_;
    std::list<Key> ages_;  // those asked for last come last
    int generation_ = 0;
    JobThread worker_{{}, JobThread::Haste::patient};
};

}  // namespace fernleaf
