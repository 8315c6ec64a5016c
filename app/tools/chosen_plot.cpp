#include "tools/chosen_plot.h"

#include <numbers>

#include "render/plot_look.h"

namespace fernleaf {
namespace {

constexpr int kWheelPauseMs = 400;

}  // namespace

ChosenPlot::ChosenPlot(ToolSurface& surface, SelectionEditing& choosing) : surface_(surface), choosing_(choosing) {
    pause_.setSingleShot(true);
    pause_.setInterval(kWheelPauseMs);
    connect(&pause_, &QTimer::timeout, this, &ChosenPlot::keep);
    connect(&choosing_, &SelectionEditing::changed, this, [this] {
        if (shown_ && (!plot() || plot()->id != shown_->id)) keep();
        if (looked_into_ && !replacing_ && !plot() && !choosing_.selection().changing()) look_into(false);
    });
    connect(&surface_.session().document(), &PageDocument::leaving, this, [this] {
        cancel();
        keep();
    });
}

const Plot* ChosenPlot::plot() const {
    const Elements& chosen = choosing_.selection().chosen();
    return chosen.count() == 1 && chosen.plots.size() == 1 ? &chosen.plots.front() : nullptr;
}

void ChosenPlot::look_into(bool on) {
    if (on == looked_into_) return;
    keep();
    looked_into_ = on;
    emit changed();
}

// A place on the leaf as numbers of the plot.
Point ChosenPlot::number_at(QPointF px, const PlotRange& range) const {
    const Plot& p = *plot();
    const Point at = Affine::turn(-p.angle * std::numbers::pi / 180, p.box.centre())(surface_.page_point(px));
    const QRectF field = plot_field(p);
    return {range.left + (at.x - field.left()) / field.width() * (range.right - range.left),
            range.top - (at.y - field.top()) / field.height() * (range.top - range.bottom)};
}

bool ChosenPlot::holds(QPointF px) const {
    if (!plot()) return false;
    const PlotRange all{0, 1, 0, 1};
    const Point at = number_at(px, all);
    return at.x >= 0 && at.x <= 1 && at.y >= 0 && at.y <= 1;
}

void ChosenPlot::begin(QPointF px) {
    pause_.stop();
    before_ = shown_ ? shown_->range : plot()->range;
    from_ = number_at(px, before_);
}

void ChosenPlot::drag_to(QPointF px) {
    if (!from_ || !plot()) return;
    show(moved(before_, *from_ - number_at(px, before_)));
}

void ChosenPlot::end() {
    from_.reset();
    keep();
}

void ChosenPlot::cancel() {
    if (!from_) return;
    from_.reset();
    if (plot()) show(before_);
}

void ChosenPlot::zoom(QPointF px, double times) {
    if (!plot() || from_) return;
    const PlotRange now = shown_ ? shown_->range : plot()->range;
    show(zoomed(now, number_at(px, now), times));
    pause_.start();
}

// Not yet kept: it only looks so.
void ChosenPlot::show(const PlotRange& range) {
    Edit edit;
    edit.removed.plots = {shown_ ? *shown_ : *plot()};
    shown_ = edit.removed.plots.front();
    shown_->range = range;
    edit.added.plots = {*shown_};
    surface_.tiles().apply(edit);
    surface_.refresh(surface_.leaf_rect(drawn_box(*shown_), 3));
}

void ChosenPlot::keep() {
    pause_.stop();
    if (!shown_) return;
    const Plot wanted = *std::exchange(shown_, std::nullopt);
    replace(
        wanted.id, [&](Plot& p) { p.range = wanted.range; }, "Change a plot's range");
}

void ChosenPlot::change(const std::function<void(Plot&)>& change, const char* label) {
    keep();
    if (plot()) replace(plot()->id, change, label);
}

// The one that comes in its place is chosen and looked into as it was.
void ChosenPlot::replace(PlotId id, const std::function<void(Plot&)>& change, const char* label) {
    const bool was_chosen = plot() && plot()->id == id;
    replacing_ = was_chosen;
    const PlotId now = surface_.session().math().change_plot(id, change, label);
    if (was_chosen && now != 0) choosing_.select({now});
    replacing_ = false;
    if (was_chosen) emit changed();
}

}  // namespace fernleaf
