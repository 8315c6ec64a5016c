#include "render/plot_look.h"

#include <QPainterPath>
#include <algorithm>
#include <cmath>
#include <optional>

#include "math/curves.h"
#include "math/math_text.h"
#include "math/parse_math.h"
#include "math/written_math.h"
#include "render/formula_look.h"

namespace fernleaf {
namespace {

constexpr double kMadeAtPx = 40;                     // in which words are made, before they are scaled
constexpr double kNumberMm = 3.3, kFormulaMm = 4.4;  // of type
constexpr double kSmallPlotMm = 55, kSmaller = 0.8;  // narrower plots have smaller type
constexpr double kGapMm = 1.2, kKeyMm = 5, kKeyGapMm = 4;
constexpr double kTicksAcrossMm = 14, kTicksDownMm = 10;
constexpr double kAxisMm = 0.3, kGridMm = 0.14, kCurveMm = 0.55, kDotMm = 1.3;
constexpr float kGridStrength = 0.16F, kAxisStrength = 0.75F, kNumberStrength = 0.8F;

QColor faded(QColor colour, float strength) {
    colour.setAlphaF(strength);
    return colour;
}

// Words of so many mm, as a path from the left end of their baseline.
struct Words {
    QPainterPath path;
    double width = 0, ascent = 0, descent = 0;
};

Words scaled(const FormulaLook& look, double mm) {
    const double by = mm / kMadeAtPx;
    return {QTransform::fromScale(by, by).map(look.path), look.width * by, look.ascent * by, look.descent * by};
}

Words words_of(const std::string& text, double mm) {
    QString shown = QString::fromStdString(text);
    shown.replace('-', QChar(0x2212));
    return scaled(plain_look(shown, kMadeAtPx), mm);
}

Words formula_of(const std::string& formula, bool decimal_comma, double mm) {
    std::string latex = formula;
    if (!written_math(latex))
        if (const auto tree = parse_math(formula, decimal_comma)) latex = math_latex(*tree);
    const auto written = written_math(latex);
    return written ? scaled(formula_look(*written, kMadeAtPx), mm) : words_of(formula, mm);
}

// All that is known of how a plot is laid out; mm, before it is turned.
struct Layout {
    double number_mm = kNumberMm, formula_mm = kFormulaMm;
    std::vector<double> across, down;  // ticks
    double across_apart = 1, down_apart = 1;
    std::vector<Words> keys;          // of curves, then of points
    std::vector<QPointF> key_places;  // left ends of their baselines
    QRectF field;
};

double apart(const std::vector<double>& ticks) { return ticks.size() > 1 ? ticks[1] - ticks[0] : 1; }

Layout layout_of(const Plot& plot) {
    Layout out;
    const QRectF box = rect_of(plot.box);
    if (box.width() < kSmallPlotMm) out.number_mm *= kSmaller, out.formula_mm *= kSmaller;
    const PlotRange& r = plot.range;
    out.across = ticks(r.left, r.right, (r.right - r.left) * std::min(0.5, kTicksAcrossMm / box.width()));
    out.down = ticks(r.bottom, r.top, (r.top - r.bottom) * std::min(0.5, kTicksDownMm / box.height()));
    out.across_apart = apart(out.across), out.down_apart = apart(out.down);
    double widest = 0;
    for (const double y : out.down)
        widest = std::max(widest, words_of(tick_text(y, out.down_apart, plot.decimal_comma), out.number_mm).width);
    for (const PlotCurve& curve : plot.curves)
        out.keys.push_back(formula_of(curve.formula, plot.decimal_comma, out.formula_mm));
    for (const PlotPoints& series : plot.points) out.keys.push_back(words_of(series.name, out.number_mm));
    const double left = box.left() + widest + 2 * kGapMm, right = box.right() - kGapMm;
    // Keys stand side by side, in as many lines as they need.
    double x = left, baseline = box.top(), line_descent = 0;
    double line_ascent = 0;
    std::vector<size_t> line;
    const auto end_line = [&] {
        baseline += line_ascent;
        for (const size_t k : line) out.key_places[k].setY(baseline);
        baseline += line_descent + kGapMm;
        line.clear(), line_ascent = line_descent = 0, x = left;
    };
    for (const Words& key : out.keys) {
        const double width = kKeyMm + kGapMm + key.width;
        if (!line.empty() && x + width > right) end_line();
        out.key_places.emplace_back(x + kKeyMm + kGapMm, 0);
        line.push_back(out.key_places.size() - 1);
        line_ascent = std::max(line_ascent, key.ascent), line_descent = std::max(line_descent, key.descent);
        x += width + kKeyGapMm;
    }
    if (!line.empty()) end_line();
    const double bottom = box.bottom() - out.number_mm - 1.5 * kGapMm;
    const double top = std::min(baseline + kGapMm, bottom - kLeastPlotMm / 4);
    out.field = QRectF(QPointF(left, top), QPointF(std::max(right, left + kLeastPlotMm / 4), bottom));
    return out;
}

class PlotDrawing {
public:
    PlotDrawing(QPainter& painter, const Plot& plot, const PageScheme& scheme)
        : painter_(painter), plot_(plot), scheme_(scheme), layout_(layout_of(plot)) {}

