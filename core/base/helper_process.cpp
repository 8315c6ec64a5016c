#include "base/helper_process.h"

#include <fcntl.h>
#include <poll.h>
#include <spawn.h>
#include <sys/wait.h>
#include <unistd.h>

#include <array>
#include <cerrno>
#include <csignal>
#include <cstdlib>
#include <filesystem>

namespace fernleaf {
namespace {

constexpr size_t kChunkBytes = 1 << 16;

std::filesystem::path helper_path(const std::string& program) {
    const char* chosen = std::getenv("FERNLEAF_HELPERS");
    return std::filesystem::path(chosen && *chosen ? chosen : FERNLEAF_HELPERS_DIRECTORY) / program;
}

}  // namespace

Result<std::unique_ptr<HelperProcess>> HelperProcess::start(const std::string& program,
                                                            const std::vector<std::string>& arguments) {
    const std::string path = helper_path(program);
    const Error missing{"A part of Fernleaf is missing: " + path + ". Install Fernleaf again."};
    std::array<int, 2> pipe{};
    if (pipe2(pipe.data(), O_CLOEXEC) != 0) return Error{"No more files can be opened. Close some and try again."};
    posix_spawn_file_actions_t actions;
    posix_spawn_file_actions_init(&actions);
    posix_spawn_file_actions_addopen(&actions, STDIN_FILENO, "/dev/null", O_RDONLY, 0);
    posix_spawn_file_actions_adddup2(&actions, pipe[1], STDOUT_FILENO);
    posix_spawn_file_actions_addopen(&actions, STDERR_FILENO, "/dev/null", O_WRONLY, 0);
    std::vector<std::string> words{path};
    words.insert(words.end(), arguments.begin(), arguments.end());
    std::vector<char*> argv;
    for (std::string& word : words) argv.push_back(word.data());
    argv.push_back(nullptr);
    pid_t process = 0;
    const int failed = posix_spawn(&process, path.c_str(), &actions, nullptr, argv.data(), environ);
    posix_spawn_file_actions_destroy(&actions);
    ::close(pipe[1]);
    if (failed != 0) {
        ::close(pipe[0]);
        return missing;
    }
    return std::unique_ptr<HelperProcess>(new HelperProcess(process, pipe[0]));
}

HelperProcess::~HelperProcess() {
    ::close(output_);
    kill(process_, SIGKILL);
    while (waitpid(process_, nullptr, 0) < 0 && errno == EINTR) {
    }
}

HelperProcess::Heard HelperProcess::hear(std::string& said, int wait_ms) {
    pollfd ready{output_, POLLIN, 0};
    if (const int many = poll(&ready, 1, wait_ms); many == 0 || (many < 0 && errno == EINTR)) return Heard::nothing;
    std::array<char, kChunkBytes> chunk{};
    const ssize_t got = read(output_, chunk.data(), chunk.size());
    if (got < 0 && errno == EINTR) return Heard::nothing;
    if (got <= 0) return Heard::end;
    said.append(chunk.data(), static_cast<size_t>(got));
    return Heard::something;
}

void HelperProcess::ask_to_stop() { kill(process_, SIGTERM); }

}  // namespace fernleaf
