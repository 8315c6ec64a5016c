// What a library's rows and the clipboard bring: whatever the bytes, each decoder gives an error or a value that stays
// the same when it is encoded and decoded once more. The first byte chooses the decoder.
#include <cstdint>
#include <cstdlib>

#include "store/codec.h"
#include "store/records.h"

using namespace fernleaf;

namespace {

void hold(bool condition) {
    if (!condition) std::abort();
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const uint8_t* data, size_t size) {
    if (size == 0) return 0;
    const std::string bytes(reinterpret_cast<const char*>(data) + 1, size - 1);
    switch (data[0] % 7) {
        case 0:
            if (const auto points = decode_points(bytes)) {
                const auto again = decode_points(encode_points(*points));
                hold(again && again->size() == points->size());
            }
            break;
        case 1:
            if (const auto words = decode_words(bytes)) hold(static_cast<bool>(decode_words(encode_words(*words))));
            break;
        case 2:
            // Each kind of element, by the second byte.
            for_each_list(Elements{}, [&]<typename E>(const std::vector<E>&) {
                using Traits = ElementTraits<E>;
                if (bytes.empty() || bytes[0] != static_cast<char>(Traits::kKind)) return;
                if (const auto element = Traits::decode(bytes.substr(1))) {
                    const auto again = Traits::decode(Traits::encode(*element));
                    hold(again && Traits::encode(*again) == Traits::encode(*element));
                    static_cast<void>(Traits::bounds(*element));
                }
            });
            break;
        case 3:
            if (const auto treatment = decode_treatment(bytes)) {
                const auto again = decode_treatment(encode_treatment(*treatment));
                hold(static_cast<bool>(again));
            }
            break;
        case 4:
            if (const auto elements = decode_elements(bytes)) static_cast<void>(validation_error(*elements));
            break;
        case 5:
            if (const auto change = decode_sheet_change(bytes))
                hold(static_cast<bool>(decode_sheet_change(encode_sheet_change(*change))));
            break;
        default:
            if (const auto ids = ids_in(bytes)) hold(*ids_in(id_list(*ids)) == *ids);
            break;
    }
    return 0;
}
