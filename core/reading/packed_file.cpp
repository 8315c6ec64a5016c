#include "reading/packed_file.h"

#include <zlib.h>

namespace fernleaf {
namespace {

constexpr size_t kLargest = 200'000'000;

}  // namespace

Result<std::string> read_packed(const std::filesystem::path& path) {
    const gzFile file = gzopen(path.c_str(), "rb");
    if (!file) return Error{"The reader's file " + path.string() + " is missing."};
    std::string out;
    char buffer[1 << 16];
    int read = 0;
    while ((read = gzread(file, buffer, sizeof buffer)) > 0 && out.size() < kLargest)
        out.append(buffer, static_cast<size_t>(read));
    int problem = Z_OK;
    gzerror(file, &problem);
    const bool whole = read == 0 && problem == Z_OK && gzeof(file);
    gzclose(file);
    if (!whole) return Error{"The reader's file " + path.string() + " is damaged."};
    return out;
}

}  // namespace fernleaf