    void draw() {
        grid();
        painter_.save();
        painter_.setClipRect(layout_.field.adjusted(-kCurveMm, -kCurveMm, kCurveMm, kCurveMm), Qt::IntersectClip);
        std::vector<std::optional<PlottedFunction>> functions;
        for (const PlotCurve& curve : plot_.curves) {
            auto f = plotted_function(curve.formula, plot_);
            functions.push_back(f ? std::optional(*std::move(f)) : std::nullopt);
            if (functions.back()) draw_curve(*functions.back(), shown_colour(curve.colour, scheme_));
        }
        for (const PlotPoints& series : plot_.points) draw_points(series);
        painter_.restore();
        if (plot_.marks)
            for (size_t i = 0; i < functions.size(); ++i)
                if (functions[i]) draw_marks(*functions[i], shown_colour(plot_.curves[i].colour, scheme_));
        keys(functions);
    }

private:
    QPointF at(Point p) const {
        const PlotRange& r = plot_.range;
        const QRectF& f = layout_.field;
        return {f.left() + (p.x - r.left) / (r.right - r.left) * f.width(),
                f.bottom() - (p.y - r.bottom) / (r.top - r.bottom) * f.height()};
    }

    void put(const Words& words, QPointF baseline, const QColor& colour) {
        painter_.fillPath(words.path.translated(baseline), colour);
    }

    void grid() {
        const QRectF& f = layout_.field;
        const QColor ink = shown_colour(plot_.colour, scheme_), number = faded(ink, kNumberStrength);
        painter_.setBrush(Qt::NoBrush);
        const auto rule = [&](QPointF a, QPointF b, double width, float strength) {
            painter_.setPen(QPen(faded(ink, strength), width, Qt::SolidLine, Qt::FlatCap));
            painter_.drawLine(a, b);
        };
        const double baseline = f.bottom() + kGapMm + words_of("0", layout_.number_mm).ascent;
        double free_from = -1e9;  // numbers don't run into one another
        for (const double x : layout_.across) {
            const double px = at({x, 0}).x();
            rule({px, f.top()}, {px, f.bottom()}, kGridMm, kGridStrength);
            const Words words = words_of(tick_text(x, layout_.across_apart, plot_.decimal_comma), layout_.number_mm);
            const double left = px - words.width / 2;
            if (left < free_from || left + words.width > plot_.box.right) continue;
            put(words, {left, baseline}, number);
            free_from = left + words.width + kGapMm;
        }
        for (const double y : layout_.down) {
            const double py = at({0, y}).y();
            rule({f.left(), py}, {f.right(), py}, kGridMm, kGridStrength);
            const Words words = words_of(tick_text(y, layout_.down_apart, plot_.decimal_comma), layout_.number_mm);
            put(words, {f.left() - kGapMm - words.width, py + words.ascent / 2}, number);
        }
        const QPointF zero = at({0, 0});
        const double x = zero.x() >= f.left() && zero.x() <= f.right() ? zero.x() : f.left();
        const double y = zero.y() >= f.top() && zero.y() <= f.bottom() ? zero.y() : f.bottom();
        rule({x, f.top()}, {x, f.bottom()}, kAxisMm, kAxisStrength);
        rule({f.left(), y}, {f.right(), y}, kAxisMm, kAxisStrength);
    }

