// Formulas and tables from anywhere, and what the algebra program tells. Whatever the bytes: an error, or something
// sound. The first byte chooses.
#include <cstdint>
#include <cstdlib>

#include "exchange/table_import.h"
#include "math/algebra_text.h"
#include "math/math_text.h"
#include "math/parse_math.h"

using namespace fernleaf;

extern "C" int LLVMFuzzerTestOneInput(const uint8_t* data, size_t size) {
    if (size == 0) return 0;
    const std::string bytes(reinterpret_cast<const char*>(data) + 1, size - 1);
    switch (data[0] % 3) {
        case 0:
            if (const auto tree = parse_math(bytes)) {
                if (!is_sound(*tree)) std::abort();
                // It may be too long to be read again, but not wrong.
                static_cast<void>(static_cast<bool>(parse_math(math_latex(*tree))));
                static_cast<void>(AlgebraText(AngleUnit::degree).of(*tree));
            }
            break;
        case 1: {
            AlgebraText text(AngleUnit::radian);
            static_cast<void>(text.name_of("x"));
            static_cast<void>(text.read(bytes).has_value());
            break;
        }
        default:
            if (const auto rows = rows_in(bytes)) {
                for (const auto& row : *rows)
                    if (row.size() != rows->front().size()) std::abort();
                const Elements table = table_elements(*rows, {20, 20}, 170);
                if (validation_error(table)) std::abort();
            }
            break;
    }
    return 0;
}
