// fernleaf-cli pen: takes what pens captured, tells what is known of them, forgets one.
#include <algorithm>
#include <fstream>
#include <iostream>
#include <set>

#include "base/text.h"
#include "capture/local_socket.h"
#include "cli/commands.h"
#include "cli/library_at.h"
#include "store/pen_keeper.h"

namespace fernleaf {
namespace {

constexpr char kComputer[] = "fernleaf-cli";

Result<std::string> passcode_in(const std::filesystem::path& file) {
    std::ifstream in(file);
    std::string line;
    if (!std::getline(in, line)) return Error{file.string() + ": no passcode can be read from it."};
    return trimmed(line);
}

// Links with the pen at a socket until it has nothing that is not kept.
Status sync(Library& library, const std::filesystem::path& socket, const std::string& passcode) {
    auto line = connect_local(socket);
    if (!line) return line.error();
    size_t strokes = 0;
    std::set<PageId> pages;
    LibraryKeeper keeper(library, [&](const KeptCaptures& kept) {
        for (const KeptCaptures::OnPage& page : kept.pages) {
            strokes += page.strokes.size();
            pages.insert(page.page);
            if (page.other != OtherNotebook::no)
                std::cerr << "page " << page.page
                          << " may be another notebook's of the same kind; open Fernleaf to part them\n";
        }
    });
    PenRequests requests;
    bool given = false;
    std::string wrong;
    PenLink link(keeper, kComputer, [&](const LinkStatus& status) {
        if (status.stage != LinkStage::locked) return;
        if (passcode.empty() || given)
            wrong = given ? status.pen.name + ": that is not its passcode (" + std::to_string(status.tries_left) +
                                " tries left)."
                          : status.pen.name + " asks for its passcode: --passcode-file.";
        else
            requests.give_passcode(passcode);
        given = true;
    });
    const Status status = run_pen_link(link, **line, requests, {}, [&](const LinkStatus& now) {
        return !wrong.empty() || (now.stage == LinkStage::linked && now.drained);
    });
    if (!wrong.empty()) return Error{wrong};
    if (!status) return Error{socket.string() + ": " + status.error().message};
    std::cout << link.status().pen.name << ": " << strokes << (strokes == 1 ? " stroke on " : " strokes on ")
              << pages.size() << (pages.size() == 1 ? " page" : " pages") << '\n';
    return Done{};
}

// The serial number of the pen at a socket, which tells it to anyone.
Result<std::string> serial_at(Library& library, const std::filesystem::path& socket) {
    auto line = connect_local(socket);
    if (!line) return line.error();
    LibraryKeeper keeper(library, [](const KeptCaptures&) {});
    PenRequests requests;
    PenLink link(keeper, kComputer, {});
    const Status status = run_pen_link(link, **line, requests, {}, [](const LinkStatus& now) { return now.answered; });
    if (!link.status().answered) return status ? Error{"No pen answers there."} : status.error();
    return link.status().pen.serial;
}

}  // namespace

int pen_command(const PenOptions& options) {
    auto library = existing_library(options.library);
    const auto fail = [](const Error& error) {
        std::cerr << "fernleaf-cli: " << error.message << '\n';
        return kSomeFailed;
    };
    if (!library) return fail(library.error());
    std::string asked = options.pen;
    if (options.action != PenAction::sync && !options.socket.empty()) {
        auto serial = serial_at(**library, options.socket);
        if (!serial) return fail({options.socket.string() + ": " + serial.error().message});
        asked = *std::move(serial);
    }
    const auto pens = (*library)->pens();
    if (!pens) return fail(pens.error());
    const auto is_asked = [&](const PenRecord& pen) { return pen.serial == asked || pen.name == asked; };
    if (options.action == PenAction::status) {
        for (const PenRecord& pen : *pens)
            if (asked.empty() || is_asked(pen))
                std::cout << pen.name << " / " << pen.serial << " / " << pen.kept << " strokes / battery "
                          << static_cast<int>(pen.state.battery) << " %\n";
        return kAllDone;
    }
    if (const auto why = (*library)->why_read_only()) return fail({*why});
    if (options.action == PenAction::forget) {
        if (asked.empty() && pens->size() > 1) return fail({"Several pens are paired with this library; say which."});
        const auto pen = asked.empty() ? pens->begin() : std::ranges::find_if(*pens, is_asked);
        if (pen == pens->end())
            return fail({asked.empty() ? "No pen is paired with this library."
                                       : "No pen \"" + asked + "\" is paired with this library."});
        if (const Status status = (*library)->forget_pen(pen->serial); !status) return fail(status.error());
        return kAllDone;
    }
    std::string passcode;
    if (!options.passcode_file.empty()) {
        auto read = passcode_in(options.passcode_file);
        if (!read) return fail(read.error());
        passcode = *std::move(read);
    }
    const std::vector<std::filesystem::path> sockets =
        options.socket.empty() ? pens_about() : std::vector{options.socket};
    if (sockets.empty()) return fail({"No pen is near. Switch it on, or name its socket: --socket."});
    int out = kAllDone;
    for (const std::filesystem::path& socket : sockets)
        if (const Status status = sync(**library, socket, passcode); !status) out = fail(status.error());
    return out;
}

}  // namespace fernleaf
