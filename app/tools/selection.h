// What the lasso holds: ink, type and pictures chosen, the frame about them with its grips, and the change under way.
// UI thread only.
#pragma once

#include <QImage>
#include <QPainter>
#include <optional>
#include <unordered_set>
#include <utility>
#include <vector>

#include "document/elements.h"
#include "render/page_painter.h"
#include "tools/grip.h"
#include "tools/page_viewport.h"

namespace fernleaf {

// Part of a picture, as a lasso that holds nothing else marks it.
struct PictureArea {
    PictureId picture = 0;
    std::vector<Point> outline;  // mm
};

class Selection {
public:
    static constexpr double kStemPx = 30;    // from the frame to the turning grip
    static constexpr double kFramePx = 6;    // between ink and frame
    static constexpr double kTurnStep = 15;  // degrees, when constrained

    bool empty() const { return chosen_.empty(); }
    const Elements& chosen() const { return chosen_; }
    const Box& box() const { return box_; }  // mm, of what is chosen
    bool contains(int64_t id) const { return ids_.contains(id); }
    // A locked picture, which can't be changed until it is unlocked.
    bool locked() const;

    void choose(Elements elements);
    // Nothing is chosen then but part of a picture.
    void choose_area(PictureArea area);
    const std::optional<PictureArea>& area() const { return area_; }
    void clear() { choose({}); }

    // The points by which one figure, chosen alone, is changed: ends of lines, corners; none of what the frame does.
    std::vector<Point> handles() const;

    // The one table that is chosen; null: none is, or several are. And the cell of it that was tapped last.
    const FairTable* table() const { return chosen_.tables.size() == 1 ? &chosen_.tables.front() : nullptr; }
    const std::optional<TableCell>& cell() const { return cell_; }
    void set_cell(std::optional<TableCell> cell) { cell_ = cell; }
    // While a rule is pulled: the row or column before it, and how high or wide that is now, mm.
    std::pair<int, double> pulled_line() const { return {line_, line_mm_}; }

    Grip grip_at(QPointF px, const PageViewport& view) const;
    // A change begins at a place in mm, follows the pen, and is taken when it lifts.
    void begin(Grip grip, Point at, const PageViewport& view, double device_ratio, const PictureImages& images,
               const PageScheme& scheme);
    void drag_to(Point at, bool constrained);
    // What is moved goes a little farther, to where guides (mm) show that it is in line.
    void snap(Point by, std::vector<std::pair<Point, Point>> guides);
    Grip pulled() const { return grip_; }
    // The figure one of whose points is being moved, as it is now.
    const std::optional<FairShape>& reshaped() const { return reshaped_; }
    // What follows what is being moved: shown as it is now.
    void show_links(std::vector<FairShape> links) { links_ = std::move(links); }
    bool changing() const { return grip_ != Grip::none; }
    const Affine& change() const { return change_; }
    void cancel();

    // The frame, and during a change what is chosen itself.
    void paint(QPainter& painter, const PageViewport& view) const;
    QRectF painted(const PageViewport& view) const;  // leaf px it may draw on, now

private:
    QPointF place_of(Grip grip, const QRectF& frame) const;
    // The grips of the rules of the table that is chosen: after each column, or row.
    std::vector<QPointF> rule_grips(Grip grip, const PageViewport& view) const;
    void paint_table(QPainter& painter, const PageViewport& view) const;
    QRectF frame(const PageViewport& view) const;
    bool framed() const;  // whether the frame has grips
    void paint_followers(QPainter& painter, const PageViewport& view) const;

    Elements chosen_;
    std::unordered_set<int64_t> ids_;
    std::optional<PictureArea> area_;
    Box box_;
    Grip grip_ = Grip::none;
    Point from_;
    Affine change_;
    size_t point_ = 0;  // of the handles, while one is moved
    std::optional<TableCell> cell_;
    int line_ = 0;  // of the table, whose rule is pulled
    double line_mm_ = 0;
    std::optional<FairShape> reshaped_;
    std::vector<FairShape> links_;
    std::vector<std::pair<Point, Point>> guides_;  // mm
    PageScheme scheme_;
    QImage picture_;  // of what is chosen, drawn once when a change begins
    Box pictured_;    // mm
};

}  // namespace fernleaf
