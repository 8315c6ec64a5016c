// The demonstration library: the notebooks of Hallow Hill and photographs that wait in its intake tray, made from
// demo/hallow-hill.json. Everything in it is invented.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "store/library.h"

namespace fernleaf {

// What a demo page says, line by line, for tests and figures.
struct DemoPage {
    std::string notebook;
    std::string language;
    int number = 0;
    bool scanned = false;
    std::vector<std::string> lines;
};
Result<std::vector<DemoPage>> demo_texts();

// Fills an empty library, the same every time. Gives the new pages by language; they are not read yet. A library that
// has notebooks already is an error.
Result<std::map<std::vector<std::string>, std::vector<PageId>>> make_demo_library(Library& library);

}  // namespace fernleaf
