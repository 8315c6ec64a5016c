// Formulas made into others on wish: solved for a name, factored, expanded, simplified; and plotted.
#pragma once

#include <QObject>
#include <QString>
#include <functional>
#include <string>
#include <vector>

#include "desk/desk.h"
#include "exchange/table_file.h"
#include "math/working_out.h"

namespace fernleaf {

// UI thread only.
class MathDesk : public Desk {
    Q_OBJECT

public:
    explicit MathDesk(const DeskParts& parts, QObject* parent = nullptr);
    ~MathDesk() override { cancel_.cancel(); }

    // The names in a formula that it can be solved for; none where it can't be. formula: LaTeX or a plain form.
    std::vector<std::string> names_to_solve_for(const std::string& formula) const;
    // Whether there is anything to work out in it.
    bool understands(const std::string& formula) const;
    // Worked out on a job thread; reworked() comes once for the last that was asked.
    void rework(const std::string& formula, Rework how, const std::string& name = {});
    bool decimal_comma() const;

    // Puts a formula in type below all that is on the open page, one step of undo. latex: that can be set.
    void insert(const std::string& latex);

    // Why a formula that stands in a place (mm) can't be plotted there, as a sentence; empty: it can.
    QString why_not_plotted(const std::string& formula, const Box& place) const;
    // A plot of a formula where the page has room for it, near the formula's place.
    void plot(const std::string& formula, const Box& place);
    // A plot of a table's columns over its first one; says why there is nothing to plot.
    void plot_table(const TableWords& table, const Box& place);
    // Another curve in a plot of the open page.
    void add_to_plot(PlotId plot, const std::string& formula);
    // Changes a plot of the open page, one step of undo. Its id then; 0 where it isn't there or stays as it is.
    PlotId change_plot(PlotId plot, const std::function<void(Plot&)>& change, const char* label);

signals:
    void reworked(const QString& result);

private:
    Plot new_plot(const Box& place) const;

    CancelSource cancel_;
    int asked_ = 0;
};

// A further curve, in a colour that none of the plot has yet where there is one.
void add_curve(Plot& plot, std::string formula);

// A result as it stands on the screen: "x = −4 or x = π".
QString shown_plainly(const std::string& result);

}  // namespace fernleaf
