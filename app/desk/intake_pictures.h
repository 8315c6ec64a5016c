// What is seen of the intake tray's entries: the photograph, the page it becomes, and a thumbnail.
#pragma once

#include <QImage>
#include <memory>
#include <vector>

#include "base/result.h"
#include "paper/edge_line.h"
#include "paper/picture_file.h"
#include "store/library.h"

namespace fernleaf {

// An entry as it is shown: the photograph, made smaller, and the page it becomes.
struct ShownEntry {
    IntakeId id = 0;
    QImage photograph;
    double scale = 1;             // its px in one of the file's picture
    std::vector<EdgeLine> edges;  // strong ones, px of the file's picture
    QImage page;
    bool drawn = false;  // from a PDF, as fine as is wished
};

// The picture an entry is of; fails when its file is gone or can't be read.
Result<ScannedSheet> picture_of(const Library& library, const IntakeEntry& entry);

// A small picture of the page that a file's picture becomes under a treatment.
QImage thumbnail_of(const cv::Mat& pixels, const Treatment& treatment);

// Keeps the file's picture of the entry shown last, so that changing an entry shows its page anew at once. One thread
// at a time.
class Photograph {
public:
    Photograph();
    ~Photograph();

    // Fails when the file can't be read.
    Result<ShownEntry> show(const Library& library, const IntakeEntry& entry);

private:
    struct Decoded;
    std::unique_ptr<Decoded> decoded_;
};

}  // namespace fernleaf
