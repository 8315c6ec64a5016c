#include "document/plot/plot.h"

#include <algorithm>
#include <cmath>

#include "base/json.h"
#include "document/turned_box.h"

namespace fernleaf {
namespace {

bool is_sound_axis(double from, double to) {
    return from >= -kFarthestPlotted && to <= kFarthestPlotted && to - from >= kNarrowestPlotted;
}

}  // namespace

bool is_sound(const PlotRange& range) {
    return is_sound_axis(range.left, range.right) && is_sound_axis(range.bottom, range.top);
}

PlotRange moved(const PlotRange& range, Point by) {
    const PlotRange out{range.left + by.x, range.right + by.x, range.bottom + by.y, range.top + by.y};
    return is_sound(out) ? out : range;
}

PlotRange zoomed(const PlotRange& range, Point about, double times) {
    const auto from = [&](double at, double middle) { return middle + (at - middle) / times; };
    const PlotRange out{from(range.left, about.x), from(range.right, about.x), from(range.bottom, about.y),
                        from(range.top, about.y)};
    return is_sound(out) ? out : range;
}

Box ElementTraits<Plot>::bounds(const Plot& plot) { return turned(plot.box, plot.angle, plot.box.centre()); }

bool ElementTraits<Plot>::covers(const Plot& plot, Point p, double) { return lies_on(plot.box, plot.angle, p); }

bool ElementTraits<Plot>::mostly_inside(const Plot& plot, const std::vector<Point>& polygon) {
    return fernleaf::mostly_inside(plot.box, plot.angle, polygon);
}

Plot ElementTraits<Plot>::transformed(Plot plot, const Affine& by) {
    const auto within = [](double mm) { return std::clamp(mm, kLeastPlotMm, kLargestPlotMm); };
    const double width = within(plot.box.width() * std::hypot(by.xx, by.yx));
    const double height = within(plot.box.height() * std::hypot(by.xy, by.yy));
    const Point middle = by(plot.box.centre());
    plot.box = Box::of(middle.x - width / 2, middle.y - height / 2, width, height);
    plot.angle = turned_by(plot.angle, by);
    return plot;
}

std::optional<std::string> ElementTraits<Plot>::validation_error(const Plot& p) {
    size_t points = 0;
    bool sound = is_place(p.box) && p.box.width() >= kLeastPlotMm && p.box.height() >= kLeastPlotMm &&
                 std::abs(p.angle) <= 360 && is_sound(p.range) && p.curves.size() <= kMostCurves &&
                 p.points.size() <= kMostCurves;
    for (const PlotCurve& curve : p.curves) sound = sound && curve.formula.size() <= kLongestPlotted;
    for (const PlotPoints& series : p.points) {
        points += series.at.size();
        sound = sound && series.name.size() <= kLongestPlotted && std::ranges::all_of(series.at, [](Point at) {
                    return std::abs(at.x) <= kFarthestPlotted && std::abs(at.y) <= kFarthestPlotted;
                });
    }
    if (sound && points <= kMostPlotPoints) return {};
    return "A plot holds numbers that can't be drawn.";
}

std::string ElementTraits<Plot>::encode(const Plot& p) {
    Json j{{"box", json_of(p.box)},
           {"range", {p.range.left, p.range.right, p.range.bottom, p.range.top}},
           {"colour", p.colour}};
    for (const PlotCurve& curve : p.curves)
        j["curves"].push_back({{"formula", curve.formula}, {"colour", curve.colour}});
    for (const PlotPoints& series : p.points) {
        Json one{{"colour", series.colour}, {"at", Json::array()}};
        if (!series.name.empty()) one["name"] = series.name;
        for (const Point at : series.at) one["at"].push_back({at.x, at.y});
        j["points"].push_back(std::move(one));
    }
    if (p.angle != 0) j["angle"] = p.angle;
    if (p.marks) j["marks"] = true;
    if (p.angles != AngleUnit::radian) j["angles"] = static_cast<int>(p.angles);
    if (p.decimal_comma) j["decimal_comma"] = true;
    if (p.group != 0) j["group"] = p.group;
    return text_of(j);
}

Result<Plot> ElementTraits<Plot>::decode(std::string_view bytes) {
    const Error damaged{"A plot in the library is damaged."};
    try {
        const Json j = Json::parse(bytes);
        Plot p;
        p.box = box_from(j.at("box"));
        const Json& range = j.at("range");
        p.range = {range.at(0), range.at(1), range.at(2), range.at(3)};
        p.colour = colour_in(j.at("colour"));
        if (const auto curves = j.find("curves"); curves != j.end())
            for (const Json& c : *curves) p.curves.push_back({c.at("formula"), colour_in(c.at("colour"))});
        if (const auto points = j.find("points"); points != j.end())
            for (const Json& one : *points) {
                PlotPoints series{{}, one.value("name", std::string()), colour_in(one.at("colour"))};
                for (const Json& at : one.at("at")) series.at.push_back({at.at(0), at.at(1)});
                p.points.push_back(std::move(series));
            }
        p.angle = j.value("angle", 0.0);
        p.marks = j.value("marks", false);
        // A later release may know more of them.
        p.angles = static_cast<AngleUnit>(std::clamp(small_or(j, "angles", 0), 0, static_cast<int>(AngleUnit::gon)));
        p.decimal_comma = j.value("decimal_comma", false);
        p.group = group_in(j);
        if (validation_error(p)) return damaged;
        return p;
    } catch (const std::exception&) {
        return damaged;
    }
}

std::string ElementTraits<Plot>::plain_text(const Plot& plot) {
    std::string out;
    for (const PlotCurve& curve : plot.curves) out += (out.empty() ? "" : "\n") + curve.formula;
    return out;
}

}  // namespace fernleaf
