// What a photograph can lack, told before it is filed.
#pragma once

namespace fernleaf {

struct Faults {
    bool blurred = false;
    bool glare = false;           // a lamp or a flash washes part of the sheet out
    bool low_resolution = false;  // writing of usual size has too few pixels to be read
    bool screen = false;          // the dots of a screen lie over it
    bool creased = false;         // the sheet was crumpled
    bool no_sheet = false;        // nothing like a sheet is in the picture, nor is all of it one
    friend bool operator==(const Faults&, const Faults&) = default;
};

}  // namespace fernleaf
