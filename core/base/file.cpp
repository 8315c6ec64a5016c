#include "base/file.h"

#include <fcntl.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>

namespace fernleaf {

Status write_whole(const std::filesystem::path& path, std::string_view bytes) {
    const std::filesystem::path part = path.string() + ".part";
    const int fd = ::open(part.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
    size_t written = 0;
    while (fd >= 0 && written < bytes.size()) {
        const ssize_t n = ::write(fd, bytes.data() + written, bytes.size() - written);
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) break;
        written += static_cast<size_t>(n);
    }
    const bool whole = fd >= 0 && written == bytes.size() && ::fsync(fd) == 0;
    int reason = errno;
    if (fd >= 0) ::close(fd);
    if (whole && ::rename(part.c_str(), path.c_str()) == 0) return Done{};
    if (whole) reason = errno;
    if (fd >= 0) ::unlink(part.c_str());
    return Error{path.string() + " can't be written: " + std::strerror(reason) + "."};
}

}  // namespace fernleaf
