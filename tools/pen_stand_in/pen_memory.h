// The stand-in's memory: strokes that the computer has not kept yet, in a file, so that a pen that ends at any moment
// still has them.
//
//   auto memory = PenMemory::open("walnut.pen");
//   (*memory)->add(stroke);               // in the file when it returns
//   (*memory)->forget(40);
#pragma once

#include <cstdio>
#include <deque>
#include <filesystem>
#include <memory>

#include "base/result.h"
#include "capture/captured_stroke.h"

namespace fernleaf {

class PenMemory {
public:
    // A file of frames as the link has them, strokes and what was kept of them; a last one that is cut off is left out.
    static Result<std::unique_ptr<PenMemory>> open(const std::filesystem::path& file);
    ~PenMemory();
    PenMemory(const PenMemory&) = delete;
    PenMemory& operator=(const PenMemory&) = delete;

    const std::deque<CapturedStroke>& strokes() const { return strokes_; }
    uint64_t number() const { return number_; }  // of this memory; a new file is another one
    uint64_t last() const { return last_; }      // the number given last; 0: none
    size_t bytes() const { return bytes_; }      // that the strokes take
    // Gives it the next number. An error where the file can't be written; then it is not in the memory.
    Status add(CapturedStroke stroke);
    void forget(uint64_t up_to);

private:
    explicit PenMemory(std::FILE* file) : file_(file) {}
    bool append(const std::string& frame);

    std::FILE* file_;
    std::deque<CapturedStroke> strokes_;
    uint64_t number_ = 0, last_ = 0;
    size_t bytes_ = 0;
};

}  // namespace fernleaf
