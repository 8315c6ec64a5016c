// Digital ink: what a pen wrote between touching and leaving the page.
//
//   Stroke stroke;
//   stroke.points = {{{20, 30}, 0.5, 0, 0, 0}, {{21, 30.5}, 0.6, 0, 0, 8}};
//   double way = path_length(stroke);   // mm
#pragma once

#include <cstdint>
#include <initializer_list>
#include <vector>

#include "base/copy_on_write.h"
#include "base/geometry.h"
#include "base/z_order.h"
#include "ink/pen.h"

namespace fernleaf {

using StrokeId = ElementId;

struct InkPoint {
    Point at;               // mm
    float pressure = 0.5F;  // 0 to 1; 0.5 where the device has none
    float tilt_x = 0;       // degrees from upright, -90 to 90
    float tilt_y = 0;
    uint32_t time_ms = 0;  // since the stroke's start
    friend bool operator==(const InkPoint&, const InkPoint&) = default;
};

// A stroke's points, shared by its copies: a page, what is drawn of it and what is read of it hold them once. They are
// read as a vector is; what changes them says so.
class InkPoints {
public:
    InkPoints() = default;
    InkPoints(std::vector<InkPoint> points) : held_(std::move(points)) {}
    InkPoints(std::initializer_list<InkPoint> points) : held_(std::vector<InkPoint>(points)) {}
    operator const std::vector<InkPoint>&() const { return *held_; }
    auto begin() const { return held_->begin(); }
    auto end() const { return held_->end(); }
    size_t size() const { return held_->size(); }
    bool empty() const { return held_->empty(); }
    const InkPoint& operator[](size_t i) const { return (*held_)[i]; }
    const InkPoint& front() const { return held_->front(); }
    const InkPoint& back() const { return held_->back(); }

    std::vector<InkPoint>& change() { return held_.change(); }  // this copy's own; earlier references are void
    void push_back(const InkPoint& point) { change().push_back(point); }
    void clear() { held_ = {}; }
    friend bool operator==(const InkPoints& a, const InkPoints& b) {
        return a.held_.shares_with(b.held_) || *a.held_ == *b.held_;
    }

private:
    CopyOnWrite<std::vector<InkPoint>> held_;
};

struct Stroke {
    StrokeId id = 0;  // 0: not yet in a library
    Pen pen;
    int64_t start_ms = 0;  // since 1970, UTC; 0 where unknown
    int64_t z = 0;         // its place among the others (z_of); 0: by its id
    InkPoints points;
    int64_t group = 0;  // elements of one number are taken together (document/elements.h); 0: by itself

    Box box() const;  // of the points, without the pen's width
    friend bool operator==(const Stroke&, const Stroke&) = default;
};

// The point a part (0 to 1) of the way from a to b.
InkPoint between(const InkPoint& a, const InkPoint& b, double part);

// Length of the pen's path in mm.
double path_length(const Stroke& stroke);

// Whether a disc touches the stroke (its drawn width counted). Centre and radius in mm.
bool touches(const Stroke& stroke, Point centre, double radius);

// The path with points no farther apart than step (mm), along a centripetal Catmull-Rom spline through the
// recorded points (Catmull & Rom 1974; Yuksel et al. 2011 for the centripetal form, which makes no loops).
std::vector<InkPoint> smoothed(const std::vector<InkPoint>& points, double step);

// Whether every number is finite and within reach of a page (coordinates within 100 m).
bool is_valid(const Stroke& stroke);

}  // namespace fernleaf
