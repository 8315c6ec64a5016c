// What names stand for down a page, where formulas give them values: a = 3.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "document/plot/plot.h"
#include "document/working_manner.h"
#include "math/math_tree.h"
#include "transcript/reading.h"

namespace fernleaf {

// The values that formulas give to names, one after the other: of those given twice the last counts.
class PageValues {
public:
    const std::map<std::string, MathTree>& by_name() const { return values_; }
    bool hold(const std::string& name) const { return values_.contains(name); }
    // In text, so that the same values are told to be the same.
    const std::string& told() const { return told_; }
    // formula: sound, its units letters still. One whose value would become too large with those before in it gives
    // none.
    void take(const MathTree& formula);
    std::map<std::string, double> numbers(AngleUnit angle) const;

private:
    std::map<std::string, MathTree> values_;
    std::string told_;
};

// Plots follow what formulas above their lower side say, as the page is read.
void give_values(std::vector<Plot>& plots, const Reading& reading);

}  // namespace fernleaf
