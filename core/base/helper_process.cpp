#include "base/helper_process.h"

#include <fcntl.h>
#include <poll.h>
#include <spawn.h>
#include <sys/mman.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include <array>
#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstdlib>
#include <filesystem>
#include <sstream>
#include <thread>

namespace fernleaf {
namespace {

constexpr size_t kChunkBytes = 1 << 16;
constexpr int kWaitMs = 20;

}  // namespace

std::string helper_program(const std::string& name) {
    const char* chosen = std::getenv("FERNLEAF_HELPERS");
    return std::filesystem::path(chosen && *chosen ? chosen : FERNLEAF_HELPERS_DIRECTORY) / name;
}

bool is_program(const std::string& path) { return access(path.c_str(), X_OK) == 0; }

Result<std::unique_ptr<HelperProcess>> HelperProcess::spawn(const std::string& at,
                                                            const std::vector<std::string>& arguments, int input) {
    std::array<int, 2> pipe{};
    if (pipe2(pipe.data(), O_CLOEXEC) != 0) return Error{"No more files can be opened. Close some and try again."};
    posix_spawn_file_actions_t actions;
    posix_spawn_file_actions_init(&actions);
    if (input >= 0)
        posix_spawn_file_actions_adddup2(&actions, input, STDIN_FILENO);
    else
        posix_spawn_file_actions_addopen(&actions, STDIN_FILENO, "/dev/null", O_RDONLY, 0);
    posix_spawn_file_actions_adddup2(&actions, pipe[1], STDOUT_FILENO);
    posix_spawn_file_actions_addopen(&actions, STDERR_FILENO, "/dev/null", O_WRONLY, 0);
    std::vector<std::string> words{at};
    words.insert(words.end(), arguments.begin(), arguments.end());
    std::vector<char*> argv;
    for (std::string& word : words) argv.push_back(word.data());
    argv.push_back(nullptr);
    pid_t process = 0;
    const int failed = posix_spawnp(&process, at.c_str(), &actions, nullptr, argv.data(), environ);
    posix_spawn_file_actions_destroy(&actions);
    ::close(pipe[1]);
    if (failed != 0) {
        ::close(pipe[0]);
        return std::unique_ptr<HelperProcess>();
    }
    return std::unique_ptr<HelperProcess>(new HelperProcess(process, pipe[0]));
}

Result<std::unique_ptr<HelperProcess>> HelperProcess::start(const std::string& program,
                                                            const std::vector<std::string>& arguments) {
    const std::string path = helper_program(program);
    auto helper = spawn(path, arguments, -1);
    if (helper && !*helper) return Error{"A part of Fernleaf is missing: " + path + ". Install Fernleaf again."};
    return helper;
}

HelperProcess::~HelperProcess() {
    ::close(output_);
    if (process_ == 0) return;  // it has ended, and another may have its number
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

bool is_installed(const std::string& program) {
    const char* path = std::getenv("PATH");
    std::istringstream folders(path ? path : "");
    for (std::string folder; std::getline(folders, folder, ':');)
        if (is_program(std::filesystem::path(folder) / program)) return true;
    return false;
}

Result<std::string> output_of(const std::string& program, const std::vector<std::string>& arguments,
                              const std::string& input, const ProcessLimits& limits, const CancelToken& cancel) {
    const int file = memfd_create("input", MFD_CLOEXEC);
    if (file < 0) return Error{"No more files can be opened. Close some and try again."};
    size_t written = 0;
    while (written < input.size()) {
        const ssize_t more = ::write(file, input.data() + written, input.size() - written);
        if (more <= 0) break;
        written += static_cast<size_t>(more);
    }
    lseek(file, 0, SEEK_SET);
    auto helper = HelperProcess::spawn(program, arguments, file);
    ::close(file);
    if (!helper) return helper.error();
    if (!*helper) return Error{"The program " + program + " is not installed."};
    const auto set = [&](__rlimit_resource what, rlim_t most) {
        const rlimit both{most, most};
        (void)prlimit((*helper)->process_, what, &both, nullptr);
    };
    set(RLIMIT_CPU, static_cast<rlim_t>(limits.time_ms) / 1000 + 1);
    set(RLIMIT_AS, limits.memory_bytes);
    std::string said;
    const auto last = std::chrono::steady_clock::now() + std::chrono::milliseconds(limits.time_ms);
    const Error late{"The program " + program + " took too long and was stopped."};
    for (;;) {
        if ((*helper)->hear(said, kWaitMs) == HelperProcess::Heard::end) break;
        if (cancel.cancelled()) return Error{"Cancelled."};
        if (std::chrono::steady_clock::now() > last) return late;
        if (said.size() > limits.output_bytes)
            return Error{"The program " + program + " told too much and was stopped."};
    }
    // It may go on though it tells nothing any more.
    int status = 0;
    while (waitpid((*helper)->process_, &status, WNOHANG) == 0) {
        if (std::chrono::steady_clock::now() > last) return late;
        std::this_thread::sleep_for(std::chrono::milliseconds(1));
    }
    (*helper)->process_ = 0;
    if (!WIFEXITED(status) || WEXITSTATUS(status) != 0)
        return Error{"The program " + program + " could not use what it was given."};
    return said;
}

}  // namespace fernleaf
