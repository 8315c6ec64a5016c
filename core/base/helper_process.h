// A program of Fernleaf's own that works in a process beside it: what it does wrong, or never finishes, ends with it.
//
//   auto helper = HelperProcess::start("fernleaf-scan", {"list"});
//   std::string said;
//   while ((*helper)->hear(said, 100) != HelperProcess::Heard::end) { ... }
//
// The helper hears nothing and tells on its standard output. To be used on one thread.
#pragma once

#include <sys/types.h>

#include <memory>
#include <string>
#include <vector>

#include "base/result.h"

namespace fernleaf {

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
    HelperProcess(pid_t process, int output) : process_(process), output_(output) {}

    pid_t process_;
    int output_;
};

}  // namespace fernleaf
