// Pens over local sockets (Unix domain, stream). Each pen listens at a socket of its own in one folder.
//
//   for (const std::filesystem::path& at : pens_about()) ...
//   auto line = connect_local(at);
//
//   auto listening = LocalListener::open(pens_folder() / "walnut.sock");     // the pen's end
//   std::unique_ptr<PenTransport> line = (*listening)->accept(100);          // null: nobody came
#pragma once

#include <filesystem>
#include <memory>
#include <vector>

#include "capture/pen_transport.h"

namespace fernleaf {

// Where pens are found: FERNLEAF_PENS, or fernleaf/pens in the person's folder for sockets (XDG_RUNTIME_DIR).
std::filesystem::path pens_folder();
std::vector<std::filesystem::path> pens_about();

Result<std::unique_ptr<PenTransport>> connect_local(const std::filesystem::path& socket);

class LocalListener {
public:
    // Takes the place of a socket that nobody listens at any more.
    static Result<std::unique_ptr<LocalListener>> open(const std::filesystem::path& socket);
    ~LocalListener();
    LocalListener(const LocalListener&) = delete;
    LocalListener& operator=(const LocalListener&) = delete;

    std::unique_ptr<PenTransport> accept(int wait_ms);

private:
    LocalListener(int descriptor, std::filesystem::path path) : descriptor_(descriptor), path_(std::move(path)) {}
    int descriptor_;
    std::filesystem::path path_;
};

}  // namespace fernleaf
