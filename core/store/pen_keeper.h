// Where a pen link keeps what it brings: a library.
//
//   LibraryKeeper keeper(library, [](const KeptCaptures& kept) { ... });
//   PenLink link(keeper, "desk", ...);
#pragma once

#include <functional>

#include "capture/pen_link.h"
#include "store/library.h"

namespace fernleaf {

// kept: called on the link's thread with what has just come onto pages; writing: with what is under the pen.
class LibraryKeeper : public CaptureKeeper {
public:
    LibraryKeeper(Library& library, std::function<void(const KeptCaptures&)> kept,
                  std::function<void(const CapturedStroke&)> writing = {})
        : library_(library), kept_(std::move(kept)), writing_(std::move(writing)) {}

    Result<PenRecord> pen(const std::string& serial) override { return library_.pen(serial); }
    Status remember(const PenRecord& pen) override { return library_.remember_pen(pen); }
    Status begin_anew(const std::string& serial, uint64_t memory) override {
        return library_.begin_pen_anew(serial, memory);
    }
    void writing(const CapturedStroke& so_far) override {
        if (writing_) writing_(so_far);
    }
    Status keep(const std::string& serial, const std::vector<CapturedStroke>& strokes) override {
        const auto kept = library_.keep_captures(serial, strokes);
        if (!kept) return kept.error();
        kept_(*kept);
        return Done{};
    }

private:
    Library& library_;
    std::function<void(const KeptCaptures&)> kept_;
    std::function<void(const CapturedStroke&)> writing_;
};

}  // namespace fernleaf
