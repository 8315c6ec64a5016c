// How a stroke looks on any surface: its shape, cut where its darkness changes, in its pen's colour.
//
//   StrokeLook look(stroke);
//   look.draw(painter, scheme);   // the painter's unit is the millimetre; it keeps no pen
#pragma once

#include <QPainter>
#include <QPainterPath>
#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

struct PageScheme;

class StrokeLook {
public:
    explicit StrokeLook(const Stroke& stroke);
    void draw(QPainter& painter, const PageScheme& scheme) const;

private:
    struct Part {
        QPainterPath shape;
        double opacity = 1;
    };
    Pen pen_;
    std::vector<Part> parts_;
};

}  // namespace fernleaf
