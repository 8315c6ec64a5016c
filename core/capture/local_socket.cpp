#include "capture/local_socket.h"

#include <poll.h>
#include <sys/socket.h>
#include <sys/un.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <optional>

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

constexpr int kMostWaiting = 4, kSendWaitMs = 2000;
constexpr size_t kPiece = size_t{64} * 1024;

std::optional<sockaddr_un> address_of(const fs::path& path) {
    sockaddr_un out{};
    out.sun_family = AF_UNIX;
    const std::string name = path.string();
    if (name.empty() || name.size() >= sizeof out.sun_path) return std::nullopt;
    std::memcpy(out.sun_path, name.c_str(), name.size() + 1);
    return out;
}

bool ready(int descriptor, short what, int wait_ms) {
    pollfd asked{descriptor, what, 0};
    return poll(&asked, 1, wait_ms) > 0;
}

class LocalLine : public PenTransport {
public:
    explicit LocalLine(int descriptor) : descriptor_(descriptor) {}
    ~LocalLine() override { close(descriptor_); }
    LocalLine(const LocalLine&) = delete;
    LocalLine& operator=(const LocalLine&) = delete;

    Status send(std::string_view bytes) override {
        while (!bytes.empty()) {
            if (!ready(descriptor_, POLLOUT, kSendWaitMs)) return Error{"The link is gone."};
            const ssize_t sent = ::send(descriptor_, bytes.data(), bytes.size(), MSG_NOSIGNAL | MSG_DONTWAIT);
            if (sent < 0 && (errno == EAGAIN || errno == EINTR)) continue;
            if (sent <= 0) return Error{"The link is gone."};
            bytes.remove_prefix(static_cast<size_t>(sent));
        }
        return Done{};
    }

    Heard hear(std::string& bytes, int wait_ms) override {
        if (!ready(descriptor_, POLLIN, wait_ms)) return Heard::nothing;
        std::array<char, kPiece> piece{};
        const ssize_t got = recv(descriptor_, piece.data(), piece.size(), MSG_DONTWAIT);
        if (got < 0 && (errno == EAGAIN || errno == EINTR)) return Heard::nothing;
        if (got <= 0) return Heard::end;
        bytes.append(piece.data(), static_cast<size_t>(got));
        return Heard::something;
    }

private:
    int descriptor_;
};

int new_socket() { return socket(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC, 0); }

}  // namespace

fs::path pens_folder() {
    if (const char* chosen = std::getenv("FERNLEAF_PENS")) return chosen;
    if (const char* runtime = std::getenv("XDG_RUNTIME_DIR")) return fs::path(runtime) / "fernleaf" / "pens";
    return fs::path("/tmp") / ("fernleaf-" + std::to_string(getuid())) / "pens";
}

std::vector<fs::path> pens_about() {
    std::vector<fs::path> out;
    std::error_code failed;
    for (fs::directory_iterator at(pens_folder(), failed), end; !failed && at != end; at.increment(failed))
        if (at->is_socket(failed)) out.push_back(at->path());
    std::ranges::sort(out);
    return out;
}

Result<std::unique_ptr<PenTransport>> connect_local(const fs::path& path) {
    const auto address = address_of(path);
    if (!address) return Error{"There can be no pen at " + path.string() + ": the path is too long."};
    const int descriptor = new_socket();
    if (descriptor < 0) return Error{std::string("No link can be made: ") + std::strerror(errno) + ".", true};
    auto line = std::make_unique<LocalLine>(descriptor);
    if (connect(descriptor, reinterpret_cast<const sockaddr*>(&*address), sizeof *address) != 0)
        return Error{"No pen answers at " + path.string() + ".", true};
    return std::unique_ptr<PenTransport>(std::move(line));
}

Result<std::unique_ptr<LocalListener>> LocalListener::open(const fs::path& path) {
    const auto address = address_of(path);
    if (!address) return Error{"There can be no pen at " + path.string() + ": the path is too long."};
    std::error_code failed;
    fs::create_directories(path.parent_path(), failed);
    if (connect_local(path)) return Error{"There is a pen at " + path.string() + " already."};
    // Nothing but a socket that was left behind is taken away.
    if (fs::is_socket(path, failed)) fs::remove(path, failed);
    const int descriptor = new_socket();
    if (descriptor < 0) return Error{std::string("No link can be made: ") + std::strerror(errno) + "."};
    if (bind(descriptor, reinterpret_cast<const sockaddr*>(&*address), sizeof *address) != 0 ||
        listen(descriptor, kMostWaiting) != 0) {
        const std::string why = std::strerror(errno);
        close(descriptor);
        return Error{"No pen can be at " + path.string() + ": " + why + "."};
    }
    return std::unique_ptr<LocalListener>(new LocalListener(descriptor, path));
}

LocalListener::~LocalListener() {
    close(descriptor_);
    std::error_code ignored;
    fs::remove(path_, ignored);
}

std::unique_ptr<PenTransport> LocalListener::accept(int wait_ms) {
    if (!ready(descriptor_, POLLIN, wait_ms)) return nullptr;
    const int line = accept4(descriptor_, nullptr, nullptr, SOCK_CLOEXEC);
    return line < 0 ? nullptr : std::make_unique<LocalLine>(line);
}

}  // namespace fernleaf
