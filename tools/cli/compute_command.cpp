// fernleaf-cli compute.
#include <cstdio>

#include "base/text.h"
#include "cli/commands.h"
#include "math/page_values.h"
#include "math/parse_math.h"
#include "math/working_out.h"

namespace fernleaf {
namespace {

// Of a formula as much as tells it from others.
std::string in_brief(const std::string& formula) {
    constexpr size_t kMostLetters = 60;
    const std::u32string letters = decode_utf8(formula);
    return letters.size() <= kMostLetters ? formula : encode_utf8(letters.substr(0, kMostLetters)) + " …";
}

}  // namespace

int compute_command(const ComputeOptions& options) {
    PageValues values;
    for (const std::string& given : options.values) {
        const auto tree = parse_math(given);
        if (!tree || !value_given(*tree)) {
            std::fprintf(stderr, "fernleaf-cli: --with %s: a value is given as a=3\n", given.c_str());
            return kWrongUsage;
        }
        values.take(*tree);
    }
    const WorkingSettings settings{options.manner, values.by_name()};
    int status = kAllDone;
    for (const std::string& text : options.formulas) {
        const auto tree = parse_math(text);
        if (!tree) {
            // A line a formula, also where there is none.
            std::printf("\n");
            std::fprintf(stderr, "fernleaf-cli: %s: %s\n", in_brief(text).c_str(), tree.error().message.c_str());
            status = kSomeFailed;
            continue;
        }
        std::printf("%s\n", work_out(*tree, settings).text().c_str());
        std::fflush(stdout);
    }
    return status;
}

}  // namespace fernleaf
