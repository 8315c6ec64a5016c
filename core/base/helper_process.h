// A program of Fernleaf's own that works in a process beside it: what it does wrong, or never finishes, ends with it.
//
//   auto helper = HelperProcess::start("fernleaf-scan", {"list"});
//   std::string said;
//   while ((*helper)->hear(said, 100) != HelperProcess::Heard::end) { ... }
//
// The helper hears nothing and tells on its standard output. To be used on one thread.
//
//   auto plain = output_of("dot", {"-Tplain"}, graph);   // a program of the system, under limits
#pragma once

#include <sys/types.h>

#include <memory>
#include <string>
#include <vector>

#include "base/cancel.h"
#include "base/result.h"

namespace fernleaf {

struct ProcessLimits;

class HelperProcess {
public:
    enum class Heard { something, nothing, end };

    // Programs are looked for in the directory FERNLEAF_HELPERS names, else in the one built in.
    static Result<std::unique_ptr<HelperProcess>> start(const std::string& program,
                                                        const std::vector<std::string>& arguments);
    ~HelperProcess();  // ends it, if it has not ended
    HelperProcess(const HelperProcess&) = delete;
    HelperProcess& operator=(const HelperProcess&) = delete;

    // Appends what it tells meanwhile. End: it will tell nothing more.
    Heard hear(std::string& said, int wait_ms);
    void ask_to_stop();  // SIGTERM; it may finish what must be finished

private:
    friend Result<std::string> output_of(const std::string&, const std::vector<std::string>&, const std::string&,
                                         const ProcessLimits&, const CancelToken&);
    // at: a path, or a name to look for on PATH. input: a file to read from; -1: nothing. Null where there is no
    // program.
    static Result<std::unique_ptr<HelperProcess>> spawn(const std::string& at,
                                                        const std::vector<std::string>& arguments, int input);
    HelperProcess(pid_t process, int output) : process_(process), output_(output) {}

    pid_t process_;
    int output_;
};

// Where a program of Fernleaf's own is, and whether it is there.
std::string helper_program(const std::string& name);
bool is_program(const std::string& path);

// Whether PATH has it.
bool is_installed(const std::string& program);

struct ProcessLimits {
    int time_ms = 5000;
    size_t memory_bytes = size_t{512} << 20;
    size_t output_bytes = size_t{16} << 20;
};

// What a program tells when it is given an input: one of the system, found on PATH, or one at a path. An error when it
// is missing, fails, takes longer or tells more than it may, or is cancelled.
Result<std::string> output_of(const std::string& program, const std::vector<std::string>& arguments,
                              const std::string& input, const ProcessLimits& limits = {},
                              const CancelToken& cancel = {});

}  // namespace fernleaf
