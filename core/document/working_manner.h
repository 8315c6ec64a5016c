// How a notebook's formulas are worked out.
#pragma once

namespace fernleaf {

// What angles without a degree sign are in; as libraries keep them.
enum class AngleUnit { radian = 0, degree = 1, gon = 2 };

struct WorkingManner {
    static constexpr int kFewestDigits = 2, kMostDigits = 15;

    AngleUnit angle = AngleUnit::radian;
    int digits = 6;               // of decimals, significant
    bool exact = false;           // without decimals beside what is exact
    bool earlier_values = false;  // names have the values that earlier pages of the notebook give them
    friend bool operator==(const WorkingManner&, const WorkingManner&) = default;
};

}  // namespace fernleaf
