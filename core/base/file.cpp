#include "base/file.h"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>

namespace fernleaf {
namespace {

class Descriptor {
public:
    explicit Descriptor(int fd) : fd_(fd) {}
    ~Descriptor() { ::close(fd_); }
    Descriptor(const Descriptor&) = delete;
    Descriptor& operator=(const Descriptor&) = delete;

private:
    int fd_;
};

}  // namespace

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
    if (whole && ::rename(part.c_str(), path.c_str()) == 0) return keep_names(path.parent_path());
    if (whole) reason = errno;
    if (fd >= 0) ::unlink(part.c_str());
    return Error{path.string() + " can't be written: " + std::strerror(reason) + ".",
                 reason == ENOSPC || reason == EDQUOT || reason == EIO};
}

Status keep_names(const std::filesystem::path& directory) {
    const std::filesystem::path where = directory.empty() ? "." : directory;
    const int fd = ::open(where.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    // Some file systems have nothing to do here and say so; and a directory may be written to without being readable.
    const bool kept = fd >= 0 ? ::fsync(fd) == 0 || errno == EINVAL || errno == ENOTSUP : errno == EACCES;
    const int reason = errno;
    if (fd >= 0) ::close(fd);
    if (kept) return Done{};
    return Error{where.string() + " can't be written: " + std::strerror(reason) + "."};
}

Result<std::string> read_regular(const std::filesystem::path& path, uintmax_t most_bytes) {
    const auto problem = [&](const char* what) { return Error{path.filename().string() + " " + what}; };
    const int fd = ::open(path.c_str(), O_RDONLY | O_NOFOLLOW | O_NONBLOCK | O_CLOEXEC);
    if (fd < 0) return problem(errno == ENOENT ? "is missing." : "can't be read.");
    const Descriptor closed_at_the_end(fd);
    struct stat about {};
    if (::fstat(fd, &about) != 0 || !S_ISREG(about.st_mode)) return problem("is no file.");
    if (static_cast<uintmax_t>(about.st_size) > most_bytes) return problem("is too large.");
    std::string bytes(static_cast<size_t>(about.st_size), '\0');
    size_t have = 0;
    while (have < bytes.size()) {
        const ssize_t n = ::read(fd, bytes.data() + have, bytes.size() - have);
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) break;
        have += static_cast<size_t>(n);
    }
    if (have < bytes.size()) return problem("can't be read whole.");
    return bytes;
}

}  // namespace fernleaf
