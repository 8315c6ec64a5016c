// The algebra program's own process: a line with an expression in, a line with what it comes to out. It ends when there
// is nothing more to read; who started it sees to its time and memory (math/algebra.h).
#include <giac/config.h>
#include <giac/giac.h>

#include <iostream>
#include <sstream>

int main() {
    giac::context context;
    std::ostringstream nobody;  // what it remarks on the way
    giac::logptr(&nobody, &context);
    for (std::string line; std::getline(std::cin, line);) {
        std::string out;
        try {
            const giac::gen asked(line, &context);
            out = giac::eval(asked, 1, &context).print(&context);
        } catch (const std::exception&) {
            out = "error";
        }
        std::cout << out << std::endl;
    }
    return 0;
}
