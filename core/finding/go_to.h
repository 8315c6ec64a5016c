// Going to a page, a notebook or a command by typing some of its name.
//
//   const GoToQuery query("fro wat");
//   query.match("frost watch");      // > 0: it is meant, more likely the higher
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace fernleaf {

class GoToQuery {
public:
    explicit GoToQuery(std::string_view typed);

    bool empty() const { return words_.empty(); }
    // How well a name, folded, fits: 0: not at all, to 1. Every word typed must be in it: as it begins (best), as one
    // of its words begins, or within one.
    double match(std::string_view folded) const;

private:
    std::vector<std::string> words_;
};

}  // namespace fernleaf
