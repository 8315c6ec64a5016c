#include "desk/math_desk.h"

#include <QRegularExpression>
#include <algorithm>
#include <array>

#include "desk/text_of.h"
#include "math/curves.h"
#include "math/formula_skills.h"
#include "math/page_values.h"
#include "math/parse_math.h"
#include "render/formula_setting.h"

namespace fernleaf {

namespace {

constexpr std::array<uint32_t, 6> kCurveColours{0x2E6B4F, 0x8A3B6B, 0x2B5C9E, 0xB0701A, 0x1E2A44, 0x6B6B2E};

uint32_t next_colour(const Plot& plot) {
    const auto is_free = [&](uint32_t colour) {
        return std::ranges::find(plot.curves, colour, &PlotCurve::colour) == plot.curves.end() &&
               std::ranges::find(plot.points, colour, &PlotPoints::colour) == plot.points.end();
    };
    const auto found = std::ranges::find_if(kCurveColours, is_free);
    return found != kCurveColours.end()
               ? *found
               : kCurveColours[(plot.curves.size() + plot.points.size()) % kCurveColours.size()];
}

constexpr double kPlotWideMm = 90, kPlotHighMm = 60, kGapMm = 4, kStepMm = 4;
constexpr double kNewFormulaMm = 6, kMarginMm = 20;  // of type; from the sheet's left side

// Where nothing else is: below a place, right of it, then wherever there is room further down; else just below it.
Box free_place(const Page& page, const Box& about, double wide, double high) {
    const Sheet& sheet = page.info;
    const auto fits = [&](const Box& box) {
        if (box.left < 0 || box.right > sheet.width_mm || box.top < 0) return false;
        if (!sheet.endless && box.bottom > sheet.height_mm) return false;
        bool meets = false;
        for_each_element(page, [&]<typename E>(const E& e) {
            meets = meets || (!ElementTraits<E>::locked(e) && drawn_box(e).meets(box));
        });
        return !meets;
    };
    const double left = std::clamp(about.left, 0.0, std::max(0.0, sheet.width_mm - wide - kGapMm));
    std::vector<Box> places{Box::of(left, about.bottom + kGapMm, wide, high),
                            Box::of(about.right + 2 * kGapMm, about.top, wide, high)};
    const double lowest = sheet.endless ? about.bottom : sheet.height_mm - high - kGapMm;
    for (double y = about.bottom + kGapMm; y < lowest; y += kStepMm) {
        places.push_back(Box::of(left, y, wide, high));
        places.push_back(Box::of(sheet.width_mm - wide - kGapMm, y, wide, high));
    }
    if (const auto found = std::ranges::find_if(places, fits); found != places.end()) return *found;
    const double top = sheet.endless ? about.bottom + kGapMm
                                     : std::clamp(about.bottom + kGapMm, 0.0, std::max(0.0, sheet.height_mm - high));
    return Box::of(left, top, wide, high);
}

// A number as it is written in a table: "1,5" where commas are decimal signs, "12 kg" with its unit.
std::optional<double> number_in(const std::string& text, bool decimal_comma) {
    QString digits = QString::fromStdString(text).trimmed();
    digits.replace(QChar(0x2212), '-');
    if (decimal_comma) digits.replace(',', '.');
    static const QRegularExpression number(QStringLiteral("^([+-]?\\d+(?:\\.\\d+)?)(?:\\s*[^\\d\\s.,]\\S*)?$"));
    const QRegularExpressionMatch match = number.match(digits);
    return match.hasMatch() ? std::optional(match.captured(1).toDouble()) : std::nullopt;
}

}  // namespace

MathDesk::MathDesk(const DeskParts& parts, QObject* parent) : Desk(parts, parent) {
    const auto follow = [this] { document_.give_values(readings_.reading()); };
    connect(&readings_, &ReadingScheduler::changed, this, follow);
    connect(&document_, &PageDocument::opened, this, follow);
    connect(&document_, &PageDocument::edited, this, [follow](const Edit& edit) {
        if (!edit.added.plots.empty()) follow();
    });
}

void add_curve(Plot& plot, std::string formula) { plot.curves.push_back({std::move(formula), next_colour(plot)}); }

Plot MathDesk::new_plot(const Box& place) const {
    Plot plot;
    const Page& page = *document_.page();
    const double wide = std::clamp(page.info.width_mm - 2 * kGapMm, kLeastPlotMm, kPlotWideMm);
    const double high = std::clamp(page.info.height_mm - 2 * kGapMm, kLeastPlotMm, kPlotHighMm);
    plot.box = free_place(page, place, wide, high);
    plot.angles = document_.notebook().working.angle;
    plot.decimal_comma = decimal_comma();
    return plot;
}

void MathDesk::insert(const std::string& latex) {
    const Page* page = document_.page();
    if (!page || !editing_.may_change_page()) return;
    auto formula = formula_at({}, latex, kNewFormulaMm);
    if (!formula) return;
    if (validation_error(Elements{.formulas = {*formula}}))
        return messages_.tell_problem(tr("This formula is too long to insert."));
    const Box own = drawn_box(*formula), all = drawn_box(*page);
    const double margin = std::min(kMarginMm, page->info.width_mm / 10);
    const Box about = Box::of(margin, all.empty() ? margin : all.top, 0, all.empty() ? 0 : all.height());
    const Box place = free_place(*page, about, own.width(), own.height());
    formula->middle = place.centre();
    formula->id = editing_.new_id();
    editing_.add({.formulas = {*std::move(formula)}}, "Insert a formula");
}

QString MathDesk::why_not_plotted(const std::string& formula, const Box& place) const {
    if (!document_.page()) return {};
    std::vector<Plot> plots{new_plot(place)};
    fernleaf::give_values(plots, readings_.reading());
    const auto f = plotted_function(formula, plots[0]);
    return f ? QString() : text_of(f.error());
}

void MathDesk::plot(const std::string& formula, const Box& place) {
    if (!document_.page() || !editing_.may_change_page()) return;
    std::vector<Plot> plots{new_plot(place)};
    Plot& plot = plots[0];
    add_curve(plot, formula);
    plot.marks = true;
    fernleaf::give_values(plots, readings_.reading());
    plot.range = fitting_range(plot);
    plot.id = editing_.new_id();
    editing_.add({.plots = std::move(plots)}, "Plot");
}

void MathDesk::plot_table(const TableWords& table, const Box& place) {
    if (!document_.page() || !editing_.may_change_page()) return;
    const auto text = [&](int row, int column) -> std::string {
        for (size_t i = 0; i < table.table->cells.size(); ++i)
            if (table.table->cells[i].row == row && table.table->cells[i].column == column) return table.texts[i];
        return {};
    };
    std::vector<Plot> plots{new_plot(place)};
    Plot& plot = plots[0];
    for (int column = 1; column < table.table->columns; ++column) {
        PlotPoints series{{}, {}, next_colour(plot)};
        for (int row = 0; row < table.table->rows; ++row) {
            const auto x = number_in(text(row, 0), plot.decimal_comma),
                       y = number_in(text(row, column), plot.decimal_comma);
            if (x && y)
                series.at.push_back({*x, *y});
            else if (row == 0)
                series.name = text(row, column);
        }
        if (!series.at.empty() && plot.points.size() < kMostCurves) plot.points.push_back(std::move(series));
    }
    if (plot.points.empty())
        return messages_.tell(
            tr("Nothing to plot. The table needs numbers in its first column and in at least one more."));
    plot.range = fitting_range(plot);
    if (validation_error(Elements{.plots = plots}))
        return messages_.tell_problem(tr("These numbers can't be plotted: there are too many, or they are too large."));
    plot.id = editing_.new_id();
    editing_.add({.plots = std::move(plots)}, "Plot");
}

void MathDesk::add_to_plot(PlotId plot, const std::string& formula) {
    if (!document_.page() || !editing_.may_change_page()) return;
    const auto& plots = document_.page()->plots;
    const auto there = std::ranges::find(plots, plot, &Plot::id);
    if (there == plots.end()) return;
    if (there->curves.size() >= kMostCurves)
        return messages_.tell_problem(tr("A plot can have up to %1 curves.").arg(kMostCurves));
    change_plot(
        plot, [&](Plot& p) { add_curve(p, formula); }, "Add a curve");
}

PlotId MathDesk::change_plot(PlotId plot, const std::function<void(Plot&)>& change, const char* label) {
    if (!document_.page() || !editing_.may_change_page()) return 0;
    const auto& plots = document_.page()->plots;
    const auto before = std::ranges::find(plots, plot, &Plot::id);
    if (before == plots.end()) return 0;
    Plot after = *before;
    change(after);
    if (after == *before || ElementTraits<Plot>::validation_error(after)) return 0;
    after.z = z_of(*before);
    after.id = editing_.new_id();
    const PlotId id = after.id;
    Edit edit{label};
    edit.removed.plots = {*before};
    edit.added.plots = {std::move(after)};
    editing_.change(std::move(edit));
    return id;
}

bool MathDesk::decimal_comma() const { return writes_decimal_comma(document_.notebook().languages); }

bool MathDesk::understands(const std::string& formula) const {
    return static_cast<bool>(parse_math(formula, decimal_comma()));
}

std::vector<std::string> MathDesk::names_to_solve_for(const std::string& formula) const {
    const auto tree = parse_math(formula, decimal_comma());
    if (!tree || tree->kind != MathKind::relation || tree->parts.size() != 2) return {};
    const std::set<std::string> names = unknowns_in(*tree);
    return {names.begin(), names.end()};
}

void MathDesk::rework(const std::string& formula, Rework how, const std::string& name) {
    const auto tree = parse_math(formula, decimal_comma());
    if (!tree) return messages_.tell_problem(tree.error());
    cancel_.cancel();
    cancel_ = CancelSource();
    reader_thread_.ask(
        this,
        [tree = *tree, how, name, settings = WorkingSettings{document_.notebook().working, {}},
         cancel = cancel_.token()]() -> Result<WorkedOut> {
            return fernleaf::reworked(tree, how, name, settings, cancel);
        },
        [this, asked = ++asked_](const Result<WorkedOut>& out) {
            if (asked != asked_) return;
            if (!out) return messages_.tell_problem(out.error());
            emit reworked(shown_plainly(out->text()));
        });
}

QString shown_plainly(const std::string& result) {
    QString text = QString::fromStdString(result);
    text.replace('-', QChar(0x2212));
    static const QRegularExpression pi(QStringLiteral("\\*?\\bpi\\b"));
    text.replace(pi, QStringLiteral("π"));
    return text.replace('*', QChar(0x00B7));
}

}  // namespace fernleaf
