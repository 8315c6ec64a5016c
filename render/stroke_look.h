// How a stroke looks on any surface: its shape, cut where its darkness changes, in its pen's colour.
//
//   StrokeLook look(stroke);
//   look.draw(painter, scheme);   // the painter's unit is the millimetre; it keeps no pen
//
// Outlines are kept as small numbers, four bytes a corner, and become paths only where they are drawn: a page of a
// hundred thousand strokes keeps all of its outlines in some 60 MB.
#pragma once

#include <QPainter>
#include <QPainterPath>
#include <cstdint>
#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

struct PageScheme;

class StrokeLook {
public:
    explicit StrokeLook(const Stroke& stroke);
    void draw(QPainter& painter, const PageScheme& scheme) const;
    // Only what lies in a part of the page, mm.
    void draw(QPainter& painter, const PageScheme& scheme, const Box& clip) const;

private:
    // A stretch of the outline: rings of corners, each led by their number, in steps from the piece's corner.
    struct Piece {
        float left = 0, top = 0, right = 0, bottom = 0;  // mm
        float step = 0;                                  // mm
        uint32_t begin = 0, end = 0;                     // in numbers_
        float darkness = 1;
    };

    void keep(const QPainterPath& shape, double darkness);
    void add_to(QPainterPath& path, const Piece& piece) const;

    Pen pen_;
    std::vector<Piece> pieces_;
    std::vector<uint16_t> numbers_;
};

}  // namespace fernleaf
