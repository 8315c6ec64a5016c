// Whatever the bytes, read_inkml gives an error or ink that is sound.
#include <cstdint>
#include <cstdlib>

#include "exchange/inkml.h"

extern "C" int LLVMFuzzerTestOneInput(const uint8_t* data, size_t size) {
    const auto sheets = fernleaf::read_inkml({reinterpret_cast<const char*>(data), size});
    if (!sheets) return 0;
    if (sheets->empty()) std::abort();
    for (const fernleaf::InkSheet& sheet : *sheets)
        for (const fernleaf::Stroke& stroke : sheet.strokes)
            if (!fernleaf::is_valid(stroke) || stroke.points.empty()) std::abort();
    return 0;
}
