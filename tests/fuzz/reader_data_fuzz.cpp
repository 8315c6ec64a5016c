// The reader's data: learnt hands, weights and language files. Whatever the bytes, loading gives an error or something
// that can be used. The first byte chooses.
#include <unistd.h>

#include <cstdint>
#include <filesystem>
#include <fstream>

#include "reading/language.h"
#include "reading/teaching.h"
#include "reading/weights.h"

using namespace fernleaf;

namespace {

const std::filesystem::path& folder() {
    static const std::filesystem::path one = [] {
        const auto path = std::filesystem::temp_directory_path() / ("fernleaf-fuzz-" + std::to_string(getpid()));
        std::filesystem::create_directories(path / "language");
        return path;
    }();
    return one;
}

void put(const char* name, const std::string& bytes) { std::ofstream(folder() / name, std::ios::binary) << bytes; }

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const uint8_t* data, size_t size) {
    if (size == 0) return 0;
    static const auto weights = load_weights(FERNLEAF_SOURCE_DIR "/models");
    const std::string bytes(reinterpret_cast<const char*>(data) + 1, size - 1);
    switch (data[0] % 4) {
        case 0:
            static_cast<void>(static_cast<bool>(decode_head(bytes, **weights)));
            break;
        case 1:
            put("reader.weights.gz", bytes);
            static_cast<void>(static_cast<bool>(load_weights(folder())));
            break;
        case 2:
            put("rehearsal.gz", bytes);
            static_cast<void>(static_cast<bool>(load_rehearsal(folder())));
            break;
        default: {
            const size_t half = bytes.size() / 2;
            for (const char* name : {"xx.ngrams.gz", "language/xx.ngrams.gz"}) put(name, bytes.substr(0, half));
            for (const char* name : {"xx.words.gz", "language/xx.words.gz"}) put(name, bytes.substr(half));
            for (const auto& where : {folder(), folder() / "language"})
                if (auto language = Language::load(where, "xx")) {
                    Language::Context context = language->start();
                    language->step(context, U'a');
                    static_cast<void>(language->knows(U"frost"));
                }
        }
    }
    return 0;
}