    void draw_curve(const PlottedFunction& function, const QColor& colour) {
        painter_.setBrush(Qt::NoBrush);
        painter_.setPen(QPen(colour, kCurveMm, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        for (const std::vector<Point>& piece : curve_of(function, plot_.range)) {
            QPolygonF line;
            for (const Point p : piece) line << at(p);
            line.size() > 1 ? painter_.drawPolyline(line) : painter_.drawPoint(line.front());
        }
    }

    void dot(QPointF middle, const QColor& colour, bool filled) {
        painter_.setPen(QPen(colour, kAxisMm));
        painter_.setBrush(filled ? colour : scheme_.paper);
        painter_.drawEllipse(middle, kDotMm / 2, kDotMm / 2);
    }

    void draw_points(const PlotPoints& series) {
        for (const Point p : series.at) dot(at(p), shown_colour(series.colour, scheme_), true);
    }

    std::string told(double value, double apart) const {
        // Two digits finer than the axis.
        std::string text = tick_text(value, apart / 100, false);
        if (text.find('.') != std::string::npos && text.find('e') == std::string::npos) {
            text.erase(text.find_last_not_of('0') + 1);
            if (text.ends_with('.')) text.pop_back();
        }
        if (text == "-0") text = "0";
        if (plot_.decimal_comma) std::ranges::replace(text, '.', ',');
        return text;
    }

    void draw_marks(const PlottedFunction& function, const QColor& colour) {
        const MarkedPlaces places = marked_places(function, plot_.range);
        const auto mark = [&](Point p, const std::string& text, bool above, bool filled) {
            const QPointF middle = at(p);
            dot(middle, colour, filled);
            const Words words = words_of(text, layout_.number_mm);
            const double x = std::clamp(middle.x() - words.width / 2, plot_.box.left, plot_.box.right - words.width);
            const double y = above ? middle.y() - kDotMm - words.descent : middle.y() + kDotMm + words.ascent;
            // A little of the paper about it, so that lines don't run through it.
            const QRectF about(x, y - words.ascent, words.width, words.ascent + words.descent);
            painter_.fillRect(about.adjusted(-0.3, -0.3, 0.3, 0.3), faded(scheme_.paper, 0.8F));
            put(words, {x, y}, colour);
        };
        const char* between = plot_.decimal_comma ? "; " : ", ";
        const auto both = [&](Point p) {
            return "(" + told(p.x, layout_.across_apart) + between + told(p.y, layout_.down_apart) + ")";
        };
        const auto is_zero = [](Point p) { return p.y == 0; };
        for (const Point p : places.highest)
            if (!is_zero(p)) mark(p, both(p), true, true);
        for (const Point p : places.lowest)
            if (!is_zero(p)) mark(p, both(p), false, true);
        for (const Point p : places.zeros) mark(p, told(p.x, layout_.across_apart), true, false);
    }

    void keys(const std::vector<std::optional<PlottedFunction>>& functions) {
        for (size_t k = 0; k < layout_.keys.size(); ++k) {
            const bool curve = k < plot_.curves.size();
            if (!curve && plot_.points[k - plot_.curves.size()].name.empty()) continue;
            const QColor colour =
                shown_colour(curve ? plot_.curves[k].colour : plot_.points[k - plot_.curves.size()].colour, scheme_);
            const QPointF baseline = layout_.key_places[k];
            const double y = baseline.y() - layout_.number_mm * 0.28, x = baseline.x() - kKeyMm - kGapMm;
            if (curve) {
                painter_.setPen(QPen(colour, kCurveMm, functions[k] ? Qt::SolidLine : Qt::DotLine, Qt::RoundCap));
                painter_.drawLine(QPointF(x, y), QPointF(x + kKeyMm, y));
            } else {
                dot({x + kKeyMm / 2, y}, colour, true);
            }
            put(layout_.keys[k], baseline, curve && !functions[k] ? faded(colour, 0.6F) : colour);
        }
    }

    QPainter& painter_;
    const Plot& plot_;
    const PageScheme& scheme_;
    Layout layout_;
};

}  // namespace

QRectF plot_field(const Plot& plot) { return layout_of(plot).field; }

void draw_plot(QPainter& painter, const Plot& plot, const PageScheme& scheme) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    const Point middle = plot.box.centre();
    painter.translate(middle.x, middle.y);
    painter.rotate(plot.angle);
    painter.translate(-middle.x, -middle.y);
    PlotDrawing(painter, plot, scheme).draw();
    painter.restore();
}

}  // namespace fernleaf
